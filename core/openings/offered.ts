import { formatInstant } from '../time/civil'
import type { Intervals } from '../time/intervals'
import { ableStarts, withinLimits } from './able'
import { type Compiled, type CompiledHost, MARGIN } from './compile'
import { candidateStarts, jointHours } from './grid'
import { distinctHosts } from './matching'
import { hoursOf } from './windows'

/** A start that a client may book now, with the able hosts of each chair (sorted by id). */
export interface Opening {
  start: string
  end: string
  /** Empty where the start is offered as a seat in an existing session. */
  able: Record<string, string[]>
  seatsLeft: number
  /** The session that is joined. */
  session?: string
}

/** The hours of every host, complete for starts within [from, to). */
export function hoursOfHosts(compiled: Compiled, from: number, to: number): Map<CompiledHost, Intervals> {
  const end = to + compiled.duration + MARGIN
  return new Map(compiled.hosts.map(host => [host, hoursOf(host.plans, from - MARGIN, end)]))
}

/** Rules 1 to 9 for all starts within the query's span, ascending. */
export function offeredStarts(compiled: Compiled): Opening[] {
  const { from, to, zone, chairs, joinable } = compiled
  if (from >= to) return []
  const hours = hoursOfHosts(compiled, from, to)
  const candidates = candidateStarts(compiled, jointHours(compiled, hours), from, to)
    .filter(start => startsInTime(compiled, start) && !joinable.has(start))
  const days = candidates.map(start => zone.dayOf(start))
  const able = chairs.map((): string[][] => candidates.map(() => []))
  const marked = new Map<CompiledHost, number[]>()

  chairs.forEach((chair, index) => {
    for (const host of [...chair.hosts].sort((a, b) => (a.id < b.id ? -1 : 1))) {
      let indices = marked.get(host)
      if (!indices) {
        indices = ableCandidates(compiled, host, candidates, days, ableStarts(compiled, host, hours.get(host) ?? []))
        marked.set(host, indices)
      }
      for (const candidate of indices) able[index]?.[candidate]?.push(host.id)
    }
  })

  const openings: Opening[] = []
  candidates.forEach((start, candidate) => {
    const perChair = able.map(hosts => hosts[candidate] ?? [])
    if (perChair.some(hosts => hosts.length === 0)) return
    if (perChair.length > 1 && !distinctHosts(perChair)) return
    openings.push({
      start: formatInstant(start),
      end: formatInstant(start + compiled.duration),
      able: Object.fromEntries(chairs.map((chair, index) => [chair.id, perChair[index] ?? []])),
      seatsLeft: compiled.seats,
    })
  })
  for (const [start, session] of joinable) {
    if (start < from || start >= to || !startsInTime(compiled, start)) continue
    openings.push({
      start: formatInstant(start),
      end: formatInstant(start + compiled.duration),
      able: {},
      seatsLeft: session.seatsLeft,
      session: session.id,
    })
  }
  return joinable.size === 0 ? openings : openings.sort((a, b) => (a.start < b.start ? -1 : 1))
}

/** Rule 6. */
export function startsInTime({ earliest, horizon, zone }: Compiled, start: number): boolean {
  if (start < earliest) return false
  const day = zone.dayOf(start)
  return day >= horizon.from && day <= horizon.to
}

/** The candidates (by index) at which a host is able: one walk over both sorted lists. */
function ableCandidates(
  compiled: Compiled, host: CompiledHost, candidates: readonly number[], days: readonly number[], starts: Intervals,
): number[] {
  const limited = compiled.dailyLimit !== null || compiled.weeklyLimit !== null
  const found: number[] = []
  let i = 0
  for (let c = 0; c < candidates.length && i < starts.length; c++) {
    const start = candidates[c] ?? 0
    while (i < starts.length && (starts[i + 1] ?? 0) <= start) i += 2
    if (i < starts.length && (starts[i] ?? 0) <= start && (!limited || withinLimits(compiled, host, days[c] ?? 0))) found.push(c)
  }
  return found
}
