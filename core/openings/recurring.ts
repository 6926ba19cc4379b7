import { RRuleTemporal } from 'rrule-temporal'
import { Temporal } from 'temporal-polyfill'
import 'temporal-polyfill/global'
import { DAY, dateToDays, formatDate, parseDate } from '../time/civil'

/** Recurring windows: RFC 5545 §3.3.10 rules over whole dates. */

const frequencies = ['DAILY', 'WEEKLY', 'MONTHLY', 'YEARLY']
const parts = ['FREQ', 'INTERVAL', 'COUNT', 'UNTIL', 'BYDAY', 'BYMONTH', 'BYMONTHDAY', 'BYYEARDAY', 'BYWEEKNO', 'BYSETPOS', 'WKST']

/** What is wrong with a rule, as a sentence, or null for a rule that fits. */
export function ruleFault(rule: string): string | null {
  const seen = new Map<string, string>()
  for (const part of rule.split(';')) {
    const [name = '', value = ''] = part.split('=')
    if (!parts.includes(name)) return `A rule takes no part called ${name || 'nothing'}`
    if (!value) return `${name} has no value`
    if (seen.has(name)) return `${name} stands in the rule twice`
    seen.set(name, value)
  }
  if (!frequencies.includes(seen.get('FREQ') ?? '')) return `FREQ must be one of ${frequencies.join(', ')}`
  const until = seen.get('UNTIL')
  if (until !== undefined && untilDate(until) === null) return 'UNTIL must be a date such as 20270630'
  if (until !== undefined && seen.has('COUNT')) return 'A rule has UNTIL or COUNT, not both'
  try {
    ruleFrom(rule, 0)
  } catch (error) {
    return error instanceof Error ? `The rule cannot be read: ${error.message}` : 'The rule cannot be read'
  }
  return null
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
    if (known.size >= MOST_KNOWN) known.clear()
    known.set(key, expansion)
  }
  return expansion.days.filter(day => day >= first && day <= last)
}

function expand(rule: string, start: number, first: number, last: number): Expansion {
  const found = ruleFrom(rule, start).between(moment(Math.max(first, start)), moment(last), true)
  return { first, last, days: found.map(date => Math.floor(date.epochMilliseconds / 1000 / DAY)) }
}

function ruleFrom(rule: string, start: number) {
  const whole = rule.replace(/UNTIL=(\d{8})(?=;|$)/, 'UNTIL=$1T000000Z')
  return new RRuleTemporal({ rruleString: `DTSTART:${formatDate(start).replaceAll('-', '')}T000000Z\nRRULE:${whole}`, strict: true, cache: false })
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
