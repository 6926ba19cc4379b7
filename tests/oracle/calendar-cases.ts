import fc from 'fast-check'
import { Temporal } from 'temporal-polyfill'
import { instances, type PlainEntry, type PlainRule } from './calendar'

/** Random recurring entries, as values and as iCalendar text. */

export interface CalendarCase {
  entry: PlainEntry
  from: number
  to: number
}

const zones = [
  'UTC', 'Europe/Berlin', 'America/New_York', 'America/St_Johns', 'Australia/Lord_Howe', 'Africa/Casablanca', 'Asia/Kathmandu', 'Pacific/Apia',
]
const names = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU']

/** Mostly left out, as rules that name everything name nothing. */
const some = <T>(values: fc.Arbitrary<T>, most = 3) => fc.oneof(
  { weight: 4, arbitrary: fc.constant(undefined) }, { weight: 1, arbitrary: fc.uniqueArray(values, { minLength: 1, maxLength: most }) },
)
const signed = (most: number) => fc.integer({ min: 1, max: most }).chain(value => fc.constantFrom(value, value, -value))
const often = <T>(values: fc.Arbitrary<T>) => fc.option(fc.uniqueArray(values, { minLength: 1, maxLength: 3 }), { nil: undefined, freq: 2 })
const date = fc.integer({ min: 0, max: 1000 }).map(days => Temporal.PlainDate.from('2024-02-20').add({ days }).toString())
const clock = fc.constantFrom('09:00:00', '02:30:00', '00:00:00', '23:45:00', '01:15:30', '03:00:00', '12:20:00')
const position = fc.oneof(
  { weight: 5, arbitrary: fc.constant(undefined) }, { weight: 1, arbitrary: fc.uniqueArray(signed(4), { minLength: 1, maxLength: 2 }) },
)

/** A rule that may end some days after its first instance. */
type DrawnRule = PlainRule & { after?: number, time?: string, form?: 'date' | 'local' | 'utc' }

const longRule: fc.Arbitrary<DrawnRule> = fc.record({
  freq: fc.constantFrom('YEARLY' as const, 'MONTHLY' as const, 'WEEKLY' as const, 'DAILY' as const),
  interval: fc.constantFrom(1, 1, 1, 2, 3, 5),
  wkst: fc.constantFrom('MO', 'MO', 'SU', 'TH'),
  bymonth: some(fc.integer({ min: 1, max: 12 }), 4),
  bymonthday: some(signed(31)),
  byyearday: some(signed(366)),
  byweekno: some(signed(53)),
  byday: often(fc.tuple(fc.constantFrom(0, 0, 1, 2, 5, -1, -2), fc.constantFrom(...names)).map(([nth, name]) => `${nth === 0 ? '' : nth}${name}`)),
  byhour: some(fc.constantFrom(0, 2, 3, 9, 23)),
  byminute: some(fc.constantFrom(0, 30, 59), 2),
  bysetpos: position,
  last: fc.oneof(
    fc.constant({}), fc.record({ count: fc.integer({ min: 1, max: 20 }) }),
    fc.record({ after: fc.integer({ min: 0, max: 120 }), time: clock, form: fc.constantFrom('date' as const, 'local' as const, 'utc' as const) }),
  ),
}).map(({ last, ...rule }) => {
  const isYearly = rule.freq === 'YEARLY'
  return {
    ...rule, ...last,
    // What RFC 5545 §3.3.10 forbids is left out.
    byweekno: isYearly ? rule.byweekno : undefined,
    byyearday: isYearly ? rule.byyearday : undefined,
    bymonthday: rule.freq === 'WEEKLY' ? undefined : rule.bymonthday,
    byday: isYearly || rule.freq === 'MONTHLY' ? rule.byday : rule.byday?.map(text => text.slice(-2)),
  } as DrawnRule
})

const shortRule: fc.Arbitrary<DrawnRule> = fc.record({
  freq: fc.constantFrom('HOURLY' as const, 'HOURLY' as const, 'MINUTELY' as const, 'MINUTELY' as const, 'SECONDLY' as const),
  interval: fc.constantFrom(1, 2, 7, 45, 90),
  wkst: fc.constant('MO'),
  bymonth: some(fc.integer({ min: 1, max: 12 }), 8),
  byday: some(fc.constantFrom(...names), 4),
  byhour: some(fc.integer({ min: 0, max: 23 }), 6),
  byminute: some(fc.integer({ min: 0, max: 59 }), 3),
  bysecond: some(fc.constantFrom(0, 15, 59), 2),
  bysetpos: position,
  count: fc.option(fc.integer({ min: 1, max: 200 }), { nil: undefined }),
}).map(rule => ({
  ...rule,
  // Every minute or second of a whole day would be looked at.
  ...(rule.freq === 'MINUTELY' ? { byhour: rule.byhour ?? [2, 9, 23] } : {}),
  ...(rule.freq === 'SECONDLY' ? { interval: rule.interval * 60, byhour: rule.byhour?.slice(0, 1) ?? [9] } : {}),
}) as DrawnRule)

const lengths = fc.constantFrom(0, 20, 900, 900, 3600, 3600, 5400, 5400, 86_400, 100_000, 259_200)

