import { Temporal } from 'temporal-polyfill'

/**
 * Taken time of a recurring entry worked out plainly: every minute or second that a rule could mean is looked at, day by day
 * from the year of its first instance on, and is measured by each of its parts.
 */

export interface PlainRule {
  freq: 'YEARLY' | 'MONTHLY' | 'WEEKLY' | 'DAILY' | 'HOURLY' | 'MINUTELY' | 'SECONDLY'
  interval: number
  count?: number
  /** As it stands in the text. */
  until?: string
  wkst: string
  bymonth?: number[]
  byweekno?: number[]
  byyearday?: number[]
  bymonthday?: number[]
  byday?: string[]
  byhour?: number[]
  byminute?: number[]
  bysecond?: number[]
  bysetpos?: number[]
}

/** `end` and the times of changes are wall-clock times like `2027-03-08T10:00:00`, or dates. */
export interface PlainEntry {
  zone: string
  start: string
  /** A DTEND, or a DURATION in days and seconds. */
  end?: string
  duration?: { days: number, seconds: number }
  rules: PlainRule[]
  more: string[]
  except: string[]
  overrides: { replaces: string, start: string, end: string, andLater: boolean, state: 'counts' | 'cancelled' | 'transparent' }[]
}

const names = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU']
const isDate = (text: string) => text.length === 10
const wall = (text: string) => Temporal.PlainDateTime.from(isDate(text) ? `${text}T00:00:00` : text)

/** Seconds since the epoch. */
function instant(text: string, zone: string): number {
  if (isDate(text)) return Temporal.PlainDate.from(text).toZonedDateTime(zone).epochMilliseconds / 1000
  return wall(text).toZonedDateTime(zone, { disambiguation: 'compatible' }).epochMilliseconds / 1000
}

/** Intervals within [from, to), merged. */
export function plainTaken(entry: PlainEntry, from: number, to: number): number[] {
  const { zone, overrides } = entry
  const found: [number, number][] = []
  for (const { start, end, state } of overrides) if (state === 'counts') found.push([instant(start, zone), instant(end, zone)])
  const replaced = new Set(overrides.map(({ replaces }) => instant(replaces, zone)))
  for (const start of instances(entry, to)) {
    if (replaced.has(instant(start, zone))) continue
    const change = overrides.filter(({ andLater, replaces }) => andLater && instant(replaces, zone) <= instant(start, zone))
      .sort((a, b) => instant(a.replaces, zone) - instant(b.replaces, zone)).at(-1)
    if (!change) {
      found.push([instant(start, zone), endOf(entry, start)])
    } else if (change.state === 'counts') {
      const moved = wall(start).add(wall(change.replaces).until(wall(change.start), { largestUnit: 'seconds' }))
      const text = isDate(start) ? moved.toPlainDate().toString() : moved.toString({ smallestUnit: 'second' })
      found.push([instant(text, zone), endOf({ ...entry, start: change.start, end: change.end }, text)])
    }
  }
  const merged: number[] = []
  const cut = found.map(([a, b]): [number, number] => [Math.max(a, from), Math.min(b, to)]).filter(([a, b]) => a < b)
  for (const [start, end] of cut.sort((a, b) => a[0] - b[0])) {
    const last = merged.at(-1)
    if (last !== undefined && start <= last) merged[merged.length - 1] = Math.max(last, end)
    else merged.push(start, end)
  }
  return merged
}

function endOf({ zone, start, end, duration }: PlainEntry, at: string): number {
  if (isDate(at)) {
    const days = end ? Temporal.PlainDate.from(start).until(Temporal.PlainDate.from(end)).days : duration?.days ?? 1
    return instant(Temporal.PlainDate.from(at).add({ days: Math.max(1, days) }).toString(), zone)
  }
  if (end) return instant(at, zone) + instant(end, zone) - instant(start, zone)
  if (!duration) return instant(at, zone)
  const day = duration.days === 0 ? instant(at, zone) : instant(wall(at).add({ days: duration.days }).toString({ smallestUnit: 'second' }), zone)
  return day + duration.seconds
}

