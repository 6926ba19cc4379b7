import { RRuleTemporal } from 'rrule-temporal'
import { Temporal } from 'temporal-polyfill'
import 'temporal-polyfill/global'
import { DAY, formatDate } from '../time/civil'
import { dailyDays, isPlainDaily } from './daily'
import { COUNTED_DAYS, countOf } from './rule'
import { countsInYear, yearlyDays } from './yearly'

/** Recurring windows: RFC 5545 §3.3.10 rules over whole dates. */

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
