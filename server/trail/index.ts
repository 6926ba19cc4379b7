import { and, desc, eq } from 'drizzle-orm'
import { readTrailEntry, type TrailCode, type TrailValues } from '../../core/booking/trail'
import type { DatedEntry } from '../../core/views/desk'
import { dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { trail } from '../database/schema'

export interface TrailSubject {
  workspaceId: string
  sessionId: string
  bookingId?: string
}

export async function recordTrail<Code extends TrailCode>(
  db: Database, subject: TrailSubject, at: number, code: Code, values: TrailValues<Code>,
): Promise<void> {
  await db.insert(trail).values({ ...subject, at: dateOf(at), code, values })
}

/** A session's trail, newest first. */
export async function readTrail(db: Database, workspaceId: string, sessionId: string): Promise<DatedEntry[]> {
  const rows = await db.select().from(trail)
    .where(and(eq(trail.workspaceId, workspaceId), eq(trail.sessionId, sessionId)))
    .orderBy(desc(trail.id))
  return rows.map(row => ({ id: row.id, at: secondsOf(row.at), bookingId: row.bookingId, entry: readTrailEntry(row.code, row.values) }))
}
