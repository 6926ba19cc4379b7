import { DAY, MINUTE, dateToDays, parseClock, weekdayIndex, weekdays } from '../time/civil'
import { type Intervals, intersect, union } from '../time/intervals'
import { zoneOf } from '../time/zone'
import { recurringDays } from './recurring'
import type { HoursPlan } from './schema'

type Minutes = [from: number, to: number]

/** Rule 1: the windows of a plan on the time line, complete for [from, to), as seconds since the epoch. */
export function planHours(plan: HoursPlan, from: number, to: number): Intervals {
  const zone = zoneOf(plan.timeZone)
  const first = Math.max(zone.dayOf(from) - 1, plan.valid.from === null ? -Infinity : dateToDays(plan.valid.from))
  const last = Math.min(zone.dayOf(to) + 1, plan.valid.to === null ? Infinity : dateToDays(plan.valid.to))
  const exceptions = exceptionDays(plan)
  const weekly = weekdays.map(day => plan.weekly.filter(window => window.days.includes(day)).map(minutesOf))
  const recurring = recurringWindows(plan, first, last)
  const merged = weekly.map(mergeMinutes)

  const pairs: Minutes[] = []
  for (let day = first; day <= last; day++) {
    const extra = recurring.get(day)
    const weekday = weekdayIndex(day)
    const windows = exceptions.get(day)
      ?? (extra ? mergeMinutes([...(weekly[weekday] ?? []), ...extra]) : merged[weekday] ?? [])
    if (windows.length === 0 || !zone.hasDay(day)) continue
    for (const [start, end] of windows) {
      pairs.push([zone.toInstant(day * DAY + start * MINUTE), zone.toInstant(day * DAY + end * MINUTE)])
    }
  }
  return union(pairs)
}

/** Rule 2 without what is opened over: where all plans of a host are open. */
export function hoursOf(plans: readonly HoursPlan[], from: number, to: number): Intervals {
  return plans.map(plan => planHours(plan, from, to)).reduce((all, one) => intersect(all, one))
}

/** The merged windows of each date with an exception. */
function exceptionDays(plan: HoursPlan): Map<number, Minutes[]> {
  return new Map(plan.exceptions.map(({ date, windows }) => [dateToDays(date), mergeMinutes(windows.map(minutesOf))]))
}

function recurringWindows(plan: HoursPlan, first: number, last: number): Map<number, Minutes[]> {
  const found = new Map<number, Minutes[]>()
  for (const window of plan.recurring) {
    for (const day of recurringDays(window.rrule, dateToDays(window.start), first, last)) {
      found.set(day, [...(found.get(day) ?? []), minutesOf(window)])
    }
  }
  return found
}

function minutesOf(window: { from: string, to: string }): Minutes {
  return [parseClock(window.from) ?? 0, parseClock(window.to, true) ?? 0]
}

/** Windows of one date that overlap or touch become one, as wall-clock minutes. */
function mergeMinutes(windows: readonly Minutes[]): Minutes[] {
  const flat = union(windows)
  return Array.from({ length: flat.length / 2 }, (_, i): Minutes => [flat[i * 2] ?? 0, flat[i * 2 + 1] ?? 0])
}
