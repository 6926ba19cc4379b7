import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { assignFairly, assignInOrder, poolAfter, type PoolHost } from '.'
import { assign, fillChairs } from './chairs'
import { type LedgerEntry, lastTurnAfterReturn, replayLedger, turnsGivenBack, turnsRetaken } from './ledger'

function poolOf(weights: readonly number[]): PoolHost[] {
  return weights.map((weight, i) => ({ host: `h${i}`, weight, credit: 0, assignedAt: null }))
}

function play(pool: PoolHost[], able: ReadonlySet<string>, time: number): string {
  const assignment = assignFairly(pool, able)
  pool.splice(0, pool.length, ...poolAfter(pool, assignment, time))
  return assignment.host
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
    expect(assignFairly(poolOf([1, 1]), new Set(['h1']))).toMatchObject({ host: 'h1', code: 'onlyOne', turns: [{ host: 'h1', change: 0 }] })
    expect(assignFairly(poolOf([1, 2]), new Set(['h0', 'h1']))).toMatchObject({ host: 'h1' })
    expect(() => assignFairly(poolOf([1]), new Set())).toThrow(RangeError)
  })

  it('takes the first able host where the list decides', () => {
    expect(assignInOrder(poolOf([1, 1, 1]), new Set(['h2', 'h1']))).toMatchObject({ host: 'h1', code: 'first', turns: [{ change: 0 }, { change: 0 }] })
  })
})

describe('chairs', () => {
  const chair = (id: string, policy: 'fairShare' | 'order' | 'client', hosts: string[]) =>
    ({ id, poolId: id, policy, pool: hosts.map(host => ({ host, weight: 1, credit: 0, assignedAt: null })) })

  it('are filled in order, never with a host that a later chair cannot do without', () => {
    const chairs = [chair('lead', 'order', ['a', 'b', 'c']), chair('second', 'order', ['a', 'b']), chair('third', 'order', ['a'])]
    const filled = fillChairs(chairs, { lead: ['a', 'b', 'c'], second: ['a', 'b'], third: ['a'] })
    expect(filled.map(item => item.host)).toEqual(['c', 'b', 'a'])
  })

  it('go to whom somebody picked, and by fair share to anyone', () => {
    const chairs = [chair('host', 'client', ['a', 'b'])]
    const picked = { chairId: 'host', host: 'b' }
    expect(fillChairs(chairs, { host: ['a', 'b'] }, picked)).toMatchObject([{ host: 'b', assignment: { code: 'chosen', turns: [{ change: 0 }, { change: 0 }] } }])
    expect(fillChairs(chairs, { host: ['a', 'b'] })).toMatchObject([{ host: 'a', assignment: { turns: [{ change: -0.5 }, { change: 0.5 }] } }])
    expect(() => fillChairs(chairs, { host: ['a'] }, picked)).toThrow(RangeError)
    // Whoever is picked for one chair is not used up by another.
    const both = [chair('lead', 'order', ['b', 'a']), ...chairs]
    expect(fillChairs(both, { lead: ['b', 'a'], host: ['a', 'b'] }, picked).map(item => item.host)).toEqual(['a', 'b'])
  })

  it('that draw on one group take turns in it together', () => {
    const pool = { ...chair('first', 'fairShare', ['a', 'b', 'c']), poolId: 'group' }
    const filled = fillChairs([pool, { ...pool, id: 'second' }], { first: ['a', 'b', 'c'], second: ['a', 'b', 'c'] })
    expect(filled.map(item => item.host)).toEqual(['a', 'b'])
    // The second chair begins where the first one has left off.
    expect(filled[1]?.assignment.turns.map(({ host, credit }) => [host, Math.round(credit * 3)])).toEqual([['b', 1], ['c', 1]])
  })
})

/**
 * What happens to a pool: a session is assigned among some; one of the latest is cancelled, was missed and then attended
 * after all, or goes to somebody else.
 */
const steps = fc.array(fc.record({
  kind: fc.constantFrom('book', 'book', 'book', 'book', 'cancel', 'handOver', 'attendAfterAll'),
  able: fc.integer({ min: 1, max: 127 }),
  which: fc.nat(8),
  picks: fc.constantFrom(false, false, false, true),
}), { minLength: 60, maxLength: 120 })

