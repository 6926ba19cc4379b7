import { and, asc, eq, sql } from 'drizzle-orm'
import type pg from 'pg'
import { type Database, onConnection } from './connection'
import { preparedQuery } from './prepared-query'
import { Overtaken } from './faults'
import { hosts, sessions } from './schema'

/** Somebody else holds the lock; whoever wanted it must come back. */
export class LockBusy extends Error {
  constructor(name: string) {
    super(`The lock “${name}” is held`)
    this.name = 'LockBusy'
  }
}

/**
 * Runs work while holding a lock that ends with the process. Throws LockBusy at once where somebody else holds it. Keeps
 * two processes from making the same room or sending the same mail.
 */
export async function withLock<Result>(pool: pg.Pool, name: string, work: (db: Database) => Promise<Result>): Promise<Result> {
  const client = await pool.connect()
  let broken: Error | undefined
  try {
    const { rows } = await client.query<{ locked: boolean }>('select pg_try_advisory_lock(hashtextextended($1, 0)) as locked', [name])
    if (!rows[0]?.locked) throw new LockBusy(name)
    try {
      return await work(onConnection(client))
    } finally {
      // Where the connection is gone, so is the lock, and the work may have been done on another.
      await client.query('select pg_advisory_unlock(hashtextextended($1, 0))', [name]).catch((error: Error) => (broken = error))
    }
  } catch (error) {
    if (!(error instanceof LockBusy)) broken = error instanceof Error ? error : new Error(String(error))
    throw error
  } finally {
    client.release(broken)
  }
}

/** Takes the row locks of hosts, in the order of their ids, so that nobody waits for each other in a circle. */
export async function lockHosts(db: Database, workspaceId: string, hostIds: readonly string[]): Promise<void> {
  await db
    .select({ id: hosts.id })
    .from(hosts)
    .where(and(eq(hosts.workspaceId, workspaceId), sql`${hosts.id} = any(${sql.param([...hostIds])}::uuid[])`))
    .orderBy(asc(hosts.id))
    .for('no key update')
}

const sessionLock = preparedQuery(db => db.select({ id: sessions.id }).from(sessions)
  .where(and(eq(sessions.workspaceId, sql.placeholder('workspaceId')), eq(sessions.id, sql.placeholder('sessionId'))))
  .for('no key update').prepare(''))

/**
 * Takes the row lock under which everything about one session changes: its bookings, its room, its deliveries. Whoever
 * changes any of them takes this lock first, so that nobody waits for each other in a circle.
 */
export async function lockSession(db: Database, workspaceId: string, sessionId: string): Promise<void> {
  await sessionLock(db).execute({ workspaceId, sessionId })
}

/**
 * Locks a session with everybody whom a change of it concerns: who sits in it, whose turns its assignments have changed, and
 * `others`; the hosts first, as bookings do. Throws Overtaken where the session has got further ones in between.
 */
export async function lockSessionWithHosts(
  db: Database, workspaceId: string, sessionId: string, others: readonly string[] = [],
): Promise<void> {
  const locked = new Set([...await concernedHosts(db, workspaceId, sessionId), ...others])
  await lockHosts(db, workspaceId, [...locked])
  await lockSession(db, workspaceId, sessionId)
  if ((await concernedHosts(db, workspaceId, sessionId)).some(id => !locked.has(id))) throw new Overtaken()
}

async function concernedHosts(db: Database, workspaceId: string, sessionId: string): Promise<string[]> {
  const { rows } = await db.execute<{ id: string }>(sql`
    select host_id as id from session_hosts where workspace_id = ${workspaceId} and session_id = ${sessionId}
    union select (turn ->> 'host')::uuid from assignments, jsonb_array_elements(turns) as turn
    where workspace_id = ${workspaceId} and session_id = ${sessionId}`)
  return rows.map(row => row.id)
}
