import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { assignFairly, assignInOrder, type PoolHost } from '.'

function poolOf(weights: readonly number[]): PoolHost[] {
  return weights.map((weight, i) => ({ host: `h${i}`, weight, credit: 0, assignedAt: null }))
}

function play(pool: PoolHost[], able: ReadonlySet<string>, time: number): string {
  const { host, credits } = assignFairly(pool, able)
  for (const entry of pool) entry.credit = credits[entry.host] ?? entry.credit
  const chosen = pool.find(entry => entry.host === host)
  if (chosen) chosen.assignedAt = time
  return host
}

describe('fair share', () => {
  it('keeps every count within Tijdeman’s bound of its exact share', () => {
    fc.assert(fc.property(fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 2, maxLength: 7 }), (weights) => {
      const pool = poolOf(weights)
      const all = new Set(pool.map(entry => entry.host))
      const total = weights.reduce((sum, one) => sum + one, 0)
      const counts = new Map<string, number>()
      for (let n = 1; n <= 120; n++) {
        const host = play(pool, all, n)
        counts.set(host, (counts.get(host) ?? 0) + 1)
        for (const entry of pool) {
          // |count − n·w/W| ≤ 1 − 1/(2k−2), in whole numbers: all sides times W(2k−2).
          const distance = Math.abs((counts.get(entry.host) ?? 0) * total - n * entry.weight) * (2 * weights.length - 2)
          expect(distance).toBeLessThanOrEqual(total * (2 * weights.length - 3))
        }
      }
    }), { numRuns: 60 })
  })

  it('neither punishes nor floods who was away', () => {
    const pool = poolOf([1, 1, 1])
    for (let n = 0; n < 30; n++) play(pool, new Set(['h0', 'h1']), n)
    const after = Array.from({ length: 9 }, (_, n) => play(pool, new Set(['h0', 'h1', 'h2']), 100 + n))
    expect(after.filter(host => host === 'h2')).toHaveLength(3)
  })

  it('says why', () => {
    expect(assignFairly(poolOf([1, 1]), new Set(['h1']))).toMatchObject({ host: 'h1', reason: { code: 'onlyOne', able: ['h1'] } })
    expect(assignFairly(poolOf([1, 2]), new Set(['h0', 'h1']))).toMatchObject({ host: 'h1' })
    expect(() => assignFairly(poolOf([1]), new Set())).toThrow(RangeError)
  })

  it('takes the first able host where the list decides', () => {
    expect(assignInOrder(poolOf([1, 1, 1]), new Set(['h2', 'h1']))).toMatchObject({ host: 'h1', reason: { code: 'first' }, credits: {} })
  })
})
