import { isoWeekOf } from '../time/civil'
import { type Intervals, startsWithin, subtract, union, unionOf } from '../time/intervals'
import type { Compiled, CompiledHost } from './compile'

/** Rule 2 in full: the host's hours and what is opened over for the host. */
export function openOf(host: CompiledHost, hours: Intervals): Intervals {
  return host.openedOver.length === 0 ? hours : unionOf([hours, union(host.openedOver)])
}

/** Rules 5a to 5c: the starts at which a host is able as far as hours, busy time and sessions go. */
export function ableStarts(compiled: Compiled, host: CompiledHost, hours: Intervals): Intervals {
  const fitting = startsWithin(openOf(host, hours), compiled.duration)
  const free = subtract(fitting, blockedStarts(compiled, host.sessions.flatMap(session =>
    [session.start - session.before, session.end + session.after])))
  const taken = blockedStarts(compiled, host.busy)
  return subtract(free, host.openedOver.length === 0 ? taken : subtract(taken, openedOverStarts(compiled, host)))
}

/** Rule 9: the starts whose whole session lies within a single interval opened over for the host. */
export function openedOverStarts({ duration }: Compiled, host: CompiledHost): Intervals {
  return union(host.openedOver.map((bound, i) => (i % 2 === 0 ? bound : bound - duration + 1)))
}

/** The starts whose padded session would overlap a block (starts and ends one after another); empty ones block nothing. */
function blockedStarts({ before, after, duration }: Compiled, blocks: readonly number[]): Intervals {
  const reach = duration + after - 1
  const blocked: number[] = []
  for (let i = 0; i < blocks.length; i += 2) {
    const from = blocks[i] ?? 0
    const to = blocks[i + 1] ?? 0
    if (from < to) blocked.push(from - reach, to + before)
  }
  return union(blocked)
}

/** Rule 5d for a start on a local date. */
export function withinLimits({ dailyLimit, weeklyLimit }: Compiled, host: CompiledHost, day: number): boolean {
  return (dailyLimit === null || (host.perDay.get(day) ?? 0) < dailyLimit)
    && (weeklyLimit === null || (host.perWeek.get(isoWeekOf(day)) ?? 0) < weeklyLimit)
}
