import { and, eq } from 'drizzle-orm'
import type { Actor, ChangeOf } from '../../core/booking/changes'
import type { Place } from '../../core/event-type/settings'
import type { RoomWayView } from '../../core/views/desk'
import { applySessionChange } from '../changes'
import { type Context, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { withRetries } from '../database/faults'
import { lockSession } from '../database/lock'
import { bookings, rooms, sessions } from '../database/schema'
import { isRoomOfSession } from '../details'
import { openWays } from './ways'

/** What people do to a session's link or place: another room, a link of their own, none, or another place. */

type Without<Kind extends 'roomRenewed' | 'roomGiven' | 'roomRemoved'> = Omit<ChangeOf<Kind>, 'by' | 'at'>
export type ByHand = Without<'roomRenewed'> | Without<'roomGiven'> | Without<'roomRemoved'>

/** False where the session is over, cancelled, not by video, or nobody is confirmed; or where there is no link to remove. */
export async function changeRoomByHand(
  context: Context, workspaceId: string, sessionId: string, change: ByHand, by: Actor,
): Promise<boolean> {
  return withStanding(context, workspaceId, sessionId, async (tx, session, room) => {
    if (session.place.kind !== 'video' || (change.kind === 'roomRemoved' && (!room || room.state === 'withdrawn'))) return false
    await applySessionChange(context, tx, workspaceId, sessionId, { ...change, by, at: context.now() })
    return true
  })
}

/** Lets a session take place elsewhere: what was to be agreed, what a client suggests, or by video after all. */
export async function changePlace(context: Context, workspaceId: string, sessionId: string, place: Place, by: Actor): Promise<boolean> {
  return withStanding(context, workspaceId, sessionId, async (tx, session) => {
    await applySessionChange(context, tx, workspaceId, sessionId, {
      kind: 'placeChanged', place, fromVideo: session.place.kind === 'video', by, at: context.now(),
    })
    return true
  })
}

/** Does something to a session under its lock, where it is still to come and somebody is confirmed for it. */
function withStanding(
  context: Context, workspaceId: string, sessionId: string,
  work: (tx: Database, session: typeof sessions.$inferSelect, room: typeof rooms.$inferSelect | null) => Promise<boolean>,
): Promise<boolean> {
  return withRetries(() => context.db.transaction(async (tx) => {
    await lockSession(tx, workspaceId, sessionId)
    const [found] = await tx.select({ session: sessions, room: rooms }).from(sessions).leftJoin(rooms, isRoomOfSession)
      .where(and(eq(sessions.workspaceId, workspaceId), eq(sessions.id, sessionId)))
    if (!found || found.session.cancelled || secondsOf(found.session.endsAt) <= context.now()) return false
    const confirmed = await tx.$count(bookings, and(
      eq(bookings.workspaceId, workspaceId), eq(bookings.sessionId, sessionId), eq(bookings.state, 'confirmed'),
    ))
    return confirmed > 0 && work(tx, found.session, found.room)
  }))
}

/** The ways that are open to a session at present, for whoever chooses one. */
export async function listRoomWays(context: Context, workspaceId: string, sessionId: string): Promise<RoomWayView[]> {
  const [session] = await context.db.select().from(sessions).where(and(eq(sessions.workspaceId, workspaceId), eq(sessions.id, sessionId)))
  if (!session) return []
  const { open, order } = await openWays(context, context.db, session, '')
  return open.filter(({ kind }) => order.includes(kind)).sort((a, b) => order.indexOf(a.kind) - order.indexOf(b.kind))
    .map(({ key, kind, name, account }) => ({ key, kind, name, account: account?.label ?? null }))
}
