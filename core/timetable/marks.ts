import { firstFrom } from '../time/intervals'
import type { TimetableStart } from '.'

/** What a change does to a start. */
export type Mark = 'stays' | 'new' | 'gone'

/** Ascending starts before and after a change as one ascending list, those within [from, to). */
export function markStarts(before: ArrayLike<number>, after: ArrayLike<number>, from: number, to: number): TimetableStart<Mark>[] {
  const marked: TimetableStart<Mark>[] = []
  let was = firstFrom(before, 0, from)
  for (let is = firstFrom(after, 0, from); is < after.length && (after[is] ?? to) < to; is++) {
    const at = after[is] ?? 0
    for (; was < before.length && (before[was] ?? at) < at; was++) marked.push({ at: before[was] ?? 0, mark: 'gone' })
    const stays = before[was] === at
    if (stays) was++
    marked.push({ at, mark: stays ? 'stays' : 'new' })
  }
  for (; was < before.length && (before[was] ?? to) < to; was++) marked.push({ at: before[was] ?? 0, mark: 'gone' })
  return marked
}

/** How many of ascending starts lie within [from, to). */
export function countWithin(starts: ArrayLike<number>, from: number, to: number): number {
  return firstFrom(starts, 0, to) - firstFrom(starts, 0, from)
}
