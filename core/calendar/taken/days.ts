import { civilOf, daysInMonth, daysOf, HOUR, MINUTE, weekdayIndex } from '../../time/civil'
import type { Rule } from './rule'

/** Which dates a rule names, and at which times of the day, apart from how often it comes round. */

/** What a rule leaves out, from its first instance (RFC 5545 §3.3.10: “information … not found in the rule”). */
export function complete(rule: Rule, start: number, second: number): Rule {
  const { month, day } = civilOf(start)
  const { byMonth, byWeekNumber, byYearDay, byMonthDay, byDay, frequency } = rule
  const named = byWeekNumber ?? byYearDay ?? byMonthDay ?? byDay
  const weekday = [{ weekday: weekdayIndex(start), nth: 0 }]
  const whole = { ...rule, ...timeOf(rule, second) }
  if (frequency === 'YEARLY') {
    if (!named) return { ...whole, byMonth: byMonth ?? [month], byMonthDay: [day] }
    return byWeekNumber && !byYearDay && !byMonthDay && !byDay ? { ...whole, byDay: weekday } : whole
  }
  if (frequency === 'MONTHLY') return named ? whole : { ...whole, byMonthDay: [day] }
  return frequency === 'WEEKLY' && !named ? { ...whole, byDay: weekday } : whole
}

/** A rule names hours, minutes and seconds down to how often it comes round, and its first instance the others. */
function timeOf({ frequency, byHour, byMinute, bySecond }: Rule, second: number) {
  const isHourly = frequency === 'HOURLY'
  const isMinutely = frequency === 'MINUTELY'
  const isSecondly = frequency === 'SECONDLY'
  return {
    byHour: byHour ?? (isHourly || isMinutely || isSecondly ? null : [Math.floor(second / HOUR)]),
    byMinute: byMinute ?? (isMinutely || isSecondly ? null : [Math.floor(second / MINUTE) % 60]),
    bySecond: bySecond ?? (isSecondly ? null : [second % 60]),
  }
}

/** Whether a completed rule names a date. */
export function namesDay(rule: Rule, date: number): boolean {
  const { year, month, day } = civilOf(date)
  const { byMonth, byMonthDay, byYearDay, byWeekNumber, byDay } = rule
  if (byMonth && !byMonth.includes(month)) return false
  const length = daysInMonth(year, month)
  if (byMonthDay && !includesCounted(byMonthDay, day, length)) return false
  if (byYearDay && !includesCounted(byYearDay, date - daysOf(year, 1, 1) + 1, daysOf(year + 1, 1, 1) - daysOf(year, 1, 1))) return false
  if (byWeekNumber) {
    const { number, count } = weekOf(date, rule.weekStart)
    if (!includesCounted(byWeekNumber, number, count)) return false
  }
  return !byDay || byDay.some(({ weekday, nth }) =>
    weekday === weekdayIndex(date) && (nth === 0 || isNth(rule, nth, date, year, day, length)))
}

/** Numbers count from 1, or from the end: -1 is the last. */
function includesCounted(numbers: readonly number[], number: number, last: number): boolean {
  return numbers.includes(number) || numbers.includes(number - last - 1)
}

/** Weekdays are counted in their month, or in the year where a yearly rule names no month. Other rules mean every one. */
function isNth({ frequency, byMonth, byWeekNumber }: Rule, nth: number, date: number, year: number, day: number, length: number): boolean {
  if ((frequency !== 'YEARLY' && frequency !== 'MONTHLY') || byWeekNumber) return true
  const inMonth = frequency === 'MONTHLY' || byMonth !== null
  const before = inMonth ? day - 1 : date - daysOf(year, 1, 1)
  const after = inMonth ? length - day : daysOf(year + 1, 1, 1) - 1 - date
  return nth > 0 ? Math.floor(before / 7) + 1 === nth : Math.floor(after / 7) + 1 === -nth
}

/** The first date of the week that holds a date; weeks begin on `weekStart`, 0 for Monday. */
export function weekStartOf(date: number, weekStart: number): number {
  return date - ((weekdayIndex(date) - weekStart + 7) % 7)
}

/** The number of a date's week in the year that holds most of it (RFC 5545: four days at least), and how many that year has. */
function weekOf(date: number, weekStart: number): { number: number, count: number } {
  const first = weekStartOf(date, weekStart)
  const { year } = civilOf(first + 3)
  const firstOf = (which: number) => weekStartOf(daysOf(which, 1, 4), weekStart)
  const start = firstOf(year)
  return { number: (first - start) / 7 + 1, count: (firstOf(year + 1) - start) / 7 }
}
