import { and, eq } from 'drizzle-orm'
import { distinctHosts, type Opening } from '../../core/openings'
import { type Assignment, assignFairly, assignInOrder } from '../../core/rotation'
import { dateOf } from '../context'
import type { Database } from '../database/connection'
import { chairHosts } from '../database/schema'
import type { EventType, PoolChair } from '../event-types'

export interface SeatedHost {
  chair: PoolChair
  hostId: string
  assignment: Assignment
  chosen: boolean
}

/** Fills the chairs of an opening in order, never with a host that would leave a later chair unfillable. */
export function fillChairs(eventType: EventType, opening: Opening, wantedHost: string | undefined): SeatedHost[] {
  const seated: SeatedHost[] = []
  const taken = new Set<string>()
  eventType.chairs.forEach((chair, index) => {
    const free = (one: PoolChair) => (opening.able[one.id] ?? []).filter(host => !taken.has(host))
    const later = eventType.chairs.slice(index + 1)
    const able = free(chair).filter(host => distinctHosts(later.map(one => free(one).filter(other => other !== host))) !== null)
    const wanted = chair.policy === 'client' && wantedHost !== undefined
    const field = new Set(wanted ? able.filter(host => host === wantedHost) : able)
    const assignment = chair.policy === 'order' ? assignInOrder(chair.pool, field) : assignFairly(chair.pool, field)
    taken.add(assignment.host)
    seated.push({ chair, hostId: assignment.host, assignment, chosen: wanted })
  })
  return seated
}

/** Keeps what rotation remembers. Run it in the transaction that holds the hosts' locks. */
export async function keepCredits(db: Database, workspaceId: string, seated: readonly SeatedHost[], now: number): Promise<void> {
  for (const { chair, hostId, assignment } of seated) {
    for (const entry of chair.pool) {
      const credit = assignment.credits[entry.host]
      if (credit === undefined && entry.host !== hostId) continue
      await db.update(chairHosts)
        .set({ ...(credit === undefined ? {} : { credit }), ...(entry.host === hostId ? { assignedAt: dateOf(now) } : {}) })
        .where(and(eq(chairHosts.workspaceId, workspaceId), eq(chairHosts.chairId, chair.id), eq(chairHosts.hostId, entry.host)))
    }
  }
}
