import { civilOf, daysOf, weekdayIndex, weekdays } from '../time/civil'
import { rulePartsOf } from './rule-parts'

/**
 * Yearly rules that count weekdays within the year (`FREQ=YEARLY;BYDAY=20MO`, `BYDAY=SA,-1SU`). The library drops plain
 * weekdays beside counted ones and takes the 53rd weekday of a year without one from the next year, so these are
 * worked out here, year by year.
 */

interface Counted {
  weekday: number
  /** From the year's start, or negative from its end; 0 for every one. */
  nth: number
}

/** Whether a rule is one of these. */
export function countsInYear(rule: string): boolean {
  const parts = rulePartsOf(rule)
  return parts.get('FREQ') === 'YEARLY' && !parts.has('BYMONTH') && (parts.get('BYDAY') ?? '').split(',').some(day => day.length > 2)
}

/** The dates within [first, last] (days since 1970-01-01) that such a rule, given without COUNT, yields from `start` on. */
export function yearlyDays(rule: string, start: number, first: number, last: number): number[] {
  const parts = rulePartsOf(rule)
  const numbers = (name: string) => parts.get(name)?.split(',').map(Number)
  const counted = (parts.get('BYDAY') ?? '').split(',').map((text): Counted =>
    ({ weekday: weekdays.findIndex(day => text.endsWith(day)), nth: Number(text.slice(0, -2)) }))
  const [monthDays, yearDays, positions] = [numbers('BYMONTHDAY'), numbers('BYYEARDAY'), numbers('BYSETPOS')]
  const until = parts.get('UNTIL')
  const end = until ? Math.min(last, daysOf(Number(until.slice(0, 4)), Number(until.slice(4, 6)), Number(until.slice(6)))) : last
  const interval = Number(parts.get('INTERVAL') ?? 1)
  const firstYear = civilOf(start).year

  const found: number[] = []
  for (
    let year = firstYear + Math.max(0, Math.floor((civilOf(first).year - firstYear) / interval) * interval);
    year <= civilOf(end).year;
    year += interval
  ) {
    const [begin, next] = [daysOf(year, 1, 1), daysOf(year + 1, 1, 1)]
    const days = Array.from({ length: next - begin }, (_, i) => begin + i).filter((day) => {
      const [ofYear, left] = [day - begin + 1, next - day]
      const { month, day: ofMonth } = civilOf(day)
      const leftOfMonth = daysOf(month === 12 ? year + 1 : year, month === 12 ? 1 : month + 1, 1) - day
      return (
        counted.some(
          candidate => candidate.weekday === weekdayIndex(day) && isNth(candidate.nth, Math.ceil(ofYear / 7), Math.ceil(left / 7)),
        )
        && (!monthDays || monthDays.some(nth => isNth(nth, ofMonth, leftOfMonth)))
        && (!yearDays || yearDays.some(nth => isNth(nth, ofYear, left)))
      )
    })
    found.push(...(positions ? days.filter((_, index) => positions.some(nth => isNth(nth, index + 1, days.length - index))) : days))
  }
  return found.filter(day => day >= Math.max(start, first) && day <= end)
}

/** Whether a place, counted from one end and from the other, is the wanted one. */
function isNth(nth: number, fromStart: number, fromEnd: number): boolean {
  return nth === 0 || nth === fromStart || -nth === fromEnd
}
