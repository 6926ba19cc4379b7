import { and, eq } from 'drizzle-orm'
import type { AssignmentView } from '../../core/views/rotation'
import { among } from '../database/among'
import type { Database } from '../database/connection'
import { chairs, hosts } from '../database/schema'
import { loadLedger, standing } from './ledger'

/** How each chair of a session came to its host, with names, the latest last. */
export async function viewAssignments(db: Database, workspaceId: string, sessionId: string): Promise<AssignmentView[]> {
  const ledger = await loadLedger(db, workspaceId, { sessionId })
  const chairIds = [...new Set(ledger.map(entry => entry.chair))]
  const hostIds = [...new Set(ledger.flatMap(entry => [entry.host, ...entry.turns.map(turn => turn.host)]))]
  if (chairIds.length === 0) return []
  const chairNames = new Map((await db.select({ id: chairs.id, name: chairs.name }).from(chairs)
    .where(and(eq(chairs.workspaceId, workspaceId), among(chairs.id, chairIds)))).map(row => [row.id, row.name]))
  const names = new Map((await db.select({ id: hosts.id, name: hosts.name }).from(hosts)
    .where(and(eq(hosts.workspaceId, workspaceId), among(hosts.id, hostIds)))).map(row => [row.id, row.name]))
  const nameOf = (id: string) => names.get(id) ?? ''
  const decided = ledger.filter(entry => entry.kind === 'booked' || entry.kind === 'handedOver' || entry.kind === 'moved')
  const counting = standing(ledger)
  // What was given back and taken again stands as it was decided.
  const stands = new Set(counting.flatMap(entry =>
    (entry.kind === 'retaken' ? decided.findLast(({ chair }) => chair === entry.chair)?.id ?? [] : entry.id)))
  return decided.map(entry => ({
    id: entry.id,
    chair: chairNames.get(entry.chair) ?? '',
    host: nameOf(entry.host),
    kind: entry.kind,
    code: entry.code,
    at: entry.at,
    returned: !stands.has(entry.id),
    turns: entry.turns.map(({ host, weight, credit, change, assignedAt }) => ({
      host: nameOf(host),
      weight,
      // What the choice cost is taken off again.
      owed: credit + change + (host === entry.host && change !== 0 ? 1 : 0),
      assignedAt,
    })),
  }))
}
