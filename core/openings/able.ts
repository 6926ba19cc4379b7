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
  const free = subtract(fitting, blockedStarts(compiled, host.sessions.map(session =>
    [session.start - session.before, session.end + session.after])))
  const taken = blockedStarts(compiled, host.busy)
  return subtract(free, host.openedOver.length === 0 ? taken : subtract(taken, openedOverStarts(compiled, host)))
}

/** Rule 9: the starts whose whole session lies within a single interval opened over for the host. */
export function openedOverStarts({ duration }: Compiled, host: CompiledHost): Intervals {
  return union(host.openedOver.map(([start, end]) => [start, end - duration + 1]))
}

/** The starts whose padded session would overlap a block of [from, to); empty blocks block nothing. */
function blockedStarts({ before, after, duration }: Compiled, blocks: readonly (readonly [number, number])[]): Intervals {
  return union(blocks.filter(([from, to]) => from < to).map(([from, to]) => [from - duration - after + 1, to + before]))
}

/** Rule 5d for a start on a local date. */
export function withinLimits({ dailyLimit, weeklyLimit }: Compiled, host: CompiledHost, day: number): boolean {
  return (dailyLimit === null || (host.perDay.get(day) ?? 0) < dailyLimit)
    && (weeklyLimit === null || (host.perWeek.get(isoWeekOf(day)) ?? 0) < weeklyLimit)
}
