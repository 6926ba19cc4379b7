import { distinctHosts } from '../openings/matching'
import { type Assignment, assignChosen, assignFairly, assignInOrder, poolAfter, type PoolHost } from '.'

/** Who sits in which chair. */

export interface ChairToFill {
  id: string
  /** What its rotation is remembered under: chairs that draw on one group share the group's. */
  poolId: string
  policy: 'fairShare' | 'order' | 'client'
  pool: PoolHost[]
}

export interface FilledChair<Chair extends ChairToFill = ChairToFill> {
  chair: Chair
  host: string
  assignment: Assignment
}

/** Who was picked for a chair, by the client or by a member. */
export interface ChosenHost {
  chairId: string
  host: string
}

/**
 * Fills the chairs of an opening in their order, never with a host that would leave a later chair unfillable.
 * `able` lists the able hosts of each chair by its id; `chosen` is who was picked for one of them, or null for anyone.
 * Throws RangeError where a chair cannot be filled.
 */
export function fillChairs<Chair extends ChairToFill>(
  chairs: readonly Chair[], able: Readonly<Record<string, readonly string[]>>, chosen: ChosenHost | null = null,
): FilledChair<Chair>[] {
  const taken = new Set<string>()
  const pools = new Map<string, PoolHost[]>()
  const isKept = (host: string, chair: ChairToFill) => host === chosen?.host && chair.id !== chosen.chairId
  const free = (chair: ChairToFill) => (able[chair.id] ?? []).filter(host => !taken.has(host) && !isKept(host, chair))
  return chairs.map((chair, index) => {
    const later = chairs.slice(index + 1)
    const field = new Set(free(chair).filter(host => distinctHosts(later.map(item => free(item).filter(other => other !== host))) !== null))
    const pool = pools.get(chair.poolId) ?? chair.pool
    const assignment = assign(chair.policy, pool, field, chair.id === chosen?.chairId ? chosen.host : undefined)
    pools.set(chair.poolId, poolAfter(pool, assignment))
    taken.add(assignment.host)
    return { chair, host: assignment.host, assignment }
  })
}

/** Decides by a chair's policy. Throws RangeError where nobody is able, or not the host who was chosen. */
export function assign(
  policy: ChairToFill['policy'], pool: readonly PoolHost[], able: ReadonlySet<string>, chosen?: string,
): Assignment {
  if (chosen !== undefined) return assignChosen(pool, able, chosen)
  return policy === 'order' ? assignInOrder(pool, able) : assignFairly(pool, able)
}