describe('the ledger', () => {
  it('agrees with its replay at every step, sums to nothing, and comes back within two sessions of even', () => {
    fc.assert(fc.property(weightLists, steps, (weights, happening) => {
      let pool = poolOf(weights)
      const entries: LedgerEntry[] = []
      const standing: LedgerEntry[] = []
      const stateOf = (host: string) => pool.find(entry => entry.host === host) ?? { credit: 0, assignedAt: null }
      const book = (able: ReadonlySet<string>, at: number, chosen?: string) => {
        const assignment = assign('fairShare', pool, able, chosen)
        pool = poolAfter(pool, assignment, at)
        const entry: LedgerEntry = {
          id: `e${entries.length}`, pool: 'p', session: `s${entries.length}`, chair: 'c', kind: 'booked', policy: 'fairShare', at, returns: null,
          ...assignment,
        }
        entries.push(entry)
        standing.push(entry)
      }
      const giveBack = (entry: LedgerEntry, at: number) => {
        standing.splice(standing.indexOf(entry), 1)
        const given = turnsGivenBack(entry, stateOf)
        entries.push({ ...entry, id: `e${entries.length}`, kind: 'returned', returns: entry.id, at, turns: given })
        pool = pool.map((item) => {
          const change = given.find(turn => turn.host === item.host)?.change ?? 0
          const last = item.host === entry.host ? lastTurnAfterReturn(entry, item.assignedAt) : item.assignedAt
          return { ...item, credit: item.credit + change, assignedAt: last }
        })
      }
      const retake = (entry: LedgerEntry, at: number) => {
        const turns = turnsRetaken(entry, stateOf)
        const again: LedgerEntry = { ...entry, id: `e${entries.length}`, kind: 'retaken', at, turns }
        entries.push(again)
        standing.push(again)
        pool = poolAfter(pool, { ...again, turns }, at)
      }
      const check = () => {
        const { pools, faults } = replayLedger(entries)
        expect(faults).toEqual([])
        for (const [host, { credit, assignedAt }] of pools.get('p') ?? []) {
          expect(credit).toBeCloseTo(stateOf(host).credit, 6)
          expect(assignedAt).toBe(stateOf(host).assignedAt)
        }
        expect(pool.reduce((sum, entry) => sum + entry.credit, 0)).toBeCloseTo(0, 6)
      }
      happening.forEach(({ kind, able: mask, which, picks }, at) => {
        const able = pool.map(entry => entry.host).filter((_, i) => (mask >> i) % 2 === 1)
        const latest = standing.at(-1 - which)
        if (kind !== 'book' && latest) giveBack(latest, at)
        const others = kind === 'handOver' ? able.filter(host => host !== latest?.host) : able
        if (kind === 'attendAfterAll' && latest) retake(latest, at)
        else if (kind !== 'cancel' && others.length > 0) book(new Set(others), at, picks ? others[0] : undefined)
        check()
      })
      for (let n = 0; n < 60; n++) book(new Set(pool.map(entry => entry.host)), 1000 + n)
      check()
      for (const { credit } of pool) expect(Math.abs(credit)).toBeLessThanOrEqual(2)
    }), { numRuns: 40 })
  })

  it('shows a decision that was not what the rule gives, and a credit from nowhere', () => {
    const pool = poolOf([1, 2])
    const assignment = assignFairly(pool, new Set(['h0', 'h1']))
    const entry: LedgerEntry = {
      id: 'e', pool: 'p', session: 's', chair: 'c', kind: 'booked', policy: 'fairShare', at: 1, returns: null, ...assignment,
    }
    expect(replayLedger([entry]).faults).toEqual([])
    expect(replayLedger([{ ...entry, host: 'h0' }]).faults).toMatchObject([{ what: 'host', stored: 'h0', replayed: 'h1' }])
    const later = { ...entry, id: 'f', turns: entry.turns.map(turn => ({ ...turn, credit: 5 })) }
    expect(replayLedger([entry, later]).faults.map(fault => fault.what)).toContain('credit')
  })
})
