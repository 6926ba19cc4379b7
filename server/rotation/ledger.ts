import { and, asc, eq, getTableColumns, sql, type SQL } from 'drizzle-orm'
import type { PoolHost } from '../../core/rotation'
import type { LedgerEntry } from '../../core/rotation/ledger'
import { secondsOf } from '../context'
import { among } from '../database/among'
import type { Database } from '../database/connection'
import { assignments, turns } from '../database/schema'

/** The ledger of a session or of a pool, in the order in which it was written. */
export async function loadLedger(
  db: Database, workspaceId: string, of: { sessionId: string } | { poolId: string },
): Promise<LedgerEntry[]> {
  const { able: _able, ...columns } = getTableColumns(assignments)
  const rows = await db.select(columns).from(assignments)
    .where(and(eq(assignments.workspaceId, workspaceId), isOf(of))).orderBy(asc(assignments.position))
  return rows.map(row => ({
    id: row.id,
    pool: row.poolId,
    session: row.sessionId,
    chair: row.chairId,
    kind: row.kind,
    policy: row.policy,
    host: row.hostId,
    code: row.code,
    at: secondsOf(row.at),
    returns: row.returns,
    turns: row.turns,
  }))
}

const A_PART = 25

/**
 * The ledger of a pool as JSON, part by part and as the database writes it: that of a large pool over years is more than
 * should be in memory at once.
 */
export async function* readLedger(db: Database, workspaceId: string, poolId: string): AsyncGenerator<string> {
  const isPool = and(eq(assignments.workspaceId, workspaceId), isOf({ poolId }))
  const rows = await db.select({ id: assignments.id }).from(assignments).where(isPool).orderBy(asc(assignments.position))
  const ids = rows.map(row => row.id)
  let before = '{"version":1,"entries":['
  for (let at = 0; at < ids.length; at += A_PART) {
    const [row] = await db.select({ text: sql<string>`string_agg(json_build_object(
      'id', id, 'pool', pool_id, 'session', session_id, 'chair', chair_id, 'kind', kind, 'policy', policy, 'host', host_id, 'code', code,
      'at', floor(extract(epoch from at)), 'returns', returns, 'turns', turns)::text, ',' order by position)` })
      .from(assignments).where(and(isPool, among(assignments.id, ids.slice(at, at + A_PART))))
    yield before + (row?.text ?? '')
    before = ','
  }
  yield ids.length > 0 ? ']}' : `${before}]}`
}

function isOf(of: { sessionId: string } | { poolId: string }): SQL {
  return 'sessionId' in of ? eq(assignments.sessionId, of.sessionId) : eq(assignments.poolId, of.poolId)
}

/** A pool with what its hosts are owed at present. */
export async function loadTurns(db: Database, workspaceId: string, poolId: string, pool: readonly PoolHost[]): Promise<PoolHost[]> {
  const known = new Map((await db.select().from(turns).where(and(eq(turns.workspaceId, workspaceId), eq(turns.poolId, poolId))))
    .map(row => [row.hostId, row]))
  return pool.map((entry) => {
    const turn = known.get(entry.host)
    return turn ? { ...entry, credit: turn.credit, assignedAt: turn.assignedAt ? secondsOf(turn.assignedAt) : null } : entry
  })
}

/** Those of a session's assignments that count: whose turn has not been given back. */
export function standing(ledger: readonly LedgerEntry[]): LedgerEntry[] {
  const returned = new Set(ledger.map(entry => entry.returns))
  return ledger.filter(entry => entry.kind !== 'returned' && !returned.has(entry.id))
}
