import { and, desc, eq } from 'drizzle-orm'
import { isAboutSession, readTrailEntry, type TrailCode, type TrailEntry, type TrailValues } from '../../core/booking/trail'
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

/** Records several entries at once, each for the booking or for the session as its code says. */
export async function recordTrailEntries(db: Database, { bookingId, ...session }: TrailSubject, at: number, entries: readonly TrailEntry[]): Promise<void> {
  if (entries.length === 0) return
  await db.insert(trail).values(entries.map(({ code, values }) => ({
    ...session, bookingId: isAboutSession(code) ? null : bookingId ?? null, at: dateOf(at), code, values,
  })))
}

/** A session's trail, newest first. */
export async function readTrail(db: Database, workspaceId: string, sessionId: string): Promise<DatedEntry[]> {
  const rows = await db.select().from(trail)
    .where(and(eq(trail.workspaceId, workspaceId), eq(trail.sessionId, sessionId)))
    .orderBy(desc(trail.id))
  return rows.map(row => ({ id: row.id, at: secondsOf(row.at), bookingId: row.bookingId, entry: readTrailEntry(row.code, row.values) }))
}
