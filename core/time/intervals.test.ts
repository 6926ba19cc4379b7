import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { covers, type Intervals, intersect, startsWithin, subtract, union, unionOf } from './intervals'

const END = 40
const pairs = fc.array(fc.tuple(fc.integer({ min: 0, max: END }), fc.integer({ min: 0, max: END })), { maxLength: 8 })

/** The slow and obvious form: which integers are in. */
function points(set: Intervals): boolean[] {
  return Array.from({ length: END }, (_, point) => set.some((start, i) => i % 2 === 0 && start <= point && point < (set[i + 1] ?? 0)))
}

const isTidy = (set: Intervals) => set.every((bound, i) => i === 0 || bound > (set[i - 1] ?? -1))

describe('intervals', () => {
  it('agree with sets of points', () => {
    fc.assert(fc.property(pairs, pairs, (left, right) => {
      const [a, b] = [union(left.flat()), union(right.flat())]
      const [inA, inB] = [points(a), points(b)]
      for (const [set, expected] of [
        [a, inA.map((_, point) => left.some(([from, to]) => from <= point && point < to))],
        [unionOf([a, b, [3, 5]]), inA.map((item, i) => item || inB[i] || i === 3 || i === 4)],
        [intersect(a, b), inA.map((item, i) => item && inB[i])],
        [subtract(a, b), inA.map((item, i) => item && !inB[i])],
      ] as const) {
        expect(points(set)).toEqual(expected)
        expect(isTidy(set)).toBe(true)
      }
    }))
  })

  it('say where a stretch fits', () => {
    fc.assert(fc.property(pairs, fc.integer({ min: 1, max: 10 }), (list, length) => {
      const set = union(list.flat())
      const inside = points(set)
      const fits = (start: number) => inside.slice(start, start + length).filter(Boolean).length === length
      expect(points(startsWithin(set, length))).toEqual(inside.map((_, start) => fits(start)))
      for (let start = 0; start < END; start++) expect(covers(set, start, start + length)).toBe(fits(start))
    }))
  })
})
