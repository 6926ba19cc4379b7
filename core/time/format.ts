import { DAY, civilOf, MINUTE } from './civil'
import { zoneOf } from './zone'

/**
 * Times as people say them, in their locale and zone. Instants are integer seconds since the epoch.
 */

const formats = new Map<string, Intl.DateTimeFormat>()
/** Readers name their own locale, so there is no end of them. */
const MOST_FORMATS = 200

function format(locale: string, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const key = `${locale} ${JSON.stringify(options)}`
  let made = formats.get(key)
  if (!made) {
    if (formats.size >= MOST_FORMATS) formats.clear()
    made = new Intl.DateTimeFormat(locale, options)
    formats.set(key, made)
  }
  return made
}

/** The locale to say times in beside English text: the reader's own where it is a kind of English. */
export function englishLocale(locale: string | undefined): string {
  return locale?.toLowerCase().startsWith('en') ? locale : 'en-GB'
}

/** How many hours a clock face has: 12 or 24. */
export const clockFaces = ['12', '24'] as const
export type ClockFace = (typeof clockFaces)[number]

/** A locale that writes times of day on the chosen clock (Unicode extension `hc`, RFC 6067); null leaves it to the locale. */
export function withClock(locale: string, face: ClockFace | null): string {
  if (face === null) return locale
  return new Intl.Locale(locale, { hourCycle: face === '12' ? 'h12' : 'h23' }).toString()
}

/** Whether the locale writes times of day on a clock of 12 hours. */
export function hasTwelveHours(locale: string): boolean {
  return format(locale, { timeZone: 'UTC', hour: 'numeric' }).resolvedOptions().hour12 === true
}

/**
 * The parts of a moment. Sentences are put together from them here, since platforms of different age join them with
 * different commas and spaces, and a page must read the same from the server and in the browser. A timetable says some
 * thousand times with every keystroke, so the parts of a date and of a clock are remembered.
 */
type Parts = Readonly<Record<string, string>>
const remembered = new Map<string, Parts>()
/** Dates and clocks remembered before all are forgotten: some years in a few locales. */
const MOST_REMEMBERED = 20_000

function partsOf(local: number, locale: string, kind: 'date' | 'clock'): Parts {
  const key = `${kind} ${locale} ${local}`
  let parts = remembered.get(key)
  if (!parts) {
    if (remembered.size >= MOST_REMEMBERED) remembered.clear()
    const made = format(locale, {
      timeZone: 'UTC',
      weekday: 'long',
      day: 'numeric',
      month: 'long',
      year: 'numeric',
      hour: 'numeric',
      minute: '2-digit',
    })
    parts = Object.fromEntries(made.formatToParts(local * 1000).map(part => [part.type, part.value]))
    remembered.set(key, parts)
  }
  return parts
}

function clockParts(instant: number, zone: string, locale: string): Parts {
  const local = zoneOf(zone).toLocal(instant)
  return partsOf(Math.floor((local - Math.floor(local / DAY) * DAY) / MINUTE) * MINUTE, locale, 'clock')
}

function dateParts(instant: number, zone: string, locale: string): Parts {
  return partsOf(zoneOf(zone).dayOf(instant) * DAY, locale, 'date')
}

function joinClock({ hour = '', minute, dayPeriod }: Parts): string {
  const clock = hour.replace(/^0(?=\d)/, '') + (minute === undefined ? '' : `:${minute}`)
  return dayPeriod ? `${clock} ${dayPeriod.toLowerCase()}` : clock
}

/** "15:20", or "3:20 pm" where the locale says so. */
export function formatTime(instant: number, zone: string, locale: string): string {
  return joinClock(clockParts(instant, zone, locale))
}

/** A full hour of the day, as a column is headed: "15", or "3 pm" where the locale says so. */
export function formatHour(hour: number, locale: string): string {
  const { minute: _none, ...parts } = clockParts(hour * 3600, 'UTC', locale)
  return joinClock(parts)
}

/** "7:30" as minutes past midnight. */
export function formatTimeOfDay(minutes: number, locale: string): string {
  return formatTime(minutes * 60, 'UTC', locale)
}

/** The end of a window in minutes past midnight: midnight at the end of a day is "24:00" on a clock of 24 hours. */
export function formatEndOfWindow(minutes: number, locale: string): string {
  return minutes === 1440 && !hasTwelveHours(locale) ? '24:00' : formatTimeOfDay(minutes, locale)
}

