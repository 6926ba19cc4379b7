import { randomUUID } from 'node:crypto'
import { sql } from 'drizzle-orm'
import type { Turn } from '../../core/rotation'
import type { FilledChair } from '../../core/rotation/chairs'
import type { LedgerEntry } from '../../core/rotation/ledger'
import { dateOf } from '../context'
import type { Batch } from '../database/batch'
import { assignments, turns } from '../database/schema'

/** Writes what rotation decides: a row of the ledger for each assignment, and what each host is owed after it. */

export interface AssignedBy {
  workspaceId: string
  sessionId: string
  kind: Exclude<LedgerEntry['kind'], 'returned'>
  /** Seconds since the epoch. */
  at: number
}

/** Adds assignments in the order in which they were decided. Write them under the locks of all hosts who were able. */
export function recordAssignments(
  batch: Batch, { workspaceId, sessionId, kind, at }: AssignedBy, filled: readonly FilledChair[],
): void {
  batch.insert(assignments, filled.map(({ chair, host, assignment }) => ({
    workspaceId, id: randomUUID(), poolId: chair.poolId, sessionId, chairId: chair.id, hostId: host, kind,
    policy: chair.policy, code: assignment.code, at: dateOf(at), turns: assignment.turns,
  })))
  saveTurns(batch, workspaceId, filled.flatMap(({ chair, host, assignment }) =>
    assignment.turns.map(turn => ({ poolId: chair.poolId, turn, assignedAt: turn.host === host ? at : turn.assignedAt }))))
}

/** Saves what hosts are owed after some changes, the last one of a host counting. */
export function saveTurns(
  batch: Batch, workspaceId: string, changed: readonly { poolId: string, turn: Turn, assignedAt: number | null }[],
): void {
  const last = new Map(changed.map(entry => [`${entry.poolId} ${entry.turn.host}`, entry]))
  batch.insert(turns, [...last.values()].map(({ poolId, turn, assignedAt }) => ({
    workspaceId, poolId, hostId: turn.host, credit: turn.credit + turn.change, assignedAt: assignedAt === null ? null : dateOf(assignedAt),
  })), { onConflict: sql`(workspace_id, pool_id, host_id) do update set credit = excluded.credit, assigned_at = excluded.assigned_at` })
}
