import { and, eq, sql } from 'drizzle-orm'
import type { SessionNotes } from '../../core/booking/notes'
import type { Context } from '../context'
import { sessions } from '../database/schema'

/** Saves the team's notes and tags of a session over the version that was read; null where somebody else was first. */
export async function saveNotes(
  { db }: Context, workspaceId: string, id: string, { notes, tags }: SessionNotes, basedOn: number,
): Promise<number | null> {
  const [saved] = await db.update(sessions).set({ notes, tags, notesVersion: sql`${sessions.notesVersion} + 1` })
    .where(and(eq(sessions.workspaceId, workspaceId), eq(sessions.id, id), eq(sessions.notesVersion, basedOn)))
    .returning({ version: sessions.notesVersion })
  return saved?.version ?? null
}