/** Where instances start, as wall-clock texts, up to a little after an instant. */
export function instances(entry: PlainEntry, to: number): string[] {
  const { zone, start, rules, more, except } = entry
  const last = Temporal.Instant.fromEpochMilliseconds(to * 1000).toZonedDateTimeISO(zone).toPlainDate().add({ days: 3 })
  const all = new Map<number, string>()
  const add = (text: string) => all.set(instant(text, zone), text)
  add(start)
  for (const text of more) add(text)
  for (const rule of rules) {
    const later = matches(rule, start, last).filter(text => text > start)
    const counted = rule.count === undefined ? later : later.slice(0, rule.count - 1)
    for (const text of counted) if (!isOver(rule.until, text, zone)) add(text)
  }
  const isExcept = (other: string, at: number, text: string) => (isDate(other) ? text.slice(0, 10) === other : instant(other, zone) === at)
  return [...all].filter(([at, text]) => !except.some(other => isExcept(other, at, text))).map(([, text]) => text)
}

function isOver(until: string | undefined, text: string, zone: string): boolean {
  if (until === undefined) return false
  const [, y = '', m = '', d = '', time = '', utc = ''] = /^(\d{4})(\d\d)(\d\d)(?:T(\d{6})(Z?))?$/.exec(until) ?? []
  const date = `${y}-${m}-${d}`
  if (time === '') return text.slice(0, 10) > date
  const whole = `${date}T${time.slice(0, 2)}:${time.slice(2, 4)}:${time.slice(4)}`
  return utc ? instant(text, zone) > Date.parse(`${whole}Z`) / 1000 : text > whole
}

/** All that a rule names from the year of its start on to that of a date, by period, as BYSETPOS counts from both ends of one. */
function matches(rule: PlainRule, start: string, last: Temporal.PlainDate): string[] {
  const periods = new Map<number, string[]>()
  const isShort = ['HOURLY', 'MINUTELY', 'SECONDLY'].includes(rule.freq)
  const first = wall(start).toPlainDate()
  const begin = isShort ? first : first.with({ month: 1, day: 1 })
  const end = isShort ? last : last.add({ days: 7 }).with({ month: 12, day: 31 })
  for (let day = begin; Temporal.PlainDate.compare(day, end) <= 0; day = day.add({ days: 1 })) {
    if (!fits(rule, day, first)) continue
    for (const text of isDate(start) ? [day.toString()] : timesOf(rule, day, start)) {
      const period = periodOf(rule, text, start)
      if (period < 0 || period % rule.interval !== 0) continue
      periods.set(period, [...periods.get(period) ?? [], text])
    }
  }
  return [...periods.values()].flatMap(texts => texts.sort().filter((_, index) =>
    !rule.bysetpos || rule.bysetpos.includes(index + 1) || rule.bysetpos.includes(index - texts.length))).sort()
}

function fits(rule: PlainRule, day: Temporal.PlainDate, first: Temporal.PlainDate): boolean {
  const { freq, bymonth, byweekno, byyearday, bymonthday, byday, wkst } = rule
  const counts = (list: number[], value: number, length: number) => list.some(item => (item > 0 ? item : length + 1 + item) === value)
  if (bymonth && !bymonth.includes(day.month)) return false
  if (bymonthday && !counts(bymonthday, day.day, day.daysInMonth)) return false
  if (byyearday && !counts(byyearday, day.dayOfYear, day.daysInYear)) return false
  if (byweekno) {
    const { number, many } = week(day, wkst)
    if (!counts(byweekno, number, many)) return false
  }
  if (byday && !byday.some(text => isWeekday(rule, text, day))) return false
  const isNamed = byweekno ?? byyearday ?? bymonthday ?? byday
  if (freq === 'YEARLY' && !isNamed) return day.day === first.day && (bymonth !== undefined || day.month === first.month)
  if (freq === 'YEARLY' && byweekno && !byyearday && !bymonthday && !byday) return day.dayOfWeek === first.dayOfWeek
  if (freq === 'MONTHLY' && !isNamed) return day.day === first.day
  return freq !== 'WEEKLY' || isNamed !== undefined || day.dayOfWeek === first.dayOfWeek
}

