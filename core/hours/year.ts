import type { HoursPlan } from '../openings'
import { recurringDays } from '../openings/recurring'
import { dateToDays, formatDate, weekdayIndex, weekdays } from '../time/civil'
import { zoneOf } from '../time/zone'
import { calendarKey, type HolidayDates, type StoredPlan } from './plan'

/** A plan over the days of a year, and exceptions for stretches of days. */

export interface PlannedDay {
  /** Days since 1970-01-01. */
  day: number
  /** open and closed: by the week and what recurs; the others by an exception, or by a holiday. */
  kind: 'open' | 'closed' | 'exceptionOpen' | 'exceptionClosed' | 'holiday' | 'outside'
  /** The holiday's name. */
  holiday: string | null
  clockChange: boolean
}

/** What a plan says of each day from first to last, inclusive. */
export function plannedDays(plan: StoredPlan, holidays: HolidayDates, first: number, last: number): PlannedDay[] {
  const exceptions = new Map(plan.exceptions.map(exception => [dateToDays(exception.date), exception.windows.length > 0]))
  const names = new Map(
    plan.holidays.flatMap(calendar => holidays[calendarKey(calendar)] ?? []).map(holiday => [dateToDays(holiday.date), holiday.name]),
  )
  const recurring = new Set(plan.recurring.flatMap(window => [...recurringDays(window.rrule, dateToDays(window.start), first, last)]))
  const open = weekdays.map(weekday => plan.weekly.some(window => window.days.includes(weekday)))
  const valid = {
    from: plan.valid.from === null ? -Infinity : dateToDays(plan.valid.from),
    to: plan.valid.to === null ? Infinity : dateToDays(plan.valid.to),
  }
  const zone = zoneOf(plan.timeZone)
  return Array.from({ length: last - first + 1 }, (_, i): PlannedDay => {
    const day = first + i
    const exception = exceptions.get(day)
    const holiday = names.get(day) ?? null
    const kind = day < valid.from || day > valid.to ? 'outside'
      : exception !== undefined ? (exception ? 'exceptionOpen' : 'exceptionClosed')
        : holiday !== null ? 'holiday'
          : open[weekdayIndex(day)] || recurring.has(day) ? 'open' : 'closed'
    return { day, kind, holiday, clockChange: zone.offsetAt(zone.startOfDay(day)) !== zone.offsetAt(zone.startOfDay(day + 1)) }
  })
}

/** Gives every date from first to last the same exception, or none where `windows` is null. */
export function setExceptions(
  plan: StoredPlan,
  first: number,
  last: number,
  windows: HoursPlan['exceptions'][number]['windows'] | null,
): StoredPlan {
  const others = plan.exceptions.filter(({ date }) => dateToDays(date) < first || dateToDays(date) > last)
  const made = windows === null ? [] : Array.from({ length: last - first + 1 }, (_, i) => ({ date: formatDate(first + i), windows }))
  return { ...plan, exceptions: [...others, ...made].sort((a, b) => (a.date < b.date ? -1 : 1)) }
}

export interface ExceptionRun {
  first: number
  last: number
  windows: HoursPlan['exceptions'][number]['windows']
}

/** Exceptions that follow each other with the same windows, as one stretch each. */
export function exceptionRuns(plan: StoredPlan): ExceptionRun[] {
  const runs: ExceptionRun[] = []
  for (const { date, windows } of [...plan.exceptions].sort((a, b) => (a.date < b.date ? -1 : 1))) {
    const day = dateToDays(date)
    const last = runs.at(-1)
    if (last && last.last === day - 1 && JSON.stringify(last.windows) === JSON.stringify(windows)) last.last = day
    else runs.push({ first: day, last: day, windows })
  }
  return runs
}
