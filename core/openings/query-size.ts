import { DAY, dateToDays, instantToSeconds } from '../time/civil'
import type { InputFault } from '../validation'
import { queryLimits } from './limits'
import { COUNTED_DAYS, countOf } from './rule'
import type { EngineQuery } from './engine-query'
import type { HoursPlan } from './schema'

type SizeLimits = Readonly<Record<'spanDays' | 'gridSteps' | 'seatSteps' | 'planDays' | 'ruleDays' | 'blocks' | 'explanations', number>>

/** Windows of one date that neither overlap nor touch: one every other minute. */
const MOST_WINDOWS_A_DAY = 720

/** Which part of a query is too large, or null. */
export function sizeFault(
  { from, to, eventType, hosts, openedOver, explain = [] }: EngineQuery,
  limits: SizeLimits = queryLimits,
): InputFault<'tooLarge'> | null {
  const [start, end] = [instantToSeconds(from), instantToSeconds(to)]
  const days = (end - start) / DAY + 5
  const step = eventType.startEveryMinutes * 60
  const handPicked = openedOver.reduce(
    (sum, entry) => sum + Math.max(0, Math.min(end, instantToSeconds(entry.end)) - Math.max(start, instantToSeconds(entry.start))),
    0,
  )
  const steps = (end - start + handPicked) / step
  const seats = eventType.chairs.reduce((sum, chair) => sum + chair.hosts.length, 0)
  const windows = hosts.flatMap(host => host.plans).reduce((sum, plan) => sum + 1 + Math.min(plan.weekly.length, MOST_WINDOWS_A_DAY), 0)
  const blocks = hosts.reduce((sum, host) => sum + host.busy.length / 2 + host.sessions.length, 0)
  const furthest = explain.reduce((latest, at) => Math.max(latest, instantToSeconds(at)), end)

  const amounts = [
    ['to', 'spanDays', days - 5],
    ['to', 'gridSteps', steps],
    ['to', 'seatSteps', steps * seats],
    ['to', 'planDays', days * windows],
    ['to', 'ruleDays', ruleDays(hosts, days, furthest)],
    ['hosts', 'blocks', blocks],
    ['explain', 'explanations', explain.length * hosts.length],
  ] as const
  const [path, size, amount] = amounts.find(([, name, found]) => found > limits[name]) ?? []
  return size === undefined ? null : { path, code: 'tooLarge', values: { size, amount: Math.ceil(amount), most: limits[size] } }
}

/** Days over which the counted rules of a plan must be followed from their start, up to a date (days since 1970-01-01). */
export function countedDays(recurring: HoursPlan['recurring'], until: number): number {
  return recurring.reduce(
    (sum, { rrule, start }) => sum + (countOf(rrule) === null ? 0 : Math.max(0, Math.min(until - dateToDays(start), COUNTED_DAYS))),
    0,
  )
}

/** A rule is followed over the span, or from its start where it counts its dates; the same rule only once. */
function ruleDays(hosts: EngineQuery['hosts'], days: number, furthest: number): number {
  const followed = new Map<string, number>()
  for (const { rrule, start } of hosts.flatMap(host => host.plans).flatMap(plan => plan.recurring)) {
    const since = (furthest - instantToSeconds(`${start}T00:00:00Z`)) / DAY
    followed.set(`${start} ${rrule}`, countOf(rrule) === null ? days : Math.max(0, Math.min(since, COUNTED_DAYS)))
  }
  return [...followed.values()].reduce((sum, next) => sum + next, 0)
}
