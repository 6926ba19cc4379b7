/**
 * Dates and wall-clock times of the proleptic Gregorian calendar as plain integers.
 * A date is counted as days since 1970-01-01; a wall-clock moment as seconds since 1970-01-01T00:00:00
 * in no zone at all ("local seconds").
 */

export const DAY = 86_400
export const MINUTE = 60

export const weekdays = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'] as const
export type Weekday = (typeof weekdays)[number]

/** Days since 1970-01-01 of a calendar date; month 1 to 12. */
export function daysOf(year: number, month: number, day: number): number {
  const shifted = month <= 2 ? year - 1 : year
  const era = Math.floor(shifted / 400)
  const yearOfEra = shifted - era * 400
  const dayOfYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1
  const dayOfEra = yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear
  return era * 146_097 + dayOfEra - 719_468
}

/** The inverse of `daysOf`. */
export function civilOf(days: number): { year: number, month: number, day: number } {
  const z = days + 719_468
  const era = Math.floor(z / 146_097)
  const dayOfEra = z - era * 146_097
  const yearOfEra = Math.floor(
    (dayOfEra - Math.floor(dayOfEra / 1460) + Math.floor(dayOfEra / 36_524) - Math.floor(dayOfEra / 146_096)) / 365,
  )
  const dayOfYear = dayOfEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100))
  const shiftedMonth = Math.floor((5 * dayOfYear + 2) / 153)
  const month = shiftedMonth + (shiftedMonth < 10 ? 3 : -9)
  return {
    year: yearOfEra + era * 400 + (month <= 2 ? 1 : 0),
    month,
    day: dayOfYear - Math.floor((153 * shiftedMonth + 2) / 5) + 1,
  }
}

const datePattern = /^(\d{4})-(\d{2})-(\d{2})$/

/** Days since 1970-01-01 of `YYYY-MM-DD`, or null where no such date exists. */
export function parseDate(text: string): number | null {
  const match = datePattern.exec(text)
  if (!match) return null
  const days = daysOf(Number(match[1]), Number(match[2]), Number(match[3]))
  return formatDate(days) === text ? days : null
}

/** As `parseDate`, for text already checked. Throws RangeError for anything else. */
export function dateToDays(text: string): number {
  const days = parseDate(text)
  if (days === null) throw new RangeError(`Not a date: ${text}`)
  return days
}

export function formatDate(days: number): string {
  const { year, month, day } = civilOf(days)
  return `${String(year).padStart(4, '0')}-${two(month)}-${two(day)}`
}

const clockPattern = /^([01]\d|2[0-3]):([0-5]\d)$/

/** Minutes past midnight of `HH:MM`; `24:00` (1440) only where `asEnd`. Null for anything else. */
export function parseClock(text: string, asEnd = false): number | null {
  if (asEnd && text === '24:00') return 1440
  const match = clockPattern.exec(text)
  return match ? Number(match[1]) * 60 + Number(match[2]) : null
}

export function formatClock(minutes: number): string {
  return `${two(Math.floor(minutes / 60))}:${two(minutes % 60)}`
}

/** Where digits and separators stand in `2027-03-08T09:12:00Z`. */
const instantShape = '0000-00-00T00:00:00Z'
const ZERO = 48

/** Seconds since the epoch of RFC 3339 UTC with `Z` and whole seconds; null for anything else. Written for speed. */
export function parseInstant(text: string): number | null {
  if (text.length !== instantShape.length) return null
  for (let i = 0; i < instantShape.length; i++) {
    const code = text.charCodeAt(i)
    if (instantShape.charCodeAt(i) === ZERO ? code < ZERO || code > ZERO + 9 : code !== instantShape.charCodeAt(i)) return null
  }
  const [month, day] = [digits(text, 5), digits(text, 8)]
  const [hour, minute, second] = [digits(text, 11), digits(text, 14), digits(text, 17)]
  const year = digits(text, 0) * 100 + digits(text, 2)
  if (hour > 23 || minute > 59 || second > 59 || month < 1 || month > 12 || day < 1 || day > daysInMonth(year, month)) return null
  return daysOf(year, month, day) * DAY + hour * 3600 + minute * 60 + second
}

function digits(text: string, at: number): number {
  return (text.charCodeAt(at) - ZERO) * 10 + text.charCodeAt(at + 1) - ZERO
}

function daysInMonth(year: number, month: number): number {
  if (month === 2) return year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0) ? 29 : 28
  return month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31
}

/** As `parseInstant`, for text already checked. Throws RangeError for anything else. */
export function instantToSeconds(text: string): number {
  const seconds = parseInstant(text)
  if (seconds === null) throw new RangeError(`Not an instant: ${text}`)
  return seconds
}

/** The date that was written last: neighbours in a list mostly share it. */
let written = { day: NaN, text: '' }
/** `09:30:00Z` for every minute of a day, each written when it is first needed. */
const clocks: (string | undefined)[] = []

export function formatInstant(seconds: number): string {
  const day = Math.floor(seconds / DAY)
  if (day !== written.day) written = { day, text: `${formatDate(day)}T` }
  const rest = seconds - day * DAY
  const minute = Math.floor(rest / MINUTE)
  if (rest !== minute * MINUTE) return `${written.text}${formatClock(minute)}:${two(rest - minute * MINUTE)}Z`
  return written.text + (clocks[minute] ??= `${formatClock(minute)}:00Z`)
}

/** 0 for Monday to 6 for Sunday (ISO 8601 order). */
export function weekdayIndex(days: number): number {
  return (((days + 3) % 7) + 7) % 7
}

/** Monday of the ISO week that holds the date. */
export function isoWeekOf(days: number): number {
  return days - weekdayIndex(days)
}

function two(value: number): string {
  return value < 10 ? `0${value}` : String(value)
}
