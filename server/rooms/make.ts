import { and, asc, eq } from 'drizzle-orm'
import { roomMayBecome } from '../../core/booking/states'
import { renderTitle } from '../../core/messages'
import { type Context, dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { withLock } from '../database/lock'
import { bookings, eventTypes, hosts, rooms, sessionHosts, sessions } from '../database/schema'
import { type JobSubject, planJob, waitAfter } from '../jobs/queue'
import { roomIsReady } from '../messages'
import { type RoomDetails, VideoFault } from '../ports/video'
import { writeTrail } from '../trail'
import { accountFor, markLost, usableTokens, type VideoAccount } from './accounts'

type Room = typeof rooms.$inferSelect
type Session = typeof sessions.$inferSelect

/** Plans a session's room. Run it in the transaction that confirms the session's first booking. */
export async function planRoom(db: Database, workspaceId: string, sessionId: string, at: number): Promise<void> {
  const [room] = await db.insert(rooms).values({ workspaceId, sessionId }).onConflictDoNothing().returning({ id: rooms.id })
  if (room) await planJob(db, 'makeRoom', { workspaceId, id: room.id }, at)
}

/** The job that makes one room: one try, after which the room is ready or the next try is planned. */
export async function makeRoom(context: Context, subject: JobSubject): Promise<void> {
  await withLock(context.pool, `room ${subject.id}`, async (db) => {
    const begun = await begin(context, db, subject)
    if (!begun) return
    const { room, session, account, service } = begun
    const about = { workspaceId: subject.workspaceId, sessionId: session.id }
    try {
      const tokens = await usableTokens(context, db, service, account)
      const details = await service.makeRoom(tokens, {
        reference: session.id,
        title: await titleOf(db, session),
        start: secondsOf(session.startsAt),
        end: secondsOf(session.endsAt),
        entry: 'host',
      })
      await keepRoom(context, db, room, account, service.name, details)
    } catch (error) {
      if (!(error instanceof VideoFault)) throw error
      const next = context.now() + waitAfter(room.attempts, context.settings.retryPace)
      const again = next < secondsOf(session.endsAt) ? next : null
      await db.transaction(async (tx) => {
        if (error.consentLost) await markLost(tx, account)
        await changeRoom(tx, room, { state: 'failing', lastFault: `${service.name} ${error.message}`, nextTryAt: again === null ? null : dateOf(again) })
        await writeTrail(tx, about, context.now(), 'roomFailed', { service: service.name, attempt: room.attempts, fault: error.message, nextAt: again })
        if (again !== null) await planJob(tx, 'makeRoom', subject, again)
      })
    }
  })
}

/** Marks the try before anything is asked, so that the trail shows it even if the process ends here. */
async function begin(context: Context, db: Database, subject: JobSubject) {
  return db.transaction(async (tx) => {
    const [room] = await tx.select().from(rooms).where(isRoom(subject)).for('update')
    const [session] = room ? await tx.select().from(sessions).where(and(eq(sessions.workspaceId, room.workspaceId), eq(sessions.id, room.sessionId))) : []
    if (!room || !session || session.cancelled || room.state === 'ready' || !roomMayBecome(room.state, 'making')) return null
    const about = { workspaceId: subject.workspaceId, sessionId: session.id }
    const account = await accountFor(tx, subject.workspaceId, session.id)
    const service = account ? context.video[account.service] : null
    if (!account || !service) {
      const lastFault = 'No video account is connected'
      if (room.lastFault !== lastFault) {
        const sitting = await hostNames(tx, session)
        await writeTrail(tx, about, context.now(), 'roomUnowned', { hosts: sitting })
      }
      await changeRoom(tx, room, { state: 'failing', lastFault, nextTryAt: null })
      return null
    }
    const attempts = room.attempts + 1
    await changeRoom(tx, room, { state: 'making', attempts, accountId: account.id, nextTryAt: null })
    await writeTrail(tx, about, context.now(), 'roomAsked', { service: service.name, account: account.label, attempt: attempts })
    return { room: { ...room, attempts }, session, account, service }
  })
}

async function keepRoom(context: Context, db: Database, room: Room, account: VideoAccount, service: string, details: RoomDetails): Promise<void> {
  await db.transaction(async (tx) => {
    const [current] = await tx.select().from(rooms).where(isRoom(room)).for('update')
    const known = { accountId: account.id, externalId: details.externalId }
    if (!current || !roomMayBecome(current.state, 'ready')) {
      // The session was cancelled while the service worked: what it made is withdrawn again.
      await changeRoom(tx, room, known)
      await planJob(tx, 'withdrawRoom', { workspaceId: room.workspaceId, id: room.id }, context.now())
      return
    }
    const { externalId, number, passcode, joinUrl, hostUrl } = details
    await changeRoom(tx, room, { ...known, externalId, number, passcode, joinUrl, hostUrl, state: 'ready', lastFault: null, nextTryAt: null })
    await writeTrail(tx, { workspaceId: room.workspaceId, sessionId: room.sessionId }, context.now(), 'roomReady', { service, number, attempt: room.attempts })
    await roomIsReady(tx, context, room.workspaceId, room.sessionId)
  })
}

/** Has a failing room tried again at once. */
export async function tryRoomNow(context: Context, workspaceId: string, sessionId: string): Promise<boolean> {
  const [room] = await context.db.select({ id: rooms.id, state: rooms.state }).from(rooms)
    .where(and(eq(rooms.workspaceId, workspaceId), eq(rooms.sessionId, sessionId)))
  if (room?.state !== 'failing') return false
  await planJob(context.db, 'makeRoom', { workspaceId, id: room.id }, context.now())
  return true
}

/** The calendar title of the session's first booking: what both sides call the meeting. */
async function titleOf(db: Database, session: Session): Promise<string> {
  const [eventType] = await db.select().from(eventTypes).where(and(eq(eventTypes.workspaceId, session.workspaceId), eq(eventTypes.id, session.eventTypeId)))
  const [booking] = await db.select().from(bookings)
    .where(and(eq(bookings.workspaceId, session.workspaceId), eq(bookings.sessionId, session.id)))
    .orderBy(asc(bookings.createdAt)).limit(1)
  if (!eventType || !booking) return 'Session'
  if (session.seats > 1) return eventType.settings.name
  return renderTitle(eventType.settings.calendarTitle, { client: { name: booking.clientName }, eventType: { name: eventType.settings.name } })
}

async function hostNames(db: Database, session: Session): Promise<string[]> {
  const found = await db.select({ name: hosts.name }).from(sessionHosts)
    .innerJoin(hosts, and(eq(hosts.workspaceId, sessionHosts.workspaceId), eq(hosts.id, sessionHosts.hostId)))
    .where(and(eq(sessionHosts.workspaceId, session.workspaceId), eq(sessionHosts.sessionId, session.id)))
  return found.map(one => one.name)
}

async function changeRoom(db: Database, room: { workspaceId: string, id: string }, change: Partial<Room>): Promise<void> {
  await db.update(rooms).set(change).where(isRoom(room))
}

export function isRoom(room: { workspaceId: string, id: string }) {
  return and(eq(rooms.workspaceId, room.workspaceId), eq(rooms.id, room.id))
}
