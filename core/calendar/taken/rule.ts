import { DAY, HOUR, MINUTE, parseDate } from '../../time/civil'

/** A recurrence rule (RFC 5545 §3.3.10) as numbers. */

export const frequencies = ['YEARLY', 'MONTHLY', 'WEEKLY', 'DAILY', 'HOURLY', 'MINUTELY', 'SECONDLY'] as const
export type Frequency = (typeof frequencies)[number]

export interface Rule {
  frequency: Frequency
  interval: number
  count: number | null
  /** The last date, the last wall-clock time (seconds), or the last instant (seconds), included. */
  until: { kind: 'date' | 'local' | 'instant', at: number } | null
  /** 0 is Monday. */
  weekStart: number
  byMonth: readonly number[] | null
  byWeekNumber: readonly number[] | null
  byYearDay: readonly number[] | null
  byMonthDay: readonly number[] | null
  /** `nth` is 0 where every such weekday is meant. */
  byDay: readonly { weekday: number, nth: number }[] | null
  byHour: readonly number[] | null
  byMinute: readonly number[] | null
  bySecond: readonly number[] | null
  byPosition: readonly number[] | null
}

export class RuleError extends Error {
  constructor(readonly part: string) {
    super(`Not a recurrence rule: ${part}`)
  }
}

const weekdays = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU']
const MOST_VALUES = 1000
const MOST_NUMBER = 1_000_000_000

/** Reads a rule from the parts that ical.js makes of it, by their names in small letters. Throws RuleError. */
export function readRule(parts: Readonly<Record<string, unknown>>): Rule {
  if ('rscale' in parts) throw new RuleError('RSCALE')
  const frequency = frequencies.find(name => name === String(parts['freq']).toUpperCase())
  if (!frequency) throw new RuleError('FREQ')
  const numbers = (name: string, least: number, most: number) => numbersOf(parts[name], name, least, most)
  return {
    frequency,
    interval: numbers('interval', 1, MOST_NUMBER)?.[0] ?? 1,
    count: numbers('count', 1, MOST_NUMBER)?.[0] ?? null,
    until: 'until' in parts ? readUntil(String(parts['until'])) : null,
    weekStart: readWeekStart(parts['wkst']),
    byMonth: numbers('bymonth', 1, 12),
    byWeekNumber: numbers('byweekno', -53, 53),
    byYearDay: numbers('byyearday', -366, 366),
    byMonthDay: numbers('bymonthday', -31, 31),
    byDay: listOf(parts['byday'])?.map(readWeekday) ?? null,
    byHour: numbers('byhour', 0, 23),
    byMinute: numbers('byminute', 0, 59),
    bySecond: numbers('bysecond', 0, 60),
    byPosition: numbers('bysetpos', -366, 366),
  }
}

function listOf(value: unknown): unknown[] | null {
  if (value === undefined) return null
  const list: unknown[] = Array.isArray(value) ? value : [value]
  if (list.length > MOST_VALUES) throw new RuleError('BY…')
  return list
}

/** Those that may be negative are never 0. */
function numbersOf(value: unknown, name: string, least: number, most: number): number[] | null {
  return listOf(value)?.map((item) => {
    const number = typeof item === 'number' ? item : /^[+-]?\d+$/.test(String(item)) ? Number(item) : NaN
    if (!Number.isInteger(number) || number < least || number > most || (number === 0 && least < 0)) throw new RuleError(name.toUpperCase())
    return number
  }).sort((a, b) => a - b) ?? null
}

function readWeekday(value: unknown): { weekday: number, nth: number } {
  const [, nth = '', name = ''] = /^([+-]?\d{1,2})?([A-Z]{2})$/.exec(String(value).toUpperCase()) ?? []
  const weekday = weekdays.indexOf(name)
  if (weekday < 0 || (nth !== '' && (Number(nth) === 0 || Math.abs(Number(nth)) > 53))) throw new RuleError('BYDAY')
  return { weekday, nth: Number(nth) }
}

/** ical.js gives the weekday by its name, or by a number from 1 (Sunday) on. */
function readWeekStart(value: unknown): number {
  if (value === undefined) return 0
  const weekday = typeof value === 'number' ? (value + 5) % 7 : weekdays.indexOf(String(value).toUpperCase())
  if (weekday < 0) throw new RuleError('WKST')
  return weekday
}

function readUntil(text: string): Rule['until'] {
  const [, date = '', hour = '', minute = '', second = '', utc = ''] = /^(\d{4}-\d\d-\d\d)(?:T(\d\d)?:(\d\d)?:(\d\d)?(Z)?)?$/.exec(text) ?? []
  const day = parseDate(date)
  if (day === null) throw new RuleError('UNTIL')
  if (hour === '') return { kind: 'date', at: day }
  return { kind: utc ? 'instant' : 'local', at: day * DAY + Number(hour) * HOUR + Number(minute) * MINUTE + Number(second) }
}

/** Whether a start, in local seconds, lies after a rule's UNTIL. */
export function isOver({ until }: Rule, local: number, instant: () => number): boolean {
  if (!until) return false
  if (until.kind === 'date') return Math.floor(local / DAY) > until.at
  return (until.kind === 'local' ? local : instant()) > until.at
}
