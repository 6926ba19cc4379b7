import { civilOf, DAY, daysInMonth, daysOf, HOUR, MINUTE } from '../../time/civil'
import type { Budget } from './budget'
import { complete, namesDay, weekStartOf } from './days'
import type { Rule } from './rule'

/**
 * When a rule comes round by the wall clock, in no zone at all: local seconds, or midnights for whole days. It is walked
 * period by period from where it is asked, so that it costs what the span costs, wherever it began.
 */

export interface Walk {
  /** The first instance, which the periods are counted from. */
  start: number
  isWholeDay: boolean
  /** From where to where starts are asked for, the end included. */
  from: number
  to: number
  budget: Budget
}

/** Starts of a rule that it names itself, ascending; COUNT and UNTIL are not looked at. */
export function* startsOf(rule: Rule, walk: Walk): Generator<number> {
  const startDay = Math.floor(walk.start / DAY)
  const whole = complete(rule, startDay, walk.start - startDay * DAY)
  const from = Math.max(walk.start, walk.from)
  for (const start of whole.frequency in units ? byUnit(whole, from, walk) : byDays(whole, from, walk))
    if (start >= from && start <= walk.to) yield start
}

/** Rules of days and longer: the dates of each period, then the times of each date. */
function* byDays(rule: Rule, from: number, { start, to, isWholeDay, budget }: Walk): Generator<number> {
  const times = isWholeDay ? [0] : timesOfDay(rule)
  for (const [first, last] of periodsOf(rule, Math.floor(start / DAY), Math.floor(from / DAY), Math.floor(to / DAY), budget)) {
    const found: number[] = []
    for (let day = first; day <= last; day++) {
      budget.spend()
      if (namesDay(rule, day)) for (const time of times) found.push(day * DAY + time)
    }
    yield* picked(rule, found, budget)
  }
}

/** First and last dates of the periods that a rule comes round in, from the one that holds `from` on. */
function* periodsOf(rule: Rule, start: number, from: number, to: number, budget: Budget): Generator<[number, number]> {
  const { frequency, interval, byMonth, byMonthDay, byWeekNumber, byYearDay, byDay, byPosition } = rule
  if (frequency === 'DAILY' || frequency === 'WEEKLY') {
    const length = frequency === 'DAILY' ? 1 : 7
    const origin = frequency === 'DAILY' ? start : weekStartOf(start, rule.weekStart)
    const step = interval * length
    for (let first = origin + Math.max(0, Math.floor((from - origin) / step)) * step; first <= to; first += step) {
      budget.spend()
      yield [first, first + length - 1]
    }
    return
  }
  const origin = civilOf(start)
  const months = frequency === 'YEARLY' ? 12 * interval : interval
  const counted = frequency === 'YEARLY' ? origin.year * 12 : origin.year * 12 + origin.month - 1
  const at = civilOf(from)
  const skipped = Math.max(0, Math.floor((at.year * 12 + at.month - 1 - counted) / months))
  // The single dates that most rules name need no walk through a whole month or year.
  const day = byMonthDay?.length === 1 && !byDay && !byYearDay && !byWeekNumber && !byPosition ? Math.max(0, byMonthDay[0] ?? 0) : 0
  const month = byMonth?.length === 1 && day > 0 ? byMonth[0] ?? 0 : 0
  for (let number = counted + skipped * months; ; number += months) {
    budget.spend()
    const year = Math.floor(number / 12)
    const first = daysOf(year, number - year * 12 + 1, 1)
    if (first > to) return
    if (frequency === 'MONTHLY') {
      const length = daysInMonth(year, number - year * 12 + 1)
      if (day === 0) yield [first, first + length - 1]
      else if (day <= length) yield [first + day - 1, first + day - 1]
    } else if (month > 0) {
      if (day <= daysInMonth(year, month)) yield [daysOf(year, month, day), daysOf(year, month, day)]
    } else {
      yield [first, daysOf(year + 1, 1, 1) - 1]
    }
  }
}

function timesOfDay({ byHour, byMinute, bySecond }: Rule): number[] {
  const times = new Set((byHour ?? []).flatMap(hour => (byMinute ?? []).flatMap(minute =>
    (bySecond ?? []).map(second => hour * HOUR + minute * MINUTE + Math.min(second, 59)))))
  return [...times].sort((a, b) => a - b)
}

const units: Partial<Record<Rule['frequency'], number>> = { HOURLY: HOUR, MINUTELY: MINUTE, SECONDLY: 1 }

/** Rules of hours and shorter: unit by unit, over days, hours and minutes that they do not name. */
function* byUnit(rule: Rule, from: number, { start, to, budget }: Walk): Generator<number> {
  const unit = units[rule.frequency] ?? 1
  const origin = Math.floor(start / unit)
  /** The first unit at or after a time that the interval meets. */
  const next = (local: number) => origin + Math.max(0, Math.ceil((Math.floor(local / unit) - origin) / rule.interval)) * rule.interval
  const { byHour, byMinute, bySecond } = rule
  const minutes = unit === HOUR ? byMinute ?? [] : [0]
  const seconds = unit >= MINUTE ? bySecond ?? [] : [0]
  const within = minutes.flatMap(minute => seconds.map(second => minute * MINUTE + Math.min(second, 59)))
  let known = NaN
  for (let at = next(from); at * unit <= to;) {
    budget.spend()
    const local = at * unit
    const day = Math.floor(local / DAY)
    const time = local - day * DAY
    if (day !== known && !namesDay(rule, day)) {
      at = next((day + 1) * DAY)
      continue
    }
    known = day
    if (byHour && !byHour.includes(Math.floor(time / HOUR))) {
      at = next(local - time % HOUR + HOUR)
    } else if (unit < HOUR && byMinute && !byMinute.includes(Math.floor(time / MINUTE) % 60)) {
      at = next(local - time % MINUTE + MINUTE)
    } else {
      if (unit > 1 || !bySecond || bySecond.includes(time % 60)) yield* picked(rule, within.map(more => local + more), budget)
      at += rule.interval
    }
  }
}

/** What BYSETPOS leaves of one period's starts. */
function* picked({ byPosition }: Rule, found: readonly number[], budget: Budget): Generator<number> {
  for (const [index, start] of found.entries()) {
    budget.spend()
    if (!byPosition || byPosition.includes(index + 1) || byPosition.includes(index - found.length)) yield start
  }
}
