import { eachInterval, intersect, type Intervals, unionOf } from '../time/intervals'
import type { Compiled, CompiledHost } from './compile'

/** Rule 3: where every chair has a host within hours, whatever is opened over. */
export function jointHours(compiled: Compiled, hours: ReadonlyMap<CompiledHost, Intervals>): Intervals {
  return compiled.chairs
    .map(chair => unionOf(chair.hosts.map(host => hours.get(host) ?? [])))
    .reduce((all, next) => intersect(all, next))
}

/** Rule 4: candidate starts within [from, to), ascending, each once. */
export function candidateStarts(compiled: Compiled, joint: Intervals, from: number, to: number): number[] {
  const starts: number[] = []
  eachInterval(joint, (start, end) => eachDayPiece(compiled, start, end, from, to, stepThrough))
  if (compiled.openedOver.length === 0) return starts
  eachInterval(compiled.openedOver, stepThrough)
  return [...new Set(starts)].sort((a, b) => a - b)

  function stepThrough(start: number, end: number): void {
    const skipped = Math.max(0, Math.ceil((from - start) / compiled.step))
    const limit = Math.min(end, to)
    for (let at = start + skipped * compiled.step; at < limit; at += compiled.step) starts.push(at)
  }
}

/** Cuts [start, end) at each midnight of the event type's zone; visits pieces that reach into [from, to). */
function eachDayPiece(
  { zone }: Compiled, start: number, end: number, from: number, to: number, visit: (start: number, end: number) => void,
): void {
  let pieceStart = start
  for (let day = zone.dayOf(start) + 1; pieceStart < end && pieceStart < to; day++) {
    const midnight = zone.startOfDay(day)
    if (midnight <= pieceStart) continue
    const pieceEnd = Math.min(midnight, end)
    if (pieceEnd > from) visit(pieceStart, pieceEnd)
    pieceStart = pieceEnd
  }
}
