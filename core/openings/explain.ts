import { DAY, dateToDays, formatDate, formatInstant, isoWeekOf, MINUTE } from '../time/civil'
import { type Bounds, covers, eachInterval, type Intervals } from '../time/intervals'
import { type Zone, zoneOf } from '../time/zone'
import { openOf, openedOverStarts } from './able-starts'
import type { Compiled, CompiledHost } from './compile'
import { candidateStarts, jointHours } from './grid'
import { distinctHosts } from './matching'
import { hoursOfHosts, startsInTime } from './offered'
import { planHours } from './windows'

export type Reason =
  | { code: 'leadTime', earliest: string }
  | { code: 'beforeHorizon' | 'beyondHorizon', limit: string }
  | { code: 'totalDailyLimit' | 'totalWeeklyLimit', count: number, limit: number }
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

/** Why each of some instants is offered or not, in the order given: all reasons that apply, none hiding another. */
export function explainStarts(compiled: Compiled, instants: readonly number[]): Explanation[] {
  const days = new Map<number, ExplainedDay>()
  return instants.map((at) => {
    const reasons = [...startReasons(compiled, at)]
    if (compiled.joinable.has(at)) return { at: formatInstant(at), offered: reasons.length === 0, reasons }
    const day = compiled.zone.dayOf(at)
    reasons.push(...totalReasons(compiled, day))
    const inTime = reasons.length === 0
    let known = days.get(day)
    if (!known) days.set(day, known = explainedDay(compiled, day))
    const table = tableReasons(compiled, known, at)
    const offered = inTime && table.possible
    return { at: formatInstant(at), offered, reasons: offered ? [] : [...reasons, ...table.reasons] }
  })
}

/** What all instants of one local date share. */
interface ExplainedDay {
  day: number
  hours: ReadonlyMap<CompiledHost, Intervals>
  /** The grid starts on this date, ascending. */
  grid: number[]
}

function explainedDay(compiled: Compiled, day: number): ExplainedDay {
  const { zone } = compiled
  // A clock that goes back across midnight shows a date again after the next one has begun.
  const [from, to] = [zone.startOfDay(day) - DAY, zone.startOfDay(day + 1) + DAY]
  const hours = hoursOfHosts(compiled, from, to)
  const grid = candidateStarts(compiled, jointHours(compiled, hours), from, to).filter(start => zone.dayOf(start) === day)
  return { day, hours, grid }
}

function* startReasons(compiled: Compiled, at: number): Generator<Reason> {
  if (startsInTime(compiled, at)) return
  const { earliest, horizon, zone } = compiled
  const day = zone.dayOf(at)
  if (at < earliest) yield { code: 'leadTime', earliest: formatInstant(earliest) }
  if (day < horizon.from) yield { code: 'beforeHorizon', limit: formatDate(horizon.from) }
  if (day > horizon.to) yield { code: 'beyondHorizon', limit: formatDate(horizon.to) }
}

/** Limits over all hosts: a session that is joined makes no new one, so they do not concern it. */
function* totalReasons({ total }: Compiled, day: number): Generator<Reason> {
  const [inDay, inWeek] = [total.perDay.get(day) ?? 0, total.perWeek.get(isoWeekOf(day)) ?? 0]
  if (total.daily !== null && inDay >= total.daily) yield { code: 'totalDailyLimit', count: inDay, limit: total.daily }
  if (total.weekly !== null && inWeek >= total.weekly) yield { code: 'totalWeeklyLimit', count: inWeek, limit: total.weekly }
}

/**
 * The hosts' side of the table: whether the session could take place at all, and what speaks against it
 * (the grid, then every host who is not able, even where another could fill the chair).
 */
function tableReasons(compiled: Compiled, { day, hours, grid }: ExplainedDay, at: number): { possible: boolean, reasons: Reason[] } {
  const reasons: Reason[] = []
  const onGrid = grid.includes(at)
  if (!onGrid) {
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
  return { possible: filled && onGrid, reasons }
}

/** Rule 5 for one host at a start on a local date: every reason against, none where the host is able. */
export function hostReasons(compiled: Compiled, host: CompiledHost, hours: Intervals, at: number, day: number): Reason[] {
  const { duration, before, after, dailyLimit, weeklyLimit } = compiled
  const end = at + duration
  const paddedStart = at - before
  const paddedEnd = end + after
  const reasons: Reason[] = []

  if (!covers(openOf(host, hours), at, end)) {
    reasons.push({ code: 'closed', host: host.id, ...(closedByException(host, at, end) ? { exception: true as const } : {}) })
  }
  if (!covers(openedOverStarts(compiled, host), at, at + 1)) {
    for (const [start, end] of overlapping(host.busy, paddedStart, paddedEnd)) {
      reasons.push({ code: 'busy', host: host.id, start: formatInstant(start), end: formatInstant(end) })
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
    const [first, last] = datesTouched(zone, start, end)
    return plan.exceptions.some(({ date }) => {
      const day = dateToDays(date)
      // A date that the zone skipped is touched by nothing.
      return day >= first && day <= last && zone.hasDay(day)
        && (plan.valid.from === null || plan.valid.from <= date)
        && (plan.valid.to === null || plan.valid.to >= date)
    })
  })
}

/**
 * The first and the last local date that [start, end) touches. Where the clocks change in between, every minute is looked at:
 * they may have gone back over midnight, as in St John's in 2006.
 */
function datesTouched(zone: Zone, start: number, end: number): [number, number] {
  const [first, last] = [zone.dayOf(start), zone.dayOf(end - 1)]
  if (zone.offsetAt(start) === zone.offsetAt(end - 1)) return [first, last]
  const days = [first, last]
  for (let at = start; at < end; at += MINUTE) days.push(zone.dayOf(at))
  return [Math.min(...days), Math.max(...days)]
}

function isFull(compiled: Compiled, at: number): boolean {
  return compiled.seats > 1 && compiled.hosts.some(host => host.sessions.some(session =>
    session.sameEventType && session.start === at && session.end === at + compiled.duration && session.seatsTaken >= compiled.seats))
}

/** The intervals (starts and ends one after another) that overlap [from, to), by start; empty ones overlap nothing. */
function overlapping(flat: Bounds, from: number, to: number): [number, number][] {
  const found: [number, number][] = []
  eachInterval(flat, (start, end) => {
    if (start < end && start < to && from < end) found.push([start, end])
  })
  return found.sort((a, b) => a[0] - b[0] || a[1] - b[1])
}
