import { and, eq } from 'drizzle-orm'
import type { Actor, ChangeOf } from '../../core/booking/changes'
import { applySessionChange } from '../changes'
import { type Context, secondsOf } from '../context'
import { withRetries } from '../database/faults'
import { lockSession } from '../database/lock'
import { bookings, sessions } from '../database/schema'

/** What people do to a session's link: another room in its place, or a link of their own. */

export type ByHand = Pick<ChangeOf<'roomRenewed'>, 'kind'> | Pick<ChangeOf<'roomGiven'>, 'kind' | 'link'>

/** False where the session is over, cancelled, not by video, or nobody is confirmed. */
export async function changeRoomByHand(
  context: Context, workspaceId: string, sessionId: string, change: ByHand, by: Actor,
): Promise<boolean> {
  return withRetries(() => context.db.transaction(async (tx) => {
    await lockSession(tx, workspaceId, sessionId)
    const [session] = await tx.select().from(sessions).where(and(eq(sessions.workspaceId, workspaceId), eq(sessions.id, sessionId)))
    if (!session || session.cancelled || session.place.kind !== 'video' || secondsOf(session.endsAt) <= context.now()) return false
    const confirmed = await tx.$count(bookings, and(
      eq(bookings.workspaceId, workspaceId), eq(bookings.sessionId, sessionId), eq(bookings.state, 'confirmed'),
    ))
    if (confirmed === 0) return false
    await applySessionChange(context, tx, workspaceId, sessionId, { ...change, by, at: context.now() })
    return true
  }))
}
