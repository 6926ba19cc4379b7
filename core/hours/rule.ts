import { type Weekday, weekdayNames, weekdays } from '../time/civil'
import { formatCount, formatList } from '../time/format'

/** Recurring windows as people build and read them; RFC 5545 §3.3.10 rules beyond these are kept as they are. */

export type CommonRule =
  | { kind: 'weeks', every: number, days: Weekday[] }
  | { kind: 'monthWeekday', nth: number, day: Weekday }
  | { kind: 'monthDay', day: number }
  | { kind: 'days', every: number }

const ordinals: Record<number, string> = { 1: 'first', 2: 'second', 3: 'third', 4: 'fourth', 5: 'fifth', [-1]: 'last' }

export const monthPlaces = [1, 2, 3, 4, -1] as const

export function formatOrdinal(nth: number): string {
  return ordinals[nth] ?? `${nth}th`
}

export function writeRule(rule: CommonRule): string {
  const interval = 'every' in rule && rule.every > 1 ? `;INTERVAL=${rule.every}` : ''
  switch (rule.kind) {
    case 'weeks': return `FREQ=WEEKLY${interval};BYDAY=${weekdays.filter(day => rule.days.includes(day)).join(',')}`
    case 'monthWeekday': return `FREQ=MONTHLY;BYDAY=${rule.nth}${rule.day}`
    case 'monthDay': return `FREQ=MONTHLY;BYMONTHDAY=${rule.day}`
    case 'days': return `FREQ=DAILY${interval}`
  }
}

/** The inverse of `writeRule`, or null for a rule that says more than these can. */
export function readRule(rrule: string): CommonRule | null {
  const parts = new Map(rrule.split(';').map((part) => {
    const [name = '', value = ''] = part.split('=')
    return [name, value]
  }))
  const has = (...names: string[]) => [...parts.keys()].every(name => names.includes(name))
  const every = Number(parts.get('INTERVAL') ?? 1)
  const byDay = parts.get('BYDAY')?.split(',') ?? []
  switch (parts.get('FREQ')) {
    case 'DAILY':
      return has('FREQ', 'INTERVAL') ? { kind: 'days', every } : null
    case 'WEEKLY': {
      const days = weekdays.filter(day => byDay.includes(day))
      return has('FREQ', 'INTERVAL', 'BYDAY') && days.length > 0 && days.length === byDay.length ? { kind: 'weeks', every, days } : null
    }
    case 'MONTHLY': {
      const monthDay = Number(parts.get('BYMONTHDAY'))
      if (has('FREQ', 'BYMONTHDAY') && monthDay >= 1 && monthDay <= 31) return { kind: 'monthDay', day: monthDay }
      const match = /^(-1|[1-5])(MO|TU|WE|TH|FR|SA|SU)$/.exec(parts.get('BYDAY') ?? '')
      const day = weekdays.find(weekday => weekday === match?.[2])
      return has('FREQ', 'BYDAY') && match && day ? { kind: 'monthWeekday', nth: Number(match[1]), day } : null
    }
    default:
      return null
  }
}

/** "every other Thursday", "the first Monday of the month". */
export function describeRule(rrule: string): string {
  const rule = readRule(rrule)
  if (!rule) return 'by a rule of its own'
  switch (rule.kind) {
    case 'weeks': return `${describeWeekInterval(rule.every)} ${formatList(rule.days.map(day => weekdayNames[day]))}`
    case 'monthWeekday': return `the ${formatOrdinal(rule.nth)} ${weekdayNames[rule.day]} of the month`
    case 'monthDay': return `day ${rule.day} of each month`
    case 'days': return rule.every === 1 ? 'every day' : rule.every === 2 ? 'every other day' : `every ${formatCount(rule.every)} days`
  }
}

function describeWeekInterval(weeks: number): string {
  return weeks === 1 ? 'every' : weeks === 2 ? 'every other' : `every ${formatCount(weeks)} weeks on`
}