export const calendarCases: fc.Arbitrary<CalendarCase> = fc.record({
  zone: fc.constantFrom(...zones),
  isDate: fc.boolean(),
  day: date,
  time: clock,
  isShort: fc.integer({ min: 0, max: 5 }).map(value => value === 0),
  long: fc.oneof({ weight: 6, arbitrary: fc.tuple(longRule) }, { weight: 1, arbitrary: fc.array(longRule, { maxLength: 2 }) }),
  short: shortRule,
  length: lengths,
  ending: fc.constantFrom('end', 'end', 'end', 'duration', 'duration', 'none'),
  more: fc.array(fc.tuple(fc.integer({ min: 0, max: 400 }), clock), { maxLength: 3 }),
  except: fc.array(fc.tuple(fc.nat(40), fc.constantFrom('exact', 'exact', 'date', 'beside')), { maxLength: 3 }),
  overrides: fc.array(fc.record({
    at: fc.nat(40), isBeside: fc.integer({ min: 0, max: 7 }).map(value => value === 0), length: lengths, andLater: fc.boolean(),
    shift: fc.constantFrom(0, 3600, -1800, 86_400, -90_000),
    state: fc.constantFrom('counts' as const, 'counts' as const, 'cancelled' as const, 'transparent' as const),
  }), { maxLength: 3 }),
  ahead: fc.oneof(fc.integer({ min: -5, max: 40 }), fc.integer({ min: -20, max: 500 })),
  days: fc.integer({ min: 1, max: 70 }),
}).map((given) => {
  const { zone, day, time, isShort } = given
  const isDate = given.isDate && !isShort
  const start = isDate ? day : `${day}T${time}`
  const plus = (text: string, seconds: number) => {
    const moved = Temporal.PlainDateTime.from(text.length === 10 ? `${text}T00:00:00` : text).add({ seconds })
    return text.length === 10 ? moved.toPlainDate().toString() : moved.toString({ smallestUnit: 'second' })
  }
  const days = Math.floor(given.length / 86_400)
  const entry: PlainEntry = {
    zone, start,
    ...(given.ending === 'end' ? { end: plus(start, given.length) } : {}),
    ...(given.ending === 'duration' ? { duration: { days, seconds: isDate ? 0 : given.length - days * 86_400 } } : {}),
    rules: (isShort ? [given.short] : given.long).map(({ after, time: at, form, ...rule }) => {
      const until = after === undefined ? '' : compact(plus(day, after * 86_400))
      return after === undefined ? rule : { ...rule, until: form === 'date' ? until : `${until}T${compact(at ?? '')}${form === 'utc' ? 'Z' : ''}` }
    }),
    more: given.more.map(([after, at]) => (isDate ? plus(day, after * 86_400) : `${plus(day, (isShort ? after % 3 : after) * 86_400)}T${at}`)),
    except: [],
    overrides: [],
  }
  const from = Date.parse(`${plus(day, (isShort ? given.ahead % 3 : given.ahead) * 86_400)}T07:10:00Z`) / 1000
  const to = from + (isShort ? 1 + given.days % 2 : given.days) * 86_400
  const all = instances(entry, to)
  const pick = (index: number) => all[Math.max(0, all.length - 1 - index)] ?? start
  for (const [index, how] of given.except) {
    const picked = pick(index)
    entry.except.push(how === 'date' ? picked.slice(0, 10) : how === 'beside' && !isDate ? plus(picked, 1020) : picked)
  }
  const taken = new Set<string>()
  for (const { at, isBeside, shift, length, andLater, state } of given.overrides) {
    const replaces = isBeside && !isDate ? plus(pick(at), 1020) : pick(at)
    const moved = plus(replaces, isDate ? Math.round(shift / 86_400) * 86_400 : shift)
    const end = plus(moved, isDate ? Math.max(86_400, length) : length)
    if (!taken.has(replaces)) entry.overrides.push({ replaces, start: moved, end, andLater, state })
    taken.add(replaces)
  }
  return { entry, from, to }
})

function compact(text: string): string {
  return text.replaceAll(/[-:]/g, '')
}

/** The entry as a calendar file. */
export function calendarFileOf({ zone, start, end, duration, rules, more, except, overrides }: PlainEntry): string {
  const moment = (name: string, text: string, parameters = '') =>
    (text.length === 10 ? `${name};VALUE=DATE${parameters}:${compact(text)}` : `${name};TZID=${zone}${parameters}:${compact(text)}`)
  const states = { counts: 'STATUS:CONFIRMED', cancelled: 'STATUS:CANCELLED', transparent: 'TRANSP:TRANSPARENT' }
  return [
    'BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Test//EN', `X-WR-TIMEZONE:${zone}`,
    'BEGIN:VEVENT', 'UID:series@test.example', 'SUMMARY:Weekly round', moment('DTSTART', start),
    ...(end ? [moment('DTEND', end)] : []),
    ...(duration ? [`DURATION:P${duration.days}D${duration.seconds > 0 ? `T${duration.seconds}S` : ''}`] : []),
    ...rules.map(ruleText), ...more.map(text => moment('RDATE', text)), ...except.map(text => moment('EXDATE', text)), 'END:VEVENT',
    ...overrides.flatMap(({ replaces, start: from, end: to, andLater, state }) => [
      'BEGIN:VEVENT', 'UID:series@test.example', moment('RECURRENCE-ID', replaces, andLater ? ';RANGE=THISANDFUTURE' : ''),
      moment('DTSTART', from), moment('DTEND', to), states[state], 'END:VEVENT',
    ]),
    'END:VCALENDAR', '',
  ].join('\r\n')
}

function ruleText(rule: PlainRule): string {
  const parts = Object.entries(rule).filter(([, value]) => value !== undefined && String(value) !== '')
  return `RRULE:${parts.map(([name, value]) => `${name.toUpperCase()}=${String(value)}`).join(';')}`
}
