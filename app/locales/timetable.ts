import { plural } from '~~/core/time/format'

/** What these screens say. */
export const texts = {
  timeCount: (count: number) => plural(count, 'time'),
  days: 'Days',
  timeBesideIt: (zone: string | number, zone2: string | number) => `${zone} time, ${zone2} beside it`,
  dayAfter: '\nday after',
  dayBefore: '\nday before',
  to: (weekday: string | number) => ` to ${weekday} `,
  noTimesWhyNot: 'No times: why not?',
  noTimes: 'No times',
  level: 'level',
  clocksChangeNow: (zone: string | number, zoneDifference: string | number) => `clocks change: ${zone} now ${zoneDifference}`,
  nothingFromWhyNot: (dayWords: string | number, time: string | number) => `Nothing ${dayWords} from ${time}: why not?`,
  starts: 'starts',
} as const
