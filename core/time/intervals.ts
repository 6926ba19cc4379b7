/**
 * Sets of half-open intervals on a line of integers, as one flat sorted array
 * [start, end, start, end, …] whose intervals neither overlap nor touch nor are empty.
 */
export type Intervals = readonly number[]

/** Intervals one after another, of which nothing else is promised. */
export type Bounds = ArrayLike<number>

/** The union of any intervals written one after another, in any order; empty and backward ones are left out. */
export function union(flat: Bounds): Intervals {
  if (Array.isArray(flat) && isTidy(flat)) return flat
  return mergeAscending(isAscending(flat) ? flat : sortByStart(flat))
}

/** Whether bounds are a set already. */
function isTidy(flat: Bounds): boolean {
  for (let i = 1; i < flat.length; i++) if (at(flat, i) <= at(flat, i - 1)) return false
  return true
}

/** The union of several sets. */
export function unionOf(sets: readonly Intervals[]): Intervals {
  if (sets.length === 0) return []
  let round: readonly Intervals[] = [...new Set(sets)]
  while (round.length > 1) {
    const next: Intervals[] = []
    for (let i = 0; i < round.length; i += 2) next.push(unite(round[i] ?? [], round[i + 1] ?? []))
    round = next
  }
  return round[0] ?? []
}

/** The union of two sets, in one walk over both. */
function unite(a: Intervals, b: Intervals): Intervals {
  if (a.length === 0 || b.length === 0) return a.length === 0 ? b : a
  // Hosts of one pool mostly keep the same hours.
  if (a.length === b.length && a.every((bound, i) => bound === b[i])) return a
  const flat: number[] = []
  let i = 0
  let j = 0
  while (i < a.length || j < b.length) {
    if (j >= b.length || (i < a.length && at(a, i) <= at(b, j))) {
      flat.push(at(a, i), at(a, i + 1))
      i += 2
    } else {
      flat.push(at(b, j), at(b, j + 1))
      j += 2
    }
  }
  return mergeAscending(flat)
}

export function isAscending(flat: Bounds): boolean {
  for (let i = 2; i < flat.length; i += 2) if (at(flat, i) < at(flat, i - 2)) return false
  return true
}

export function sortByStart(flat: Bounds): number[] {
  const order = Uint32Array.from({ length: flat.length / 2 }, (_, i) => i * 2).sort((a, b) => at(flat, a) - at(flat, b))
  const sorted: number[] = []
  for (const i of order) sorted.push(at(flat, i), at(flat, i + 1))
  return sorted
}

function mergeAscending(flat: Bounds): number[] {
  const result: number[] = []
  let end = -Infinity
  for (let i = 0; i < flat.length; i += 2) {
    const from = at(flat, i)
    const to = at(flat, i + 1)
    if (from >= to) continue
    if (from > end) {
      result.push(from, to)
      end = to
    } else if (to > end) {
      result[result.length - 1] = to
      end = to
    }
  }
  return result
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
  const result: number[] = []
  for (let i = 0; i < set.length; i += 2) {
    const last = at(set, i + 1) - length
    if (last >= at(set, i)) result.push(at(set, i), last + 1)
  }
  return result
}

export function eachInterval(set: Bounds, visit: (start: number, end: number) => void): void {
  for (let i = 0; i < set.length; i += 2) visit(at(set, i), at(set, i + 1))
}

/** In ascending numbers, the index from `index` on of the first that is not before a bound: by doubling steps, then by halves. */
export function firstFrom(sorted: ArrayLike<number>, index: number, bound: number): number {
  let low = index
  let step = 1
  while (low + step < sorted.length && (sorted[low + step] ?? 0) < bound) {
    low += step
    step *= 2
  }
  let high = Math.min(low + step, sorted.length)
  while (low < high) {
    const middle = (low + high) >> 1
    if ((sorted[middle] ?? 0) < bound) low = middle + 1
    else high = middle
  }
  return low
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

function at(set: Bounds, index: number): number {
  const value = set[index]
  if (value === undefined) throw new RangeError(`No interval bound at ${index}`)
  return value
}
