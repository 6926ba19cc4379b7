import { and, asc, eq, sql } from 'drizzle-orm'
import { replayLedger } from '../../core/rotation/ledger'
import { type Context, dateOf } from '../context'
import { assignments, turns, workspaces } from '../database/schema'
import { type SweepFinding, sweepRooms } from '../rooms'
import { loadLedger } from '../rotation'
import { rowPromises } from './promises'

/** Whether an installation does what it promises: its rows, its rotation, and through the ports what its services have. */

export interface BrokenPromise {
  name: string
  workspaceId: string
  /** The id of what it is about: a session, a booking, a pool. */
  subject: string
  detail: string
}

export interface Audit {
  broken: BrokenPromise[]
  /** What could not be looked at, or is nobody's fault here. */
  notes: string[]
}

const SHOWN = 200

export async function audit(context: Context): Promise<Audit> {
  const broken: BrokenPromise[] = []
  const now = dateOf(context.now())
  for (const { name, query } of rowPromises) {
    const { rows } = await context.db.execute<{ workspace: string, subject: string, detail: string }>(sql`${query(now)} limit ${SHOWN}`)
    broken.push(...rows.map(({ workspace, subject, detail }) => ({ name, workspaceId: workspace, subject, detail })))
  }
  broken.push(...await auditRotation(context))
  const found = await sweepRooms(context, { mends: false })
  const { rooms, notes } = ofRooms(found ?? [])
  return { broken: [...broken, ...rooms], notes: found ? notes : ['Rooms were not looked at: a sweep is under way'] }
}

/** Stored credits against a replay of every pool's ledger. */
async function auditRotation({ db }: Context): Promise<BrokenPromise[]> {
  const pools = await db.selectDistinct({ workspaceId: assignments.workspaceId, poolId: assignments.poolId }).from(assignments)
    .orderBy(asc(assignments.workspaceId), asc(assignments.poolId))
  const stored = new Map((await db.select().from(turns)).map(row => [`${row.workspaceId} ${row.poolId} ${row.hostId}`, row.credit]))
  const broken: BrokenPromise[] = []
  for (const { workspaceId, poolId } of pools) {
    const replay = replayLedger(await loadLedger(db, workspaceId, { poolId }))
    const about = { workspaceId, subject: poolId }
    broken.push(...replay.faults.slice(0, SHOWN).map(({ entry, what, stored: was, replayed }) =>
      ({ ...about, name: 'an assignment is not what the rule gives', detail: `${what} of ${entry}: ${was}, by the rule ${replayed}` })))
    for (const [hostId, { credit }] of replay.pools.get(poolId) ?? []) {
      const kept = stored.get(`${workspaceId} ${poolId} ${hostId}`)
      if (kept === undefined || Math.abs(kept - credit) > 1e-6)
        broken.push({ ...about, name: 'a credit is not what the assignments add up to', detail: `host ${hostId}: ${kept ?? 'none'}, replayed ${credit}` })
    }
  }
  return broken
}

const roomWords: Record<Exclude<SweepFinding['kind'], 'unknown' | 'notAsked'>, string> = {
  noRoom: 'a session has no room, and nothing works on one',
  notInStep: 'a room is lost, or not as its session is',
  noSession: 'a room is there without a session',
  doubled: 'a session has two rooms',
  deadLink: 'nothing answers at a session’s link',
}

function ofRooms(found: readonly SweepFinding[]): { rooms: BrokenPromise[], notes: string[] } {
  const rooms: BrokenPromise[] = []
  const notes: string[] = []
  for (const finding of found) {
    if (finding.kind === 'notAsked') notes.push(`${finding.service} could not be asked for the rooms under ${finding.account}`)
    else if (finding.kind === 'unknown') notes.push(`${finding.service} has ${finding.rooms} rooms under ${finding.account} that are not of this installation`)
    else {
      rooms.push({
        name: roomWords[finding.kind], workspaceId: finding.workspaceId, subject: finding.sessionId, detail: 'service' in finding ? finding.service : '',
      })
    }
  }
  return { rooms, notes }
}

/** The nightly audit: what it finds waits for the owners. */
export async function auditNightly(context: Context): Promise<void> {
  const { broken } = await audit(context)
  const names = new Map<string, Set<string>>()
  for (const { workspaceId, name } of broken) names.set(workspaceId, (names.get(workspaceId) ?? new Set()).add(name))
  const all = await context.db.select({ id: workspaces.id }).from(workspaces)
  for (const { id } of all) {
    const found = [...names.get(id) ?? []]
    await context.db.update(workspaces).set({ brokenPromises: found })
      .where(and(eq(workspaces.id, id), sql`${workspaces.brokenPromises} <> ${JSON.stringify(found)}::jsonb`))
  }
}