/** All dates of the month or year with that weekday are listed, and the one that is meant is looked for. */
function isWeekday({ freq, bymonth, byweekno }: PlainRule, text: string, day: Temporal.PlainDate): boolean {
  const nth = Number(text.slice(0, -2))
  if (names[day.dayOfWeek - 1] !== text.slice(-2)) return false
  if (nth === 0 || byweekno || !['YEARLY', 'MONTHLY'].includes(freq)) return true
  const inMonth = freq === 'MONTHLY' || bymonth !== undefined
  const all: string[] = []
  const [from, many] = inMonth ? [day.with({ day: 1 }), day.daysInMonth] : [day.with({ month: 1, day: 1 }), day.daysInYear]
  for (let index = 0; index < many; index++) {
    const other = from.add({ days: index })
    if (other.dayOfWeek === day.dayOfWeek) all.push(other.toString())
  }
  return all.at(nth > 0 ? nth - 1 : nth) === day.toString()
}

/** Weeks belong to the year with four of their days; they are counted one by one from the first. */
function week(day: Temporal.PlainDate, wkst: string): { number: number, many: number } {
  const first = weekStart(day, wkst)
  const { year } = first.add({ days: 3 })
  const begins = (of: number) => weekStart(Temporal.PlainDate.from({ year: of, month: 1, day: 4 }), wkst)
  const between = (a: Temporal.PlainDate, b: Temporal.PlainDate) => Math.round(a.until(b, { largestUnit: 'days' }).days / 7)
  return { number: between(begins(year), first) + 1, many: between(begins(year), begins(year + 1)) }
}

function weekStart(day: Temporal.PlainDate, wkst: string): Temporal.PlainDate {
  let at = day
  while (names[at.dayOfWeek - 1] !== wkst) at = at.subtract({ days: 1 })
  return at
}

function timesOf({ freq, byhour, byminute, bysecond }: PlainRule, day: Temporal.PlainDate, start: string): string[] {
  const { hour, minute, second } = wall(start)
  const all = (most: number) => Array.from({ length: most }, (_, index) => index)
  const hours = byhour ?? (['HOURLY', 'MINUTELY', 'SECONDLY'].includes(freq) ? all(24) : [hour])
  const minutes = byminute ?? (['MINUTELY', 'SECONDLY'].includes(freq) ? all(60) : [minute])
  const seconds = bysecond ?? (freq === 'SECONDLY' ? all(60) : [second])
  const two = (value: number) => String(value).padStart(2, '0')
  return hours.flatMap(h => minutes.flatMap(m => seconds.map(s => `${day.toString()}T${two(h)}:${two(m)}:${two(s)}`)))
}

function periodOf({ freq, wkst }: PlainRule, text: string, start: string): number {
  const [at, from] = [wholeSeconds(text), wholeSeconds(start)]
  if (freq === 'SECONDLY') return at - from
  if (freq === 'MINUTELY') return Math.floor(at / 60) - Math.floor(from / 60)
  if (freq === 'HOURLY') return Math.floor(at / 3600) - Math.floor(from / 3600)
  const [day, first] = [wall(text).toPlainDate(), wall(start).toPlainDate()]
  if (freq === 'YEARLY') return day.year - first.year
  if (freq === 'MONTHLY') return (day.year - first.year) * 12 + day.month - first.month
  if (freq === 'DAILY') return first.until(day, { largestUnit: 'days' }).days
  return weekStart(first, wkst).until(weekStart(day, wkst), { largestUnit: 'days' }).days / 7
}

/** As if the clocks were those of UTC. */
function wholeSeconds(text: string): number {
  return Date.parse(isDate(text) ? `${text}T00:00:00Z` : `${text}Z`) / 1000
}
