import { randomUUID } from 'node:crypto'
import { inArray, sql } from 'drizzle-orm'
import { lastTurnAfterReturn, type LedgerEntry, turnsGivenBack, turnsRetaken } from '../../core/rotation/ledger'
import { dateOf } from '../context'
import { Batch } from '../database/batch'
import type { Database } from '../database/connection'
import { assignments, hosts } from '../database/schema'
import type { Turn } from '../../core/rotation'
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
    const given = turnsGivenBack(assignment, await stateOf(tx, workspaceId, assignment))
    await writeTurns(tx, workspaceId, assignment, { kind: 'returned', at, returns: assignment.id, turns: given }, turn =>
      (turn.host === assignment.host ? lastTurnAfterReturn(assignment, turn.assignedAt) : turn.assignedAt))
  }
}

/** Takes the turns of a session again that were given back last, so that they count after all. Under the same locks. */
export async function retakeTurns(tx: Database, workspaceId: string, sessionId: string, at: number): Promise<void> {
  const ledger = await loadLedger(tx, workspaceId, { sessionId })
  const counting = standing(ledger)
  const seats = new Map(ledger.flatMap(({ returns, chair }) => {
    const returned = ledger.find(entry => entry.id === returns)
    return returned ? [[chair, returned]] : []
  }))
  for (const [chair, assignment] of seats) {
    if (counting.some(entry => entry.chair === chair)) continue
    const turns = turnsRetaken(assignment, await stateOf(tx, workspaceId, assignment))
    await writeTurns(tx, workspaceId, assignment, { kind: 'retaken', at, returns: null, turns }, turn =>
      (turn.host === assignment.host ? at : turn.assignedAt))
  }
}

async function stateOf(tx: Database, workspaceId: string, { pool, turns }: LedgerEntry) {
  const current = new Map((await loadTurns(tx, workspaceId, pool, turns)).map(entry => [entry.host, entry]))
  return (host: string) => current.get(host) ?? { credit: 0, assignedAt: null }
}

/** Adds a row of the ledger that is about an earlier one, and what each host is owed after it. */
async function writeTurns(
  tx: Database, workspaceId: string, { pool, session, chair, host, policy, code }: LedgerEntry,
  { kind, at, returns, turns }: Pick<LedgerEntry, 'kind' | 'at' | 'returns' | 'turns'>, lastTurn: (turn: Turn) => number | null,
): Promise<void> {
  const batch = new Batch()
  batch.insert(assignments, [{
    workspaceId, id: randomUUID(), poolId: pool, sessionId: session, chairId: chair, hostId: host, kind, policy, code,
    at: dateOf(at), returns, turns,
  }])
  saveTurns(batch, workspaceId, turns.map(turn => ({ poolId: pool, turn, assignedAt: lastTurn(turn) })))
  // Whoever decides on what these hosts are owed looks again.
  batch.update(sql`update ${hosts} set taken_stamp = taken_stamp + 1
    where ${hosts.workspaceId} = ${workspaceId} and ${inArray(hosts.id, turns.map(turn => turn.host))}`)
  await batch.write(tx)
}
