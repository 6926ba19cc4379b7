import { DAY, HOUR, MINUTE, parseDate } from '../../time/civil'
import type { Zone } from '../../time/zone'

/** Dates, date-times and durations as entries name them. */

/** What entries need of a zone. */
export type ClockZone = Pick<Zone, 'toInstant' | 'toLocal' | 'startOfDay'>

export const utc: ClockZone = { toInstant: local => local, toLocal: instant => instant, startOfDay: day => day * DAY }

/** A date (days since 1970-01-01), or a time: local seconds by the clocks of a zone, of the calendar's where it is null. */
export type Moment = { kind: 'date', day: number } | { kind: 'time', local: number, zone: ClockZone | null }

/** Days go by the wall clock, seconds are exact. */
export interface Duration {
  days: number
  seconds: number
}

const momentPattern = /^(\d{4}-\d\d-\d\d)(?:T(\d\d)?:?(\d\d)?:?(\d\d)?(Z)?)?$/

/** Reads a value as ical.js writes it; null for what is no date or time. A date stands in some files where a time should. */
export function readMoment(text: string, zone: ClockZone | null): Moment | null {
  const [, date = '', hour, minute = '0', second = '0', isUtc] = momentPattern.exec(text) ?? []
  const day = parseDate(date)
  if (day === null) return null
  if (hour === undefined) return { kind: 'date', day }
  const time = Number(hour) * HOUR + Number(minute) * MINUTE + Math.min(Number(second), 59)
  if (Number(hour) > 24 || Number(minute) > 59 || time > DAY) return null
  return { kind: 'time', local: day * DAY + time, zone: isUtc ? utc : zone }
}

/** No calendar reaches further. */
const MOST_DAYS = 4_000_000

const durationPattern = /^([+-])?P(?:(\d+)W)?(?:(\d+)D)?(?:T(?:(\d+)H)?(?:(\d+)M)?(?:(\d+)S)?)?$/

/** Reads a duration (RFC 5545 §3.3.6), null for what is none. */
export function readDuration(text: string): Duration | null {
  const match = durationPattern.exec(text.toUpperCase())
  if (!match || /[PT]$/.test(text)) return null
  const [weeks = 0, days = 0, hours = 0, minutes = 0, seconds = 0] = match.slice(2).map(part => Number(part ?? 0))
  const sign = match[1] === '-' ? -1 : 1
  return {
    days: sign * Math.min(weeks * 7 + days, MOST_DAYS),
    seconds: sign * Math.min(hours * HOUR + minutes * MINUTE + seconds, MOST_DAYS * DAY),
  }
}

/** The instant of a moment: of the first one of a date. `home` is the calendar's zone. */
export function instantOf(moment: Moment, home: ClockZone): number {
  return moment.kind === 'date' ? home.startOfDay(moment.day) : (moment.zone ?? home).toInstant(moment.local)
}
