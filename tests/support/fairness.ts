import { eq, sql } from 'drizzle-orm'
import { expect } from 'vitest'
import { replayLedger } from '../../core/rotation/ledger'
import type { Context } from '../../server/context'
import { turns } from '../../server/database/schema'
import { loadLedger } from '../../server/rotation'

/** How many pairs of sessions overlap, with their buffers, under one host. */
export async function overlapsOf(context: Context, workspaceId: string): Promise<number> {
  const { rows } = await context.db.execute(sql`
    select 1 from session_hosts a join session_hosts b
      on a.workspace_id = b.workspace_id and a.host_id = b.host_id and a.session_id < b.session_id and a.padded && b.padded
    where a.active and b.active and a.workspace_id = ${workspaceId}`)
  return rows.length
}

/** What is stored of the rotation agrees with its ledger, played anew from the beginning. */
export async function checkLedger(context: Context, workspaceId: string): Promise<void> {
  const owed = await context.db.select().from(turns).where(eq(turns.workspaceId, workspaceId))
  for (const poolId of new Set(owed.map(row => row.poolId))) {
    const { pools, faults } = replayLedger(await loadLedger(context.db, workspaceId, { poolId }))
    expect(faults).toEqual([])
    const own = owed.filter(row => row.poolId === poolId)
    for (const { hostId, credit } of own) expect(pools.get(poolId)?.get(hostId)?.credit).toBeCloseTo(credit, 6)
    expect(own.reduce((sum, row) => sum + row.credit, 0)).toBeCloseTo(0, 6)
  }
}
