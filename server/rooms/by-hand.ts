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
  const isDone = await withStanding(context, workspaceId, sessionId, async (tx, session, room) => {
    if (session.place.kind !== 'video' || (change.kind === 'roomRemoved' && (!room || room.state === 'withdrawn'))) return false
    await applySessionChange(context, tx, workspaceId, sessionId, { ...change, by, at: context.now() })
    return true
  })
  return isDone ?? false
}

/** Clients who have left no number that they could be called at. */
export type PlaceOutcome = { kind: 'changed' } | { kind: 'noPlaceToChange' } | { kind: 'noNumber', clients: string[] }

/** Lets a session take place elsewhere: what was to be agreed, what a client suggests, or by video after all. */
export async function changePlace(
  context: Context, workspaceId: string, sessionId: string, place: Place, by: Actor,
): Promise<PlaceOutcome> {
  const outcome = await withStanding<PlaceOutcome>(context, workspaceId, sessionId, async (tx, session, _room, confirmed) => {
    const clients = place.kind === 'phoneWeCall' ? confirmed.filter(({ phone }) => !phone).map(({ name }) => name) : []
    if (clients.length > 0) return { kind: 'noNumber', clients }
    await applySessionChange(context, tx, workspaceId, sessionId, {
      kind: 'placeChanged', place, fromVideo: session.place.kind === 'video', by, at: context.now(),
    })
    return { kind: 'changed' }
  })
  return outcome ?? { kind: 'noPlaceToChange' }
}

/** Does something to a session under its lock; null where it is over or cancelled, or nobody is confirmed for it. */
function withStanding<Outcome>(
  context: Context, workspaceId: string, sessionId: string,
  work: (
    tx: Database, session: typeof sessions.$inferSelect, room: typeof rooms.$inferSelect | null,
    confirmed: readonly { name: string, phone: string | null }[],
  ) => Promise<Outcome>,
): Promise<Outcome | null> {
  return withRetries(() => context.db.transaction(async (tx) => {
    await lockSession(tx, workspaceId, sessionId)
    const [found] = await tx.select({ session: sessions, room: rooms }).from(sessions).leftJoin(rooms, isRoomOfSession)
      .where(and(eq(sessions.workspaceId, workspaceId), eq(sessions.id, sessionId)))
    if (!found || found.session.cancelled || secondsOf(found.session.endsAt) <= context.now()) return null
    const confirmed = await tx.select({ name: bookings.clientName, phone: bookings.clientPhone }).from(bookings).where(and(
      eq(bookings.workspaceId, workspaceId), eq(bookings.sessionId, sessionId), eq(bookings.state, 'confirmed'),
    ))
    return confirmed.length > 0 ? work(tx, found.session, found.room, confirmed) : null
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
