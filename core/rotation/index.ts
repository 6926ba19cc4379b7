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

/** A host who was able, as rotation stood before an assignment, with what it changed in their credit. */
export interface Turn extends PoolHost {
  change: number
}

/**
 * `onlyOne`: nobody else was able; `soonest`: would fall behind soonest; `mostOwed`: nobody was owed enough yet; `first`: the
 * first of the list; `chosen`: by the client, or by whoever handed the session over.
 */
export const assignmentCodes = ['onlyOne', 'soonest', 'mostOwed', 'first', 'chosen'] as const
export type AssignmentCode = (typeof assignmentCodes)[number]

/** Who got a session, why, and every able host of the pool in its order: enough to decide it once more. */
export interface Assignment {
  host: string
  code: AssignmentCode
  turns: Turn[]
}

/** Rounding of credits kept as doubles must not decide. */
const EPSILON = 1e-9

/** Chooses among the able hosts of a pool. Throws RangeError where nobody is able. */
export function assignFairly(pool: readonly PoolHost[], able: ReadonlySet<string>): Assignment {
  const asked = pool.filter(entry => able.has(entry.host))
  const total = asked.reduce((sum, entry) => sum + entry.weight, 0)
  const gained = asked.map(entry => ({ ...entry, share: entry.weight / total, owed: entry.credit + entry.weight / total }))
  const delta = gained.length === 1 ? 0 : 1 / (2 * gained.length - 2)
  const owed = gained.filter(entry => entry.owed >= delta - EPSILON)
  const most = Math.max(...gained.map(entry => entry.owed))
  const field = owed.length > 0 ? owed : gained.filter(entry => entry.owed >= most - EPSILON)
  const patience = (entry: (typeof gained)[number]) => (1 - delta - entry.owed) / entry.share
  const chosen = [...field].sort((a, b) => {
    const difference = patience(a) - patience(b)
    return Math.abs(difference) > EPSILON ? difference : (a.assignedAt ?? -Infinity) - (b.assignedAt ?? -Infinity) || 0
  })[0]
  if (!chosen) throw new RangeError('Nobody of the pool is able')
  return {
    host: chosen.host,
    code: gained.length === 1 ? 'onlyOne' : owed.length > 0 ? 'soonest' : 'mostOwed',
    turns: gained.map(({ share, owed: _owed, ...entry }) => ({ ...entry, change: entry.host === chosen.host ? share - 1 : share })),
  }
}

/** The first able host in the pool's own order; nobody is owed anything for it. */
export function assignInOrder(pool: readonly PoolHost[], able: ReadonlySet<string>): Assignment {
  const turns = withoutChange(pool, able)
  const [first] = turns
  if (!first) throw new RangeError('Nobody of the pool is able')
  return { host: first.host, code: turns.length === 1 ? 'onlyOne' : 'first', turns }
}

/** The able host whom somebody picked: it is nobody's turn, so credits stay. Throws RangeError where that host is not able. */
export function assignChosen(pool: readonly PoolHost[], able: ReadonlySet<string>, host: string): Assignment {
  const turns = withoutChange(pool, able)
  if (!turns.some(turn => turn.host === host)) throw new RangeError('The chosen host is not able')
  return { host, code: 'chosen', turns }
}

function withoutChange(pool: readonly PoolHost[], able: ReadonlySet<string>): Turn[] {
  return pool.filter(entry => able.has(entry.host)).map(entry => ({ ...entry, change: 0 }))
}

/** The pool after an assignment at an instant, in seconds; without one, last turns stay as they are. */
export function poolAfter(pool: readonly PoolHost[], { host, turns }: Assignment, at?: number): PoolHost[] {
  return pool.map((entry) => {
    const turn = turns.find(candidate => candidate.host === entry.host)
    if (!turn) return entry
    return { ...entry, credit: entry.credit + turn.change, assignedAt: entry.host === host && at !== undefined ? at : entry.assignedAt }
  })
}
