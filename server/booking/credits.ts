import { and, eq } from 'drizzle-orm'
import type { FilledChair } from '../../core/rotation/chairs'
import { dateOf } from '../context'
import type { Database } from '../database/connection'
import { chairHosts } from '../database/schema'
import type { PoolChair } from '../event-types'

/** Keeps what rotation remembers. Run it in the transaction that holds the hosts' locks. */
export async function saveCredits(db: Database, workspaceId: string, filled: readonly FilledChair<PoolChair>[], now: number): Promise<void> {
  for (const { chair, host, assignment } of filled) {
    for (const entry of chair.pool) {
      const credit = assignment.credits[entry.host]
      if (credit === undefined && entry.host !== host) continue
      await db.update(chairHosts)
        .set({ ...(credit === undefined ? {} : { credit }), ...(entry.host === host ? { assignedAt: dateOf(now) } : {}) })
        .where(and(eq(chairHosts.workspaceId, workspaceId), eq(chairHosts.chairId, chair.id), eq(chairHosts.hostId, entry.host)))
    }
  }
}
