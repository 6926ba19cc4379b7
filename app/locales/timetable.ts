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
  earlier: 'Earlier',
  later: 'Later',
  daysFromTo: (monthDay: string | number, monthDay2: string | number) => `${monthDay} to ${monthDay2}`,
  noTimesFromTo: (monthDay: string | number, monthDay2: string | number) => `No times from ${monthDay} to ${monthDay2}.`,
  timesByDayAndHour: 'Times that can be booked, one row a day and one column an hour',
  hideTheTimesAtNight: 'Hide the times at night',
  alsoShowAtNight: (plural: string | number) => `Also show ${plural} at night`,
  readingTheTimetable: (clockChange: string | number) => `Minutes past the hour, as in a railway timetable. ${clockChange}`,
  clockChangeAhead: (day: string | number, zone: string | number, detail: string | number) => `On ${day} ${zone} moves its clocks ${detail}; later times already take that into account.`,
} as const
