/** The panels of the bench, each of which edits a part of an event type. */
export const panels = [
  'name',
  'duration',
  'place',
  'chairs',
  'hours',
  'leadTime',
  'horizon',
  'startEvery',
  'buffers',
  'limits',
  'holds',
  'seats',
  'approval',
  'guests',
  'clientTerms',
  'questions',
  'afterwards',
  'address',
  'team',
  'history',
] as const
export type Panel = (typeof panels)[number]
