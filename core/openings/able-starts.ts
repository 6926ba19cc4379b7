import { isoWeekOf } from '../time/civil'
import { type Bounds, type Intervals, isAscending, sortByStart, startsWithin, subtract, union, unionOf } from '../time/intervals'
import type { Compiled, CompiledHost } from './compile'

/** Rule 2 in full: the host's hours and what is opened over for the host. */
export function openOf(host: CompiledHost, hours: Intervals): Intervals {
  return host.openedOver.length === 0 ? hours : unionOf([hours, union(host.openedOver)])
}

/** Rules 5a to 5c: the starts at which a host is able as far as hours, busy time and sessions go. */
export function ableStarts(compiled: Compiled, host: CompiledHost, hours: Intervals): Intervals {
  const fitting = startsWithin(openOf(host, hours), compiled.duration)
  const free = host.openedOver.length === 0
    ? withoutBlocks(compiled, fitting, host.busy)
    : subtract(fitting, subtract(blockedStarts(compiled, host.busy), openedOverStarts(compiled, host)))
  if (host.sessions.length === 0) return free
  return withoutBlocks(compiled, free, host.sessions.flatMap(session => [session.start - session.before, session.end + session.after]))
}

/** Rule 9: the starts whose whole session lies within a single interval opened over for the host. */
export function openedOverStarts({ duration }: Compiled, host: CompiledHost): Intervals {
  return union(host.openedOver.map((bound, i) => (i % 2 === 0 ? bound : bound - duration + 1)))
}

/** The starts whose padded session would overlap a block; empty blocks block nothing. */
function blockedStarts({ before, after, duration }: Compiled, blocks: Bounds): Intervals {
  const blocked: number[] = []
  for (let i = 0; i < blocks.length; i += 2) {
    const from = blocks[i] ?? 0
    const to = blocks[i + 1] ?? 0
    if (from < to) blocked.push(from - duration - after + 1, to + before)
  }
  return union(blocked)
}

/** Starts less those that `blockedStarts` gives, in one walk that makes no list of them: the inmost loop of it all. */
function withoutBlocks({ before, after, duration }: Compiled, starts: Intervals, bounds: Bounds): number[] {
  const blocks = isAscending(bounds) ? bounds : sortByStart(bounds)
  const reach = duration + after - 1
  const free: number[] = []
  let block = 0
  let blockedUntil = -Infinity
  for (let i = 0; i < starts.length; i += 2) {
    const end = starts[i + 1] ?? 0
    let from = Math.max(starts[i] ?? 0, blockedUntil)
    for (; block < blocks.length; block += 2) {
      const blockStart = blocks[block] ?? 0
      const blockEnd = blocks[block + 1] ?? 0
      if (blockStart - reach >= end) break
      if (blockStart >= blockEnd) continue
      if (blockStart - reach > from) free.push(from, Math.min(blockStart - reach, end))
      if (blockEnd + before > blockedUntil) blockedUntil = blockEnd + before
      if (blockedUntil > from) from = blockedUntil
    }
    if (from < end) free.push(from, end)
  }
  return free
}

/** Whether a limit over all hosts leaves no further session on a local date. */
export function isTotalReached({ total }: Compiled, day: number): boolean {
  return (total.perDay.get(day) ?? 0) >= (total.daily ?? Infinity) || (total.perWeek.get(isoWeekOf(day)) ?? 0) >= (total.weekly ?? Infinity)
}

/** Rule 5d for a start on a local date. */
export function withinLimits({ dailyLimit, weeklyLimit }: Compiled, host: CompiledHost, day: number): boolean {
  return (dailyLimit === null || (host.perDay.get(day) ?? 0) < dailyLimit)
    && (weeklyLimit === null || (host.perWeek.get(isoWeekOf(day)) ?? 0) < weeklyLimit)
}
