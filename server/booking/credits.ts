import { sql } from 'drizzle-orm'
import type { FilledChair } from '../../core/rotation/chairs'
import { dateOf } from '../context'
import type { Batch } from '../database/batch'
import { chairHosts } from '../database/schema'
import type { PoolChair } from '../event-types'

/** Saves what rotation remembers. Write it in the transaction that holds the hosts' locks. */
export function saveCredits(batch: Batch, workspaceId: string, filled: readonly FilledChair<PoolChair>[], now: number): void {
  const rows = filled.flatMap(({ chair, host: chosen, assignment }) => chair.pool.flatMap(({ host, credit }) => {
    const after = assignment.credits[host]
    if (after === undefined && host !== chosen) return []
    return [{ chair: chair.id, host, credit: after ?? credit, chosen: host === chosen }]
  }))
  if (rows.length === 0) return
  batch.update(sql`
    update ${chairHosts} set credit = next.credit,
      assigned_at = case when next.chosen then ${dateOf(now).toISOString()}::timestamptz else ${chairHosts.assignedAt} end
    from json_to_recordset(${JSON.stringify(rows)}::json) as next(chair uuid, host uuid, credit double precision, chosen boolean)
    where ${chairHosts.workspaceId} = ${workspaceId} and ${chairHosts.chairId} = next.chair and ${chairHosts.hostId} = next.host`)
}
