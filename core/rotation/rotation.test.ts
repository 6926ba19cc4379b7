import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { assignFairly, assignInOrder, type PoolHost } from '.'
import { fillChairs } from './chairs'

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

/** A fraction that is never rounded. */
class Exact {
  constructor(readonly top: bigint, readonly bottom: bigint) {}

  static of(top: number, bottom = 1): Exact { return new Exact(BigInt(top), BigInt(bottom)) }
  plus(other: Exact): Exact { return new Exact(this.top * other.bottom + other.top * this.bottom, this.bottom * other.bottom).short() }
  minus(other: Exact): Exact { return this.plus(new Exact(-other.top, other.bottom)) }
  over(other: Exact): Exact { return new Exact(this.top * other.bottom, this.bottom * other.top).short() }
  compare(other: Exact): number { return Number(this.minus(other).top) }

  private short(): Exact {
    const divisor = (a: bigint, b: bigint): bigint => (b === 0n ? a : divisor(b, a % b))
    const by = divisor(this.top < 0n ? -this.top : this.top, this.bottom) * (this.bottom < 0n ? -1n : 1n)
    return new Exact(this.top / by, this.bottom / by)
  }
}

const [NONE, ONE] = [Exact.of(0), Exact.of(1)]

/** Tijdeman's choice as the paper has it, in fractions: the credits are changed, the chosen index is given. */
function chooseExactly(credits: Exact[], last: number[], weights: readonly number[], able: readonly number[]): number {
  const total = able.reduce((sum, i) => sum + (weights[i] ?? 0), 0)
  const share = (i: number) => Exact.of(weights[i] ?? 0, total)
  const credit = (i: number) => credits[i] ?? NONE
  for (const i of able) credits[i] = credit(i).plus(share(i))
  const delta = able.length === 1 ? NONE : Exact.of(1, 2 * able.length - 2)
  const most = able.map(credit).reduce((a, b) => (a.compare(b) >= 0 ? a : b))
  const owed = able.filter(i => credit(i).compare(delta) >= 0)
  const field = owed.length > 0 ? owed : able.filter(i => credit(i).compare(most) === 0)
  const patience = (i: number) => ONE.minus(delta).minus(credit(i)).over(share(i))
  const chosen = [...field].sort((a, b) => patience(a).compare(patience(b)) || (last[a] ?? 0) - (last[b] ?? 0) || a - b)[0] ?? 0
  credits[chosen] = credit(chosen).minus(ONE)
  return chosen
}

const weightLists = fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 2, maxLength: 7 })

describe('fair share', () => {
  it('keeps every credit within Tijdeman’s bound when all are able, in exact fractions, and chooses as they do', () => {
    fc.assert(fc.property(weightLists, (weights) => {
      const pool = poolOf(weights)
      const everybody = weights.map((_, i) => i)
      const all = new Set(pool.map(entry => entry.host))
      const [credits, last] = [weights.map(() => NONE), weights.map(() => -1)]
      const bound = ONE.minus(Exact.of(1, 2 * weights.length - 2))
      for (let n = 0; n < 100; n++) {
        const chosen = chooseExactly(credits, last, weights, everybody)
        last[chosen] = n
        expect(play(pool, all, n)).toBe(`h${chosen}`)
        for (const credit of credits) {
          expect(credit.compare(bound), 'behind by more than the bound').toBeLessThanOrEqual(0)
          expect(credit.plus(bound).compare(NONE), 'ahead by more than the bound').toBeGreaterThanOrEqual(0)
        }
      }
    }), { numRuns: 100 })
  })

  it('keeps credits within two sessions of even when hosts are able at random, and chooses as exact fractions do', () => {
    fc.assert(
      fc.property(weightLists, fc.array(fc.integer({ min: 1, max: 126 }), { minLength: 100, maxLength: 100 }), (weights, absences) => {
        const pool = poolOf(weights)
        const [credits, last] = [weights.map(() => NONE), weights.map(() => -1)]
        absences.forEach((mask, n) => {
          const able = weights.map((_, i) => i).filter(i => (mask >> i) % 2 === 1)
          if (able.length === 0) return
          const chosen = chooseExactly(credits, last, weights, able)
          last[chosen] = n
          expect(play(pool, new Set(able.map(i => `h${i}`)), n)).toBe(`h${chosen}`)
          for (const entry of pool) expect(Math.abs(entry.credit)).toBeLessThanOrEqual(2)
        })
      }),
      { numRuns: 100 },
    )
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

describe('chairs', () => {
  const chair = (id: string, policy: 'fairShare' | 'order' | 'client', hosts: string[]) =>
    ({ id, policy, pool: hosts.map(host => ({ host, weight: 1, credit: 0, assignedAt: null })) })

  it('are filled in order, never with a host that a later chair cannot do without', () => {
    const chairs = [chair('lead', 'order', ['a', 'b', 'c']), chair('second', 'order', ['a', 'b']), chair('third', 'order', ['a'])]
    const filled = fillChairs(chairs, { lead: ['a', 'b', 'c'], second: ['a', 'b'], third: ['a'] })
    expect(filled.map(item => item.host)).toEqual(['c', 'b', 'a'])
  })

  it('go to whom the client picked, and by fair share to anyone', () => {
    const chairs = [chair('host', 'client', ['a', 'b'])]
    expect(fillChairs(chairs, { host: ['a', 'b'] }, 'b')).toMatchObject([{ host: 'b', chosen: true }])
    expect(fillChairs(chairs, { host: ['a', 'b'] })).toMatchObject([{ host: 'a', chosen: false }])
    expect(() => fillChairs(chairs, { host: ['a'] }, 'b')).toThrow(RangeError)
  })
})