/** "Wednesday 10 March" without the year where it is the year of `now`. */
export function formatDay(instant: number, zone: string, locale: string, now?: number): string {
  const shown = zoneOf(zone)
  const sameYear = now !== undefined && civilOf(shown.dayOf(instant)).year === civilOf(shown.dayOf(now)).year
  const { weekday, day, month, year } = dateParts(instant, zone, locale)
  if (monthFirst(locale)) return `${weekday}, ${month} ${day}${sameYear ? '' : `, ${year}`}`
  return `${weekday} ${day} ${month}${sameYear ? '' : ` ${year}`}`
}

function monthFirst(locale: string): boolean {
  return /^en(-(US|CA|PH))?$/i.test(locale.replace(/-u-.*/, ''))
}

/** "Today", "Tomorrow" or the weekday and date, seen from `now`. */
export function formatRelativeDay(instant: number, zone: string, locale: string, now: number): string {
  const shown = zoneOf(zone)
  const ahead = shown.dayOf(instant) - shown.dayOf(now)
  if (ahead === 0) return 'Today'
  if (ahead === 1) return 'Tomorrow'
  return ahead > 1 && ahead < 7 ? formatWeekday(shown.dayOf(instant), 'long', locale) : formatDay(instant, zone, locale, now)
}

/** As `formatRelativeDay`, within a sentence: "today", "tomorrow". */
export function formatRelativeDayInSentence(instant: number, zone: string, locale: string, now: number): string {
  return formatRelativeDay(instant, zone, locale, now).replace(/^To(?=day$|morrow$)/, 'to')
}

/** "today", "tomorrow", "Thu 10 Dec": for lines that have little room. */
export function formatShortDay(instant: number, zone: string, locale: string, now: number): string {
  const shown = zoneOf(zone)
  const day = shown.dayOf(instant)
  const ahead = day - shown.dayOf(now)
  if (ahead === 0) return 'today'
  if (ahead === 1) return 'tomorrow'
  return `${formatWeekday(day, 'short', locale)} ${formatMonthDay(day, 'short', locale)}`
}

/** "Wed" or "Wednesday" of a local date. */
export function formatWeekday(day: number, length: 'short' | 'long', locale: string): string {
  return format(locale, { timeZone: 'UTC', weekday: length }).format(day * DAY * 1000)
}

/** "10 Mar" or "10 March" of a local date. */
export function formatMonthDay(day: number, length: 'short' | 'long', locale: string): string {
  const month = format(locale, { timeZone: 'UTC', month: length }).format(day * DAY * 1000)
  return monthFirst(locale) ? `${month} ${civilOf(day).day}` : `${civilOf(day).day} ${month}`
}

/** "10 March 2027" of a local date, for who may read it in any year. */
export function formatFullDate(day: number, locale: string): string {
  return `${formatMonthDay(day, 'long', locale)}${monthFirst(locale) ? ',' : ''} ${civilOf(day).year}`
}

/** Cities whose zones platforms still know by an older or a technical name. */
const presentNames: Record<string, string> = {
  'Africa/Asmera': 'Asmara',
  'America/Coral_Harbour': 'Atikokan',
  'America/Godthab': 'Nuuk',
  'America/Scoresbysund': 'Ittoqqortoormiit',
  'America/St_Johns': 'St John’s',
  'Antarctica/DumontDUrville': 'Dumont d’Urville',
  'Asia/Calcutta': 'Kolkata',
  'Asia/Katmandu': 'Kathmandu',
  'Asia/Rangoon': 'Yangon',
  'Asia/Saigon': 'Ho Chi Minh City',
  'Asia/Ho_Chi_Minh': 'Ho Chi Minh City',
  'Atlantic/Faeroe': 'Faroe Islands',
  'Atlantic/Faroe': 'Faroe Islands',
  'Europe/Kiev': 'Kyiv',
  'Pacific/Enderbury': 'Kanton',
  'Pacific/Ponape': 'Pohnpei',
  'Pacific/Truk': 'Chuuk',
}

/** The city of a zone as people call it: "Lisbon", "Buenos Aires". */
export function formatZone(zone: string): string {
  return presentNames[zone] ?? (zone.split('/').at(-1) ?? zone).replaceAll('_', ' ')
}

/** "UTC+5:30", "UTC−4", "UTC" of an offset in seconds. */
export function formatUtcOffset(seconds: number): string {
  if (seconds === 0) return 'UTC'
  const minutes = Math.round(Math.abs(seconds) / 60)
  const rest = minutes % 60
  return `UTC${seconds > 0 ? '+' : '−'}${Math.floor(minutes / 60)}${rest === 0 ? '' : `:${String(rest).padStart(2, '0')}`}`
}

