import { and, eq } from 'drizzle-orm'
import type { Context } from '../context'
import type { Database } from '../database/connection'
import type { Fault } from '../../core/validation'
import { trail } from '../database/schema'
import { type TrailSubject, recordTrail } from '../trail'

/** Tells the team, once a session, that an event type's calendar title could not be made. Run it under the session's lock. */
export async function recordTitleFault(
  db: Database,
  context: Context,
  { workspaceId, sessionId }: TrailSubject,
  fault: Fault,
): Promise<void> {
  const [known] = await db
    .select({ id: trail.id })
    .from(trail)
    .where(and(eq(trail.workspaceId, workspaceId), eq(trail.sessionId, sessionId), eq(trail.code, 'titleFailed')))
    .limit(1)
  if (!known) await recordTrail(db, { workspaceId, sessionId }, context.now(), 'titleFailed', { fault })
}
