import { distinctHosts } from '../openings/matching'
import { type Assignment, assignFairly, assignInOrder, type PoolHost } from '.'

/** Who sits in which chair. */

export interface ChairToFill {
  id: string
  policy: 'fairShare' | 'order' | 'client'
  pool: PoolHost[]
}

export interface FilledChair<Chair extends ChairToFill = ChairToFill> {
  chair: Chair
  host: string
  assignment: Assignment
  /** The client picked this host. */
  chosen: boolean
}

/**
 * Fills the chairs of an opening in their order, never with a host that would leave a later chair unfillable.
 * `able` lists the able hosts of each chair by its id; `chosenHost` is the host the client picked, or undefined for anyone.
 * Throws RangeError where a chair cannot be filled.
 */
export function fillChairs<Chair extends ChairToFill>(
  chairs: readonly Chair[], able: Readonly<Record<string, readonly string[]>>, chosenHost?: string,
): FilledChair<Chair>[] {
  const taken = new Set<string>()
  const free = (chair: ChairToFill) => (able[chair.id] ?? []).filter(host => !taken.has(host))
  return chairs.map((chair, index) => {
    const later = chairs.slice(index + 1)
    const fitting = free(chair).filter(host => distinctHosts(later.map(item => free(item).filter(other => other !== host))) !== null)
    const chosen = chair.policy === 'client' && chosenHost !== undefined
    const field = new Set(chosen ? fitting.filter(host => host === chosenHost) : fitting)
    const assignment = chair.policy === 'order' ? assignInOrder(chair.pool, field) : assignFairly(chair.pool, field)
    taken.add(assignment.host)
    return { chair, host: assignment.host, assignment, chosen }
  })
}
