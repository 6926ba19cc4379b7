import { randomUUID } from 'node:crypto'
import { inArray, sql } from 'drizzle-orm'
import { lastTurnAfterReturn, turnsGivenBack } from '../../core/rotation/ledger'
import { dateOf } from '../context'
import { Batch } from '../database/batch'
import type { Database } from '../database/connection'
import { assignments, hosts } from '../database/schema'
import { loadLedger, loadTurns, standing } from './ledger'
import { saveTurns } from './record'

/**
 * Gives the turns of a session back, those of one chair where it is named: what its assignments gained and cost is undone
 * for everybody who was able. Call it under the lock of the session and of all these hosts (`lockSessionWithHosts`).
 */
export async function returnTurns(tx: Database, workspaceId: string, sessionId: string, at: number, chairId?: string): Promise<void> {
  const ledger = await loadLedger(tx, workspaceId, { sessionId })
  const returning = standing(ledger).filter(entry => chairId === undefined || entry.chair === chairId)
  // The last one first, as each was decided on what the one before had left.
  for (const assignment of returning.reverse()) {
    const ids = assignment.turns.map(turn => turn.host)
    const current = new Map((await loadTurns(tx, workspaceId, assignment.pool, assignment.turns)).map(entry => [entry.host, entry]))
    const given = turnsGivenBack(assignment, host => current.get(host) ?? { credit: 0, assignedAt: null })
    const batch = new Batch()
    batch.insert(assignments, [{
      workspaceId, id: randomUUID(), poolId: assignment.pool, sessionId, chairId: assignment.chair, hostId: assignment.host, kind: 'returned',
      policy: assignment.policy, code: assignment.code, at: dateOf(at), returns: assignment.id, turns: given,
    }])
    saveTurns(batch, workspaceId, given.map(turn => ({
      poolId: assignment.pool,
      turn,
      assignedAt: turn.host === assignment.host ? lastTurnAfterReturn(assignment, turn.assignedAt) : turn.assignedAt,
    })))
    // Whoever decides on what these hosts are owed looks again.
    batch.update(sql`update ${hosts} set taken_stamp = taken_stamp + 1
      where ${hosts.workspaceId} = ${workspaceId} and ${inArray(hosts.id, ids)}`)
    await batch.write(tx)
  }
}