/** How many minutes `zone` is ahead of `reference` at an instant; negative behind. */
export function zoneDifference(zone: string, reference: string, instant: number): number {
  return Math.round((zoneOf(zone).offsetAt(instant) - zoneOf(reference).offsetAt(instant)) / 60)
}

/** "+5½ h", "−40 min". */
export function formatShortDifference(minutes: number): string {
  const [sign, distance] = [minutes > 0 ? '+' : '−', Math.abs(minutes)]
  const fraction = fractions[distance % 60]
  return distance < 60 || fraction === undefined ? `${sign}${distance} min` : `${sign}${Math.floor(distance / 60)}${fraction} h`
}

/** How far `zone` is from `reference` at an instant: "5½ hours ahead of", "1 hour behind", or null where level. */
export function formatZoneDifference(zone: string, reference: string, instant: number): string | null {
  const minutes = zoneDifference(zone, reference, instant)
  if (minutes === 0) return null
  return `${formatHourCount(Math.abs(minutes))} ${minutes > 0 ? 'ahead' : 'behind'}`
}

const fractions: Record<number, string> = { 0: '', 15: '¼', 30: '½', 45: '¾' }

/** "5½ hours", "1 hour", "40 minutes". */
export function formatHourCount(minutes: number): string {
  const hours = Math.floor(minutes / 60)
  const fraction = fractions[minutes % 60]
  if (hours === 0 || fraction === undefined) return formatDuration(minutes)
  return `${hours}${fraction} ${hours === 1 && !fraction ? 'hour' : 'hours'}`
}

/** A length of time in the largest unit that keeps it whole: "2 hours", "90 minutes", "3 days". */
export function formatDuration(minutes: number): string {
  for (const [unit, size] of [['day', 1440], ['hour', 60]] as const) {
    if (minutes >= size && minutes % size === 0) return plural(minutes / size, unit)
  }
  return plural(minutes, 'minute')
}

/** How often: "every 20 minutes", "every hour". */
export function formatRepeatInterval(minutes: number): string {
  return `every ${formatDuration(minutes).replace(/^1 /, '')}`
}

/** A figure with two decimals at most. */
export function formatNumber(value: number, locale: string): string {
  return new Intl.NumberFormat(locale, { maximumFractionDigits: 2 }).format(value)
}

export function plural(count: number, noun: string, many = `${noun}s`): string {
  return `${count} ${count === 1 ? noun : many}`
}

/** "40 seconds ago", "12 minutes ago". */
export function formatAgo(instant: number, now: number, locale: string): string {
  const seconds = Math.max(0, Math.round(now - instant))
  const format = new Intl.RelativeTimeFormat(locale, { numeric: 'always' })
  if (seconds < 60) return format.format(-seconds, 'second')
  if (seconds < 3600) return format.format(-Math.floor(seconds / 60), 'minute')
  return seconds < 2 * 86_400 ? format.format(-Math.floor(seconds / 3600), 'hour') : format.format(-Math.floor(seconds / 86_400), 'day')
}

/** "one", "two" … up to twelve, figures beyond. */
export function formatCount(count: number): string {
  const numerals = ['none', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve']
  return numerals[count] ?? String(count)
}

/** "a, b and c". */
export function formatList(items: readonly string[]): string {
  return items.length < 2 ? items.join('') : `${items.slice(0, -1).join(', ')} and ${items.at(-1)}`
}

/** "a, b or c". */
export function formatAlternatives(items: readonly string[]): string {
  return items.length < 2 ? items.join('') : `${items.slice(0, -1).join(', ')} or ${items.at(-1)}`
}

/** The next clock change of a zone within (from, to]: its instant and how far the clock moves, in minutes. */
export function nextClockChange(zone: string, from: number, to: number): { at: number, minutes: number } | null {
  const shown = zoneOf(zone)
  for (let low = from; low < to; low += DAY) {
    const high = Math.min(low + DAY, to)
    const before = shown.offsetAt(low)
    if (shown.offsetAt(high) === before) continue
    let [left, right] = [low, high]
    while (right - left > 1) {
      const middle = Math.floor((left + right) / 2)
      if (shown.offsetAt(middle) === before) left = middle
      else right = middle
    }
    return { at: right, minutes: (shown.offsetAt(right) - before) / 60 }
  }
  return null
}
