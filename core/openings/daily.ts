import { civilOf, daysInMonth, daysOf, weekdayIndex, weekdays } from '../time/civil'
import { rulePartsOf } from './rule-parts'

/**
 * Daily rules with plain conditions (`FREQ=DAILY;INTERVAL=2;BYDAY=MO,TU`). The library takes a third of a millisecond for
 * each date, so that one counted rule from some years ago would take seconds; counting days needs no library.
 */

const PARTS = new Set(['FREQ', 'INTERVAL', 'UNTIL', 'WKST', 'BYDAY', 'BYMONTH', 'BYMONTHDAY'])

/** Whether a rule is one of these. */
export function isPlainDaily(rule: string): boolean {
  const parts = rulePartsOf(rule)
  return (
    parts.get('FREQ') === 'DAILY'
    && [...parts.keys()].every(name => PARTS.has(name))
    && (parts.get('BYDAY') ?? 'MO').split(',').every(day => day.length === 2)
  )
}

/** The dates within [first, last] (days since 1970-01-01) that such a rule, given without COUNT, yields from `start` on. */
export function dailyDays(rule: string, start: number, first: number, last: number): number[] {
  const parts = rulePartsOf(rule)
  const numbers = (name: string) => parts.get(name)?.split(',').map(Number)
  const [months, monthDays] = [numbers('BYMONTH'), numbers('BYMONTHDAY')]
  const days = parts.get('BYDAY')?.split(',').map(text => weekdays.findIndex(day => day === text))
  const interval = Number(parts.get('INTERVAL') ?? 1)
  const until = parts.get('UNTIL')
  const end = until ? Math.min(last, daysOf(Number(until.slice(0, 4)), Number(until.slice(4, 6)), Number(until.slice(6)))) : last
  const found: number[] = []
  for (let day = start + Math.max(0, Math.ceil((first - start) / interval)) * interval; day <= end; day += interval) {
    if (days && !days.includes(weekdayIndex(day))) continue
    if (months || monthDays) {
      const { year, month, day: ofMonth } = civilOf(day)
      if (months && !months.includes(month)) continue
      if (monthDays && !monthDays.includes(ofMonth) && !monthDays.includes(ofMonth - daysInMonth(year, month) - 1)) continue
    }
    found.push(day)
  }
  return found
}
