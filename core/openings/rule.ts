import { dateToDays, parseDate } from '../time/civil'
import type { Fault } from '../validation'

/** The rule of a recurring window as text: it is checked while it is typed, without the library that expands it. */

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
const plainWeekdayPattern = /^(?:MO|TU|WE|TH|FR|SA|SU)$/
const weekdayPattern = /^(?:[+-]?[1-9]\d?)?(?:MO|TU|WE|TH|FR|SA|SU)$/
const MOST_CHARACTERS = 500
/** A rule that counts its dates is followed for so long from its start, whether it has yielded them all by then or not. */
export const COUNTED_DAYS = 120 * 366

/** How many dates a rule yields in all, or null where it does not say. */
export function countOf(rule: string): number | null {
  const found = /(?:^|;)COUNT=(\d+)/.exec(rule)?.[1]
  return found === undefined ? null : Number(found)
}

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
  return isReadable(seen) ? null : { code: 'ruleUnreadable', values: {} }
}

/** The values of weekdays, and which parts go together (RFC 5545 §3.3.10). */
function isReadable(parts: ReadonlyMap<string, string>): boolean {
  const frequency = parts.get('FREQ') ?? ''
  const weekdays = parts.get('BYDAY')
  const others = [...parts.keys()].filter(name => name.startsWith('BY') && name !== 'BYSETPOS')
  return (weekdays?.split(',').every(text => weekdayPattern.test(text)) ?? true)
    && plainWeekdayPattern.test(parts.get('WKST') ?? 'MO')
    && !(/\d/.test(weekdays ?? '') && (!['MONTHLY', 'YEARLY'].includes(frequency) || parts.has('BYWEEKNO')))
    && !(parts.has('BYMONTHDAY') && frequency === 'WEEKLY')
    && !((parts.has('BYYEARDAY') || parts.has('BYWEEKNO')) && frequency !== 'YEARLY')
    && !(parts.has('BYSETPOS') && others.length === 0)
}

function numberFault(name: string, value: string): Fault | null {
  const range = ranges[name]
  if (!range) return null
  const fits = (text: string) =>
    /^[+-]?\d{1,5}$/.test(text) && Number(text) !== 0 && Math.abs(Number(text)) <= range.most && (range.signed || /^\d/.test(text))
  if (range.list ? value.split(',').every(fits) : fits(value)) return null
  return { code: 'ruleNumber', values: { part: name, most: range.most, list: range.list === true, signed: range.signed === true } }
}

function untilDate(text: string): number | null {
  const match = /^(\d{4})(\d{2})(\d{2})$/.exec(text)
  if (!match) return null
  const date = `${match[1]}-${match[2]}-${match[3]}`
  return parseDate(date) === null ? null : dateToDays(date)
}
