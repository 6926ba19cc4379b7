import { dateToDays, formatDate, formatInstant, isoWeekOf } from '../time/civil'
import { covers, type Intervals } from '../time/intervals'
import { zoneOf } from '../time/zone'
import { openOf, openedOverStarts } from './able'
import type { Compiled, CompiledHost } from './compile'
import { candidateStarts, jointHours } from './grid'
import { distinctHosts } from './matching'
import { hoursOfHosts, startsInTime } from './offered'
import { planHours } from './windows'

export type Reason =
  | { code: 'leadTime', earliest: string }
  | { code: 'beforeHorizon' | 'beyondHorizon', limit: string }
  | { code: 'offGrid', before: string | null, after: string | null }
  | { code: 'closed', host: string, exception?: true }
  | { code: 'busy', host: string, start: string, end: string }
  | { code: 'session', host: string, start: string, end: string, bufferOnly?: true }
  | { code: 'dailyLimit' | 'weeklyLimit', host: string, count: number, limit: number }
  | { code: 'full' }
  | { code: 'noDistinctHosts' }

export interface Explanation {
  at: string
  offered: boolean
  reasons: Reason[]
}

/** Why a start is offered or not: all reasons that apply, none hiding another. */
export function explainStart(compiled: Compiled, at: number): Explanation {
  const reasons = [...startReasons(compiled, at)]
  const inTime = reasons.length === 0
  if (compiled.joinable.has(at)) return { at: formatInstant(at), offered: inTime, reasons }
  const table = tableReasons(compiled, at)
  const offered = inTime && table.possible
  return { at: formatInstant(at), offered, reasons: offered ? [] : [...reasons, ...table.reasons] }
}

function* startReasons(compiled: Compiled, at: number): Generator<Reason> {
  if (startsInTime(compiled, at)) return
  const { earliest, horizon, zone } = compiled
  const day = zone.dayOf(at)
  if (at < earliest) yield { code: 'leadTime', earliest: formatInstant(earliest) }
  if (day < horizon.from) yield { code: 'beforeHorizon', limit: formatDate(horizon.from) }
  if (day > horizon.to) yield { code: 'beyondHorizon', limit: formatDate(horizon.to) }
}

/**
 * The hosts' side of the table: whether the session could take place at all, and what speaks against it
 * (the grid, then every host who is not able, even where another could fill the chair).
 */
function tableReasons(compiled: Compiled, at: number): { possible: boolean, reasons: Reason[] } {
  const day = compiled.zone.dayOf(at)
  const dayStart = Math.min(compiled.zone.startOfDay(day), at)
  const dayEnd = Math.max(compiled.zone.startOfDay(day + 1), at + 1)
  const hours = hoursOfHosts(compiled, dayStart, dayEnd)
  const reasons: Reason[] = []

  const grid = candidateStarts(compiled, jointHours(compiled, hours), dayStart, dayEnd)
    .filter(start => compiled.zone.dayOf(start) === day)
  if (!grid.includes(at)) {
    const before = grid.filter(start => start < at).at(-1)
    const after = grid.find(start => start > at)
    reasons.push({
      code: 'offGrid',
      before: before === undefined ? null : formatInstant(before),
      after: after === undefined ? null : formatInstant(after),
    })
  }

  const unable = new Map<CompiledHost, Reason[]>()
  for (const host of new Set(compiled.chairs.flatMap(chair => chair.hosts))) {
    const found = hostReasons(compiled, host, hours.get(host) ?? [], at, day)
    if (found.length > 0) unable.set(host, found)
  }
  reasons.push(...[...unable.values()].flat())
  if (isFull(compiled, at)) reasons.push({ code: 'full' })

  const able = compiled.chairs.map(chair => chair.hosts.filter(host => !unable.has(host)))
  const filled = distinctHosts(able) !== null
  if (!filled && able.every(hosts => hosts.length > 0)) reasons.push({ code: 'noDistinctHosts' })
  return { possible: filled && grid.includes(at), reasons }
}

function hostReasons(compiled: Compiled, host: CompiledHost, hours: Intervals, at: number, day: number): Reason[] {
  const { duration, before, after, dailyLimit, weeklyLimit } = compiled
  const end = at + duration
  const paddedStart = at - before
  const paddedEnd = end + after
  const reasons: Reason[] = []

  if (!covers(openOf(host, hours), at, end)) {
    reasons.push({ code: 'closed', host: host.id, ...(closedByException(host, at, end) ? { exception: true as const } : {}) })
  }
  if (!covers(openedOverStarts(compiled, host), at, at + 1)) {
    for (const [busyStart, busyEnd] of [...host.busy].sort(byStart)) {
      if (busyStart < busyEnd && busyStart < paddedEnd && paddedStart < busyEnd) {
        reasons.push({ code: 'busy', host: host.id, start: formatInstant(busyStart), end: formatInstant(busyEnd) })
      }
    }
  }
  for (const session of [...host.sessions].sort((a, b) => a.start - b.start || a.end - b.end)) {
    if (session.start - session.before >= paddedEnd || paddedStart >= session.end + session.after) continue
    const apart = session.start >= end || at >= session.end
    reasons.push({
      code: 'session',
      host: host.id,
      start: formatInstant(session.start),
      end: formatInstant(session.end),
      ...(apart ? { bufferOnly: true as const } : {}),
    })
  }
  const inDay = host.perDay.get(day) ?? 0
  if (dailyLimit !== null && inDay >= dailyLimit) reasons.push({ code: 'dailyLimit', host: host.id, count: inDay, limit: dailyLimit })
  const inWeek = host.perWeek.get(isoWeekOf(day)) ?? 0
  if (weeklyLimit !== null && inWeek >= weeklyLimit) reasons.push({ code: 'weeklyLimit', host: host.id, count: inWeek, limit: weeklyLimit })
  return reasons
}

/** Whether a plan that does not cover the session has an exception, within `valid`, on a date the session touches. */
function closedByException(host: CompiledHost, start: number, end: number): boolean {
  return host.plans.some((plan) => {
    if (covers(planHours(plan, start, end), start, end)) return false
    const zone = zoneOf(plan.timeZone)
    const [first, last] = [zone.dayOf(start), zone.dayOf(end - 1)]
    return plan.exceptions.some(({ date }) => {
      const day = dateToDays(date)
      return day >= first && day <= last
        && (plan.valid.from === null || plan.valid.from <= date)
        && (plan.valid.to === null || plan.valid.to >= date)
    })
  })
}

function isFull(compiled: Compiled, at: number): boolean {
  return compiled.seats > 1 && compiled.hosts.some(host => host.sessions.some(session =>
    session.sameEventType && session.start === at && session.end === at + compiled.duration && session.seatsTaken >= compiled.seats))
}

function byStart(a: readonly [number, number], b: readonly [number, number]): number {
  return a[0] - b[0] || a[1] - b[1]
}
