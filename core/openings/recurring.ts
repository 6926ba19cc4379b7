import { RRuleTemporal } from 'rrule-temporal'
import { Temporal } from 'temporal-polyfill'
import 'temporal-polyfill/global'
import { DAY, dateToDays, formatDate, parseDate } from '../time/civil'
import type { Fault } from '../validation'
import { dailyDays, isPlainDaily } from './daily'
import { countsInYear, yearlyDays } from './yearly'

/** Recurring windows: RFC 5545 §3.3.10 rules over whole dates. */

const frequencies = ['DAILY', 'WEEKLY', 'MONTHLY', 'YEARLY']
/** The numbers that each part takes; those that count from the end may also be negative. */
const ranges: Record<string, { most: number, signed?: boolean, list?: boolean }> = {
  INTERVAL: { most: 10_000 },
  COUNT: { most: 10_000 },
  BYMONTH: { most: 12, list: true },
  BYMONTHDAY: { most: 31, signed: true, list: true },
  BYYEARDAY: { most: 366, signed: true, list: true },
  BYWEEKNO: { most: 53, signed: true, list: true },
  BYSETPOS: { most: 366, signed: true, list: true },
}
const parts = ['FREQ', 'UNTIL', 'BYDAY', 'WKST', ...Object.keys(ranges)]
const MOST_CHARACTERS = 500
/** A rule that counts its dates is followed for so long from its start, whether it has yielded them all by then or not. */
export const COUNTED_DAYS = 120 * 366

/** What is wrong with a rule, or null for a valid one. */
export function ruleFault(rule: string): Fault | null {
  if (rule.length > MOST_CHARACTERS) return { code: 'tooLong', values: { most: MOST_CHARACTERS } }
  const seen = new Map<string, string>()
  for (const part of rule.split(';')) {
    const [name = '', value = '', more] = part.split('=')
    if (!parts.includes(name)) return { code: 'rulePart', values: { part: name } }
    if (!value || more !== undefined) return { code: 'ruleValue', values: { part: name } }
    if (seen.has(name)) return { code: 'ruleRepeats', values: { part: name } }
    const fault = numberFault(name, value)
    if (fault) return fault
    seen.set(name, value)
  }
  if (!frequencies.includes(seen.get('FREQ') ?? '')) return { code: 'ruleFrequency', values: { options: [...frequencies] } }
  const until = seen.get('UNTIL')
  if (until !== undefined && untilDate(until) === null) return { code: 'ruleUntil', values: {} }
  if (until !== undefined && seen.has('COUNT')) return { code: 'ruleUntilAndCount', values: {} }
  try {
    ruleFrom(rule, 0)
  } catch {
    return { code: 'ruleUnreadable', values: {} }
  }
  return null
}

function numberFault(name: string, value: string): Fault | null {
  const range = ranges[name]
  if (!range) return null
  const fits = (text: string) =>
    /^[+-]?\d{1,5}$/.test(text) && Number(text) !== 0 && Math.abs(Number(text)) <= range.most && (range.signed || /^\d/.test(text))
  if (range.list ? value.split(',').every(fits) : fits(value)) return null
  return { code: 'ruleNumber', values: { part: name, most: range.most, list: range.list === true, signed: range.signed === true } }
}

/** How many dates a rule yields in all, or null where it does not say. */
export function countOf(rule: string): number | null {
  const found = /(?:^|;)COUNT=(\d+)/.exec(rule)?.[1]
  return found === undefined ? null : Number(found)
}

/** What a rule yields within a stretch of days, inclusive. */
interface Expansion {
  first: number
  last: number
  days: number[]
}

/** Expansions that were asked for lately, by rule and start: editing and explaining ask the same again and again. */
const known = new Map<string, Expansion>()
const MOST_KNOWN = 500
/** Expanded on either side of what is asked, so that a neighbouring question is answered too. */
const PADDING = 21

/** The dates (days since 1970-01-01) within [first, last] that a rule yields from its start date on. */
export function recurringDays(rule: string, start: number, first: number, last: number): number[] {
  if (last < start || last < first) return []
  const key = `${start} ${rule}`
  let expansion = known.get(key)
  if (!expansion || expansion.first > first || expansion.last < last) {
    expansion = expand(rule, start, first - PADDING, last + PADDING)
    // Asked again least recently goes first, so that many rules of one workspace do not push out those of all others.
    if (known.size >= MOST_KNOWN) known.delete(known.keys().next().value ?? '')
  }
  known.delete(key)
  known.set(key, expansion)
  return expansion.days.filter(day => day >= first && day <= last)
}

function expand(rule: string, start: number, first: number, last: number): Expansion {
  const count = countOf(rule)
  if (count === null) return { first, last, days: datesOf(rule, start)(Math.max(first, start), last) }
  return countedExpansion(datesOf(rule.replace(/(^|;)COUNT=\d+/, '').replace(/^;/, ''), start), count, start, last)
}

const CHUNK = 2 * 366

/** Dates that count must be counted from the start on, wherever the question lies. */
function countedExpansion(dates: DatesBetween, count: number, start: number, last: number): Expansion {
  const end = Math.min(last, start + COUNTED_DAYS)
  const days: number[] = []
  let from = start
  for (; from <= end && days.length < count; from += CHUNK) days.push(...dates(from, from + CHUNK - 1))
  const finished = days.length >= count || from > start + COUNTED_DAYS
  return { first: -Infinity, last: finished ? Infinity : from - 1, days: days.slice(0, count) }
}

type DatesBetween = (first: number, last: number) => number[]

/** What a rule without COUNT yields between two dates. */
function datesOf(rule: string, start: number): DatesBetween {
  if (countsInYear(rule)) return (first, last) => yearlyDays(rule, start, first, last)
  if (isPlainDaily(rule)) return (first, last) => dailyDays(rule, start, first, last)
  const parsed = ruleFrom(rule, start)
  return (first, last) =>
    last < first ? [] : parsed.between(moment(first), moment(last), true).map(date => Math.floor(date.epochMilliseconds / 1000 / DAY))
}

function ruleFrom(rule: string, start: number) {
  const whole = rule.replace(/UNTIL=(\d{8})(?=;|$)/, 'UNTIL=$1T000000Z')
  return new RRuleTemporal({
    rruleString: `DTSTART:${formatDate(start).replaceAll('-', '')}T000000Z\nRRULE:${whole}`,
    strict: true,
    cache: false,
  })
}

function moment(day: number) {
  return Temporal.Instant.fromEpochMilliseconds(day * DAY * 1000).toZonedDateTimeISO('UTC')
}

function untilDate(text: string): number | null {
  const match = /^(\d{4})(\d{2})(\d{2})$/.exec(text)
  if (!match) return null
  const date = `${match[1]}-${match[2]}-${match[3]}`
  return parseDate(date) === null ? null : dateToDays(date)
}
