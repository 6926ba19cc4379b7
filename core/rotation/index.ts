/**
 * Fair share: who of a pool's able hosts gets the next session, after Tijdeman's chairman assignment
 * (R. Tijdeman, "The chairman assignment problem", Discrete Mathematics 32, 1980).
 */

export interface PoolHost {
  host: string
  weight: number
  /** What the host is owed, in sessions; changes only when the host was able. */
  credit: number
  /** Seconds since the epoch of the last assignment, or null for never. */
  assignedAt: number | null
}

export interface Assignment {
  host: string
  reason: AssignmentReason
  /** The new credit of every able host. */
  credits: Record<string, number>
}

export interface AssignmentReason {
  /** `onlyOne`: nobody else was able; `soonest`: would fall behind soonest; `mostOwed`: nobody was owed enough yet. */
  code: 'onlyOne' | 'soonest' | 'mostOwed' | 'first'
  able: string[]
  /** Credits after the gain and before the choice. */
  credits: Record<string, number>
}

/** Rounding of credits kept as doubles must not decide. */
const EPSILON = 1e-9

/** Chooses among the able hosts of a pool. Throws RangeError where nobody is able. */
export function assignFairly(pool: readonly PoolHost[], able: ReadonlySet<string>): Assignment {
  const asked = pool.filter(entry => able.has(entry.host))
  const total = asked.reduce((sum, entry) => sum + entry.weight, 0)
  const gained = asked.map(entry => ({ ...entry, share: entry.weight / total, credit: entry.credit + entry.weight / total }))
  const delta = gained.length === 1 ? 0 : 1 / (2 * gained.length - 2)
  const owed = gained.filter(entry => entry.credit >= delta - EPSILON)
  const most = Math.max(...gained.map(entry => entry.credit))
  const field = owed.length > 0 ? owed : gained.filter(entry => entry.credit >= most - EPSILON)
  const patience = (entry: (typeof gained)[number]) => (1 - delta - entry.credit) / entry.share
  const chosen = [...field].sort((a, b) => {
    const difference = patience(a) - patience(b)
    return Math.abs(difference) > EPSILON ? difference : (a.assignedAt ?? -Infinity) - (b.assignedAt ?? -Infinity) || 0
  })[0]
  if (!chosen) throw new RangeError('Nobody of the pool is able')
  const credits = Object.fromEntries(gained.map(entry => [entry.host, entry.credit]))
  return {
    host: chosen.host,
    reason: {
      code: gained.length === 1 ? 'onlyOne' : owed.length > 0 ? 'soonest' : 'mostOwed',
      able: gained.map(entry => entry.host),
      credits,
    },
    credits: { ...credits, [chosen.host]: (credits[chosen.host] ?? 0) - 1 },
  }
}

/** The first able host in the pool's own order. */
export function assignInOrder(pool: readonly PoolHost[], able: ReadonlySet<string>): Assignment {
  const chosen = pool.find(entry => able.has(entry.host))
  if (!chosen) throw new RangeError('Nobody of the pool is able')
  const inOrder = pool.filter(entry => able.has(entry.host)).map(entry => entry.host)
  return {
    host: chosen.host,
    reason: { code: inOrder.length === 1 ? 'onlyOne' : 'first', able: inOrder, credits: {} },
    credits: {},
  }
}
