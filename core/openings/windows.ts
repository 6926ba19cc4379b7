import { DAY, MINUTE, dateToDays, parseClock, weekdayIndex, weekdays } from '../time/civil'
import { type Intervals, intersect, union } from '../time/intervals'
import { zoneOf } from '../time/zone'
import { recurringDays } from './recurring'
import type { HoursPlan } from './schema'

/** Windows of one date as wall-clock minutes, written one after another: merged, ascending. */
type Minutes = Intervals

/** Rule 1: the windows of a plan on the time line, complete for [from, to), as seconds since the epoch. */
export function planHours(plan: HoursPlan, from: number, to: number): Intervals {
  const zone = zoneOf(plan.timeZone)
  const first = Math.max(zone.dayOf(from) - 1, plan.valid.from === null ? -Infinity : dateToDays(plan.valid.from))
  const last = Math.min(zone.dayOf(to) + 1, plan.valid.to === null ? Infinity : dateToDays(plan.valid.to))
  const exceptions = new Map(plan.exceptions.map(({ date, windows }) => [dateToDays(date), union(windows.flatMap(minutesOf))]))
  const windows = plan.weekly.map(window => ({ days: window.days, minutes: minutesOf(window) }))
  const weekly = weekdays.map(day => union(windows.filter(window => window.days.includes(day)).flatMap(window => window.minutes)))
  const recurring = recurringWindows(plan, first, last)
  const flat: number[] = []
  for (let day = first; day <= last; day++) {
    const ofDay = (exceptions.size > 0 ? exceptions.get(day) : undefined)
      ?? usualWindows(weekly[weekdayIndex(day)] ?? [], recurring.size > 0 ? recurring.get(day) : undefined)
    if (ofDay.length === 0) continue
    const offset = zone.steadyOffset(day)
    if (offset === null && !zone.hasDay(day)) continue
    for (let i = 0; i < ofDay.length; i++) {
      const local = day * DAY + (ofDay[i] ?? 0) * MINUTE
      flat.push(offset === null ? zone.toInstant(local) : local - offset)
    }
  }
  return union(flat)
}

function usualWindows(weekly: Minutes, recurring: readonly number[] | undefined): Minutes {
  return recurring ? union([...weekly, ...recurring]) : weekly
}

/** Rule 2 without what is opened over: where all plans of a host are open. */
export function hoursOf(plans: readonly HoursPlan[], from: number, to: number): Intervals {
  return plans.map(plan => planHours(plan, from, to)).reduce((all, next) => intersect(all, next))
}

/** The recurring windows of each date, unmerged. */
function recurringWindows(plan: HoursPlan, first: number, last: number): Map<number, number[]> {
  const found = new Map<number, number[]>()
  for (const window of plan.recurring) {
    const minutes = minutesOf(window)
    for (const day of recurringDays(window.rrule, dateToDays(window.start), first, last)) {
      const others = found.get(day)
      if (others) others.push(...minutes)
      else found.set(day, [...minutes])
    }
  }
  return found
}

function minutesOf(window: { from: string, to: string }): [from: number, to: number] {
  return [parseClock(window.from) ?? 0, parseClock(window.to, true) ?? 0]
}
