import { planFor } from '../event-type/host-time'
import type { HoursPlan } from '../openings'
import { recurringDays } from '../openings/recurring'
import { DAY, dateToDays, instantToSeconds, MINUTE, parseClock, weekdayIndex, weekdays } from '../time/civil'
import { zoneOf } from '../time/zone'
import type { Facts } from './facts'
import type { Finding, Person, WayOut } from './finding'

/** Checks of the hours in which an event type is booked. */

const toHours = { kind: 'open', panel: 'hours' } as const
const toPlan = (id: string) => ({ kind: 'go', to: `/desk/hours/${id}` }) as const

export function planZones({ settings, pool, person }: Facts): Finding[] {
  const found = pool.flatMap(host => host.plans.filter(plan => plan.timeZone !== host.timeZone).map((plan): Finding => ({
    code: 'planZone', severity: 'look',
    values: { plan: plan.name, timeZone: plan.timeZone, host: person(host.id), hostTimeZone: host.timeZone },
    wayOut: toPlan(plan.id),
  })))
  if (settings.hours.mode !== 'replace') return found
  const { timeZone } = settings.hours.plan
  const away = pool.filter(host => host.timeZone !== timeZone)
  return away.length === 0 ? found : [...found, {
    code: 'hoursInAnotherZone', severity: 'look', values: { timeZone, hosts: away.map(host => person(host.id)) }, wayOut: toHours,
  }]
}

/** Weekly windows that hold a wall-clock time which a clock change of the coming year skips or repeats. */
export function clockChanges({ settings, pool, time, now, person }: Facts): Finding[] {
  const plans: { host: Person | null, plan: HoursPlan, wayOut: WayOut }[] = []
  if (settings.hours.mode !== 'hosts') plans.push({ host: null, plan: settings.hours.plan, wayOut: toHours })
  for (const { id } of settings.hours.mode === 'replace' ? [] : pool) {
    const known = time.find(candidate => candidate.id === id)
    const applying = known && planFor(known, settings.hours)
    if (applying) plans.push({ host: person(id), plan: applying.plan, wayOut: toPlan(applying.id) })
  }
  const first = instantToSeconds(now)
  return plans.flatMap(({ host, plan, wayOut }): Finding[] => {
    const change = changeWithin(plan, first)
    return change ? [{ code: 'clockChange', severity: 'look', values: { ...change, host, timeZone: plan.timeZone }, wayOut }] : []
  }).slice(0, 1)
}

function changeWithin(plan: HoursPlan, now: number): { day: number, from: string, to: string, minutes: number } | null {
  const zone = zoneOf(plan.timeZone)
  const first = zone.dayOf(now)
  for (let day = first; day < first + 366; day++) {
    if (zone.steadyOffset(day) !== null) continue
    const weekday = weekdays[weekdayIndex(day)]
    for (const { days, from, to } of plan.weekly) {
      if (!weekday || !days.includes(weekday)) continue
      const [begins, ends] = [parseClock(from) ?? 0, parseClock(to, true) ?? 0]
      const seconds = zone.toInstant(day * DAY + ends * MINUTE) - zone.toInstant(day * DAY + begins * MINUTE)
      if (seconds !== (ends - begins) * MINUTE) return { day, from, to, minutes: Math.round(seconds / MINUTE) }
    }
  }
  return null
}

export function ruleNeverHappens({ settings, now }: Facts): Finding[] {
  if (settings.hours.mode === 'hosts') return []
  const today = zoneOf(settings.hours.plan.timeZone).dayOf(instantToSeconds(now))
  return settings.hours.plan.recurring
    .filter(window => [...recurringDays(window.rrule, dateToDays(window.start), today, today + 2 * 366)].length === 0)
    .map(window => ({ code: 'ruleNeverHappens', severity: 'risky', values: { day: dateToDays(window.start) }, wayOut: toHours }))
}

export function planRunsOut({ settings, now }: Facts): Finding[] {
  if (settings.hours.mode === 'hosts' || settings.hours.plan.valid.to === null) return []
  const today = zoneOf(settings.hours.plan.timeZone).dayOf(instantToSeconds(now))
  const day = dateToDays(settings.hours.plan.valid.to)
  const isOver = day < today
  return day - today > 30 ? [] : [{
    code: 'planRunsOut', severity: isOver ? 'stops' : 'risky', values: { day, isOver }, wayOut: toHours,
  }]
}

export function holidaysNotChosen({ settings: { hours, horizon }, pool, person }: Facts): Finding[] {
  if (hours.mode !== 'hosts' && hours.plan.holidays.length > 0) return []
  if ('days' in horizon && horizon.days < 10) return []
  const without = hours.mode === 'replace' ? [] : pool.filter(host => !host.plans.some(plan => plan.holidays))
  if (hours.mode !== 'replace' && without.length === 0) return []
  const plan = without[0]?.plans[0]
  return [{
    code: 'holidaysNotChosen', severity: 'look',
    values: {
      hosts: without.map(host => person(host.id)),
      whose: hours.mode === 'replace' ? 'eventType' : without.length === pool.length && pool.length > 1 ? 'allHosts' : 'someHosts',
    },
    wayOut: plan ? toPlan(plan.id) : toHours,
  }]
}
