import { DAY, formatInstant } from '../time/civil'
import { firstFrom, intersect, type Intervals, union } from '../time/intervals'
import { ableStarts, isTotalReached, withinLimits } from './able-starts'
import { type Compiled, type CompiledHost, type Joinable, MARGIN } from './compile'
import { candidateStarts, jointHours } from './grid'
import { type AbleHosts, seatTable } from './seat-table'
import { hoursOf } from './windows'

/** A start that a client may book now, with the able hosts of each chair (sorted by id). */
export interface Opening {
  start: string
  end: string
  /** Empty where the start is offered as a seat in an existing session. Neighbours may share one object. */
  able: AbleHosts
  seatsLeft: number
  /** The session that is joined. */
  session?: string
}

/** The hours of every host, complete for starts within [from, to). */
export function hoursOfHosts(compiled: Compiled, from: number, to: number): Map<CompiledHost, Intervals> {
  const end = to + compiled.duration
  // Hosts of one team mostly keep the same hours: worked out once.
  const known = new Map<string, Intervals>()
  return new Map(compiled.hosts.map((host) => {
    const text = JSON.stringify(host.plans)
    let hours = known.get(text)
    if (!hours) known.set(text, hours = hoursOf(host.plans, from - MARGIN, end))
    return [host, hours]
  }))
}

/** Rules 1 to 9 for all starts within the query's span, ascending. */
export function offeredStarts(compiled: Compiled): Opening[] {
  const openings: Opening[] = []
  eachOffered(compiled, (...start) => openings.push(openingAt(compiled, ...start)))
  return openings
}

/** A start that `eachOffered` visits, in words. */
export function openingAt(compiled: Compiled, start: number, able: AbleHosts, joined: Joinable | undefined): Opening {
  const [from, to] = [formatInstant(start), formatInstant(start + compiled.duration)]
  return joined
    ? { start: from, end: to, able, seatsLeft: joined.seatsLeft, session: joined.id }
    : { start: from, end: to, able, seatsLeft: compiled.seats }
}

const NOBODY: AbleHosts = {}

/** Like `offeredStarts`, but without building strings: visits each start in seconds, with the session that is joined there, if any. */
export function eachOffered(compiled: Compiled, visit: (start: number, able: AbleHosts, joined: Joinable | undefined) => void): void {
  const { from, to, joinable } = compiled
  if (from >= to) return
  const hours = hoursOfHosts(compiled, from, to)
  const inTotals = (starts: number[]) => withinTotals(compiled, freeOfJoinable(compiled, inTime(compiled, starts)))
  const candidates = inTotals(candidateStarts(compiled, jointHours(compiled, hours), from, to))
  const joins = [...joinable.keys()].filter(start => start >= from && start < to && startsInTime(compiled, start)).sort((a, b) => a - b)

  const table = seatTable(compiled)
  const { first, next, host } = toggleEvents(compiled, candidates, table.hosts, hours)
  let able: AbleHosts | null = null
  let join = 0
  for (let candidate = 0; candidate < candidates.length; candidate++) {
    let event = first[candidate] ?? 0
    if (event > 0) {
      for (; event > 0; event = next[event] ?? 0) table.toggle(host[event] ?? 0)
      able = table.able()
    }
    if (!able) continue
    const start = candidates[candidate] ?? 0
    while (join < joins.length && (joins[join] ?? 0) < start) visitJoin()
    visit(start, able, undefined)
  }
  while (join < joins.length) visitJoin()

  function visitJoin(): void {
    const start = joins[join++] ?? 0
    visit(start, NOBODY, joinable.get(start))
  }
}

/** Rule 6. */
export function startsInTime({ earliest, horizon, zone }: Compiled, start: number): boolean {
  if (start < earliest) return false
  const day = zone.dayOf(start)
  return day >= horizon.from && day <= horizon.to
}

/** Rule 6 for ascending starts: only those near the horizon's ends need their local date. */
function inTime(compiled: Compiled, starts: number[]): number[] {
  const { earliest, horizon } = compiled
  const sure = firstFrom(starts, 0, Math.max(earliest, (horizon.from + 2) * DAY))
  const unsure = firstFrom(starts, sure, (horizon.to - 1) * DAY)
  const holds = (start: number) => startsInTime(compiled, start)
  return starts.slice(0, sure).filter(holds).concat(starts.slice(sure, unsure), starts.slice(unsure).filter(holds))
}

/** The limits over all hosts. */
function withinTotals(compiled: Compiled, starts: number[]): number[] {
  const { daily, weekly } = compiled.total
  if (daily === null && weekly === null) return starts
  return dayRuns(compiled, starts).filter(run => !isTotalReached(compiled, run.day)).flatMap(run => starts.slice(run.from, run.to))
}

/** Where a session can be joined, no other is made. */
function freeOfJoinable({ joinable }: Compiled, starts: number[]): number[] {
  return joinable.size === 0 ? starts : starts.filter(start => !joinable.has(start))
}

/**
 * Events of a sweep line over the candidates: at each, the hosts that become able or unable, as linked lists. `first` of a
 * candidate is its first event (0 for none), `next` of an event the one after it, `host` who toggles.
 */
function toggleEvents(
  compiled: Compiled,
  candidates: readonly number[],
  hosts: readonly CompiledHost[],
  hours: ReadonlyMap<CompiledHost, Intervals>,
) {
  const runs = compiled.dailyLimit === null && compiled.weeklyLimit === null ? null : dayRuns(compiled, candidates)
  const first: number[] = new Array(candidates.length + 1).fill(0)
  const next = [0]
  const host = [0]
  hosts.forEach((item, index) => {
    const within = indicesWithin(candidates, ableStarts(compiled, item, hours.get(item) ?? []))
    const toggles = withinRuns(within, runs, day => withinLimits(compiled, item, day))
    for (let i = 0; i < toggles.length; i++) {
      const candidate = toggles[i] ?? 0
      next.push(first[candidate] ?? 0)
      first[candidate] = host.push(index) - 1
    }
  })
  return { first, next, host }
}

/** The candidates within a set of starts, as intervals of their indices: one walk over both. */
function indicesWithin(candidates: readonly number[], starts: Intervals): number[] {
  const found: number[] = []
  let candidate = 0
  for (let i = 0; i < starts.length && candidate < candidates.length; i += 2) {
    candidate = firstFrom(candidates, candidate, starts[i] ?? 0)
    const begin = candidate
    candidate = firstFrom(candidates, candidate, starts[i + 1] ?? 0)
    if (candidate === begin) continue
    // Where no candidate lies in a gap, nobody toggles: not at night, nor at noon.
    if (begin === found[found.length - 1]) found[found.length - 1] = candidate
    else found.push(begin, candidate)
  }
  return found
}

interface DayRun {
  day: number
  from: number
  to: number
}

/** Candidates that follow each other on one local date. */
function dayRuns({ zone }: Compiled, candidates: readonly number[]): DayRun[] {
  const runs: DayRun[] = []
  candidates.forEach((start, index) => {
    const day = zone.dayOf(start)
    const last = runs.at(-1)
    if (last?.day === day) last.to = index + 1
    else runs.push({ day, from: index, to: index + 1 })
  })
  return runs
}

/** Cuts intervals of indices down to the runs whose date is allowed. */
function withinRuns(indices: number[], runs: readonly DayRun[] | null, allowed: (day: number) => boolean): number[] {
  if (!runs) return indices
  const open = runs.filter(run => allowed(run.day)).flatMap(run => [run.from, run.to])
  return intersect(indices, union(open))
}
