import { and, eq, sql } from 'drizzle-orm'
import type { Context } from '../context'
import type { Database } from '../database/connection'
import type { Fault } from '../../core/validation'
import { trail } from '../database/schema'
import { type TrailSubject, recordTrail } from '../trail'

/** Tells the team, once for each session and title, that a calendar title could not be made. Run it under the session's lock. */
export async function recordTitleFault(
  db: Database,
  context: Context,
  { workspaceId, sessionId }: TrailSubject,
  { title, fault }: { title: string, fault: Fault },
): Promise<void> {
  const [known] = await db
    .select({ id: trail.id })
    .from(trail)
    .where(and(
      eq(trail.workspaceId, workspaceId), eq(trail.sessionId, sessionId), eq(trail.code, 'titleFailed'), eq(sql`${trail.values} ->> 'title'`, title),
    ))
    .limit(1)
  if (!known) await recordTrail(db, { workspaceId, sessionId }, context.now(), 'titleFailed', { title, fault })
}
