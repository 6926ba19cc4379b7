import type { SettingsInput } from './settings'

/** What a new event type can start as; all of it can be changed afterwards. */

export const shapes = ['shortCall', 'meeting', 'group', 'interview'] as const
export type Shape = (typeof shapes)[number]

interface ShapeRow {
  /** How many hosts sit in together. */
  chairs: 1 | 2
  settings: Pick<SettingsInput, 'durations' | 'startEveryMinutes' | 'bufferAfterMinutes' | 'leadTimeMinutes' | 'seats'>
}

export const shapeTable: Readonly<Record<Shape, ShapeRow>> = {
  shortCall: { chairs: 1, settings: { durations: [15], startEveryMinutes: 15, bufferAfterMinutes: 0, leadTimeMinutes: 120, seats: 1 } },
  meeting: { chairs: 1, settings: { durations: [30], startEveryMinutes: 30, bufferAfterMinutes: 0, leadTimeMinutes: 240, seats: 1 } },
  group: { chairs: 1, settings: { durations: [60], startEveryMinutes: 60, bufferAfterMinutes: 0, leadTimeMinutes: 1440, seats: 8 } },
  interview: { chairs: 2, settings: { durations: [45], startEveryMinutes: 60, bufferAfterMinutes: 15, leadTimeMinutes: 1440, seats: 1 } },
}
