/**
 * Sets of half-open intervals on a line of integers, as one flat sorted array
 * [start, end, start, end, …] whose intervals neither overlap nor touch nor are empty.
 */
export type Intervals = readonly number[]

/** The union of any pairs, in any order; empty and backward pairs are left out. */
export function union(pairs: readonly (readonly [number, number])[]): number[] {
  const sorted = pairs.filter(([start, end]) => start < end).sort((a, b) => a[0] - b[0])
  const result: number[] = []
  for (const [start, end] of sorted) {
    const last = result.length - 1
    if (last > 0 && start <= (result[last] ?? 0)) result[last] = Math.max(result[last] ?? 0, end)
    else result.push(start, end)
  }
  return result
}

/** The union of several sets. */
export function unionOf(sets: readonly Intervals[]): Intervals {
  if (sets.length === 1 && sets[0]) return sets[0]
  const pairs: [number, number][] = []
  for (const set of sets) eachInterval(set, (start, end) => pairs.push([start, end]))
  return union(pairs)
}

export function intersect(a: Intervals, b: Intervals): number[] {
  const result: number[] = []
  let i = 0
  let j = 0
  while (i < a.length && j < b.length) {
    const endA = at(a, i + 1)
    const endB = at(b, j + 1)
    const start = Math.max(at(a, i), at(b, j))
    const end = Math.min(endA, endB)
    if (start < end) result.push(start, end)
    if (endA <= endB) i += 2
    else j += 2
  }
  return result
}

/** What of `a` is not in `b`. */
export function subtract(a: Intervals, b: Intervals): number[] {
  const result: number[] = []
  let j = 0
  for (let i = 0; i < a.length; i += 2) {
    let start = at(a, i)
    const end = at(a, i + 1)
    while (j < b.length && at(b, j + 1) <= start) j += 2
    for (let k = j; k < b.length && at(b, k) < end; k += 2) {
      if (at(b, k) > start) result.push(start, at(b, k))
      start = Math.max(start, at(b, k + 1))
    }
    if (start < end) result.push(start, end)
  }
  return result
}

/** Whether [start, end) lies wholly within one interval of the set. */
export function covers(set: Intervals, start: number, end: number): boolean {
  const i = indexBefore(set, start)
  return i >= 0 && at(set, i + 1) >= end
}

/** The starts from which a stretch of `length` fits into the set, as half-open intervals of integers. */
export function startsWithin(set: Intervals, length: number): number[] {
  const pairs: [number, number][] = []
  eachInterval(set, (start, end) => pairs.push([start, end - length + 1]))
  return union(pairs)
}

export function eachInterval(set: Intervals, visit: (start: number, end: number) => void): void {
  for (let i = 0; i < set.length; i += 2) visit(at(set, i), at(set, i + 1))
}

/** Index of the last interval that starts at or before a point, or -1. */
function indexBefore(set: Intervals, point: number): number {
  let low = 0
  let high = set.length / 2
  while (low < high) {
    const middle = (low + high) >> 1
    if (at(set, middle * 2) <= point) low = middle + 1
    else high = middle
  }
  return low * 2 - 2
}

function at(set: Intervals, index: number): number {
  const value = set[index]
  if (value === undefined) throw new RangeError(`No interval bound at ${index}`)
  return value
}
