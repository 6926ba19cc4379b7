import { and, asc, eq, isNull } from 'drizzle-orm'
import { roomMayBecome } from '../../core/booking/states'
import type { TrailValues } from '../../core/booking/trail'
import { type RenderedTitle, renderTitle } from '../../core/messages'
import { type Fault, unexpectedFault } from '../../core/faults'
import { applySessionChange } from '../changes'
import { type Context, dateOf, secondsOf } from '../context'
import { Batch } from '../database/batch'
import type { Database } from '../database/connection'
import { persist } from '../database/faults'
import { withLock } from '../database/lock'
import { bookings, eventTypes, hosts, rooms, sessionHosts, sessions, trail } from '../database/schema'
import { type JobSubject, planJob, waitAfter } from '../jobs/queue'
import { recordTitleFault } from '../messages'
import { type RoomDetails, VideoFault, type VideoService } from '../ports/video'
import { recordTrail } from '../trail'
import { accountFor, markLost, type VideoAccount, withCredentials } from './accounts'

type Room = typeof rooms.$inferSelect
type Session = typeof sessions.$inferSelect

/** The job that makes one room: one try, after which the room is ready or the next try is planned. */
export async function makeRoom(context: Context, subject: JobSubject): Promise<void> {
  await withLock(context.pool, `room ${subject.id}`, async (db) => {
    const attempt = await startAttempt(context, db, subject)
    if (!attempt) return
    try {
      const details = await askService(context, attempt)
      await persist(() => saveRoom(context, attempt, details))
    } catch (error) {
      await persist(() => afterFault(context, attempt, error))
    }
  })
}

interface Attempt {
  room: Room
  session: Session
  title: string
  account: VideoAccount
  service: VideoService
}

/** Marks the try before anything is asked, so that the trail shows it even if the process ends here. */
async function startAttempt(context: Context, db: Database, subject: JobSubject): Promise<Attempt | null> {
  return db.transaction(async (tx) => {
    const found = await lockRoom(tx, subject)
    if (!found) return null
    const { room, session } = found
    if (session.cancelled || room.state === 'ready' || !roomMayBecome(room.state, 'making')) return null
    const about = { workspaceId: subject.workspaceId, sessionId: session.id }
    if (secondsOf(session.endsAt) <= context.now()) {
      await updateRoom(tx, room, { state: 'failing', lastFault: { by: null, fault: { code: 'sessionOver' } }, nextTryAt: null })
      return null
    }
    const account = await accountFor(tx, subject.workspaceId, session.id)
    const service = account && context.video.get(account.service)
    if (!account || !service) {
      const lastFault = { by: null, fault: { code: 'noVideoAccount' as const } }
      if (room.lastFault?.fault.code !== 'noVideoAccount')
        await recordTrail(tx, about, context.now(), 'roomUnowned', { hosts: await hostNames(tx, session) })
      await updateRoom(tx, room, { state: 'failing', lastFault, nextTryAt: null })
      return null
    }
    const { title, fault } = await titleOf(tx, session)
    if (fault) await recordTitleFault(tx, context, about, fault)
    const change = {
      state: 'making' as const,
      attempts: room.attempts + 1,
      accountId: account.id,
      askedAt: dateOf(context.now()),
      nextTryAt: null,
    }
    const batch = new Batch()
    batch.update(tx.update(rooms).set(change).where(isRoom(room)).getSQL())
    const values: TrailValues<'roomAsked'> = { service: service.name, account: account.label, attempt: change.attempts }
    batch.insert(trail, [{ ...about, at: dateOf(context.now()), code: 'roomAsked', values }])
    await batch.write(tx)
    return { room: { ...room, ...change }, session, title, account, service }
  })
}

async function askService(context: Context, { room, session, title, account, service }: Attempt): Promise<RoomDetails> {
  return withCredentials(context, service, account, credentials => service.makeRoom(credentials, {
    reference: room.reference, title, start: secondsOf(session.startsAt), end: secondsOf(session.endsAt), entry: 'host',
  }))
}

async function saveRoom(context: Context, attempt: Attempt, details: RoomDetails): Promise<void> {
  const { account, service } = attempt
  const { workspaceId, id, sessionId, attempts } = attempt.room
  await context.db.transaction(async (tx) => {
    const found = await lockRoom(tx, attempt.room)
    const known = { accountId: account.id, externalId: details.externalId }
    if (!found || !roomMayBecome(found.room.state, 'ready')) {
      // The session was cancelled while the service worked: what it made is withdrawn again.
      await updateRoom(tx, attempt.room, known)
      await planJob(tx, 'withdrawRoom', { workspaceId, id }, context.now())
      return
    }
    const { number, passcode, joinUrl, hostUrl } = details
    await updateRoom(tx, attempt.room, { ...known, number, passcode, joinUrl, hostUrl, state: 'ready', lastFault: null, nextTryAt: null })
    await applySessionChange(context, tx, workspaceId, sessionId, {
      kind: 'roomReady', by: { kind: 'system', name: service.name }, at: context.now(), service: service.name, number, attempt: attempts,
    })
  })
}

/** Who met an error that came from no service. */
export const OURSELVES = 'Temporia'

export function faultOf(service: VideoService, error: unknown): { by: string, fault: Fault } {
  return error instanceof VideoFault ? { by: service.name, fault: error.fault } : { by: OURSELVES, fault: unexpectedFault(error) }
}

/** Any error leads to a state that is shown and tried again; one that nobody foresaw too. */
async function afterFault(context: Context, { room, session, account, service }: Attempt, error: unknown): Promise<void> {
  const { by, fault } = faultOf(service, error)
  const next = context.now() + waitAfter(room.attempts, context.settings.retryPace)
  const again = next < secondsOf(session.endsAt) ? next : null
  const subject = { workspaceId: room.workspaceId, id: room.id }
  await context.db.transaction(async (tx) => {
    const found = await lockRoom(tx, room)
    if (error instanceof VideoFault && error.kind === 'accessLost') await markLost(tx, account)
    if (found?.room.state !== 'making') {
      // Cancelled meanwhile. The service may have made the room all the same, so it is looked for and withdrawn.
      await planJob(tx, 'withdrawRoom', subject, context.now())
      return
    }
    await updateRoom(tx, room, { state: 'failing', lastFault: { by, fault }, nextTryAt: again === null ? null : dateOf(again) })
    await recordTrail(tx, { workspaceId: room.workspaceId, sessionId: session.id }, context.now(), 'roomFailed', {
      service: by,
      attempt: room.attempts,
      fault,
      nextAt: again,
    })
    if (again !== null) await planJob(tx, 'makeRoom', subject, again)
  })
}

/** What becomes of a room whose job met an error before the service was asked. */
export async function roomJobFailed(context: Context, subject: JobSubject, error: unknown): Promise<void> {
  await context.db.transaction(async (tx) => {
    const found = await lockRoom(tx, subject)
    if (!found || found.room.state === 'ready' || found.room.state === 'withdrawn') return
    const attempts = found.room.attempts + 1
    const next = context.now() + waitAfter(attempts, context.settings.retryPace)
    const fault = unexpectedFault(error)
    await updateRoom(tx, found.room, { state: 'failing', attempts, lastFault: { by: OURSELVES, fault }, nextTryAt: dateOf(next) })
    await recordTrail(tx, { workspaceId: subject.workspaceId, sessionId: found.session.id }, context.now(), 'roomFailed', {
      service: OURSELVES,
      attempt: attempts,
      fault,
      nextAt: next,
    })
    await planJob(tx, 'makeRoom', subject, next)
  })
}

/** Has a failing room tried again at once, or a withdrawn one that its service still has withdrawn. */
export async function tryRoomNow(context: Context, workspaceId: string, sessionId: string): Promise<boolean> {
  const [room] = await context.db.select().from(rooms)
    .where(and(eq(rooms.workspaceId, workspaceId), eq(rooms.sessionId, sessionId), isNull(rooms.replacedAt)))
  const job = room?.state === 'failing' ? 'makeRoom' : room?.state === 'withdrawn' && room.lastFault ? 'withdrawRoom' : null
  if (!room || !job) return false
  await planJob(context.db, job, { workspaceId, id: room.id }, context.now())
  return true
}

/** A room with its session, under the session's lock. */
async function lockRoom(tx: Database, subject: JobSubject): Promise<{ room: Room, session: Session } | null> {
  const known = tx.select({ sessionId: rooms.sessionId }).from(rooms).where(isRoom(subject))
  await tx.select({ id: sessions.id }).from(sessions)
    .where(and(eq(sessions.workspaceId, subject.workspaceId), eq(sessions.id, known))).for('no key update')
  const [found] = await tx.select({ room: rooms, session: sessions }).from(rooms)
    .innerJoin(sessions, and(eq(sessions.workspaceId, rooms.workspaceId), eq(sessions.id, rooms.sessionId)))
    .where(isRoom(subject))
  return found ?? null
}

/** The calendar title of the session's first booking: what both sides call the meeting. */
async function titleOf(db: Database, session: Session): Promise<RenderedTitle> {
  const [found] = await db.select({ settings: eventTypes.settings, clientName: bookings.clientName }).from(bookings)
    .innerJoin(eventTypes, and(eq(eventTypes.workspaceId, bookings.workspaceId), eq(eventTypes.id, session.eventTypeId)))
    .where(and(eq(bookings.workspaceId, session.workspaceId), eq(bookings.sessionId, session.id)))
    .orderBy(asc(bookings.createdAt)).limit(1)
  if (!found) return { title: 'Session', fault: null }
  const { settings, clientName } = found
  if (session.seats > 1) return { title: settings.name, fault: null }
  return renderTitle(settings.calendarTitle, { client: { name: clientName }, eventType: { name: settings.name } })
}

async function hostNames(db: Database, session: Session): Promise<string[]> {
  const found = await db.select({ name: hosts.name }).from(sessionHosts)
    .innerJoin(hosts, and(eq(hosts.workspaceId, sessionHosts.workspaceId), eq(hosts.id, sessionHosts.hostId)))
    .where(and(eq(sessionHosts.workspaceId, session.workspaceId), eq(sessionHosts.sessionId, session.id)))
  return found.map(row => row.name)
}

export async function updateRoom(db: Database, room: { workspaceId: string, id: string }, change: Partial<Room>): Promise<void> {
  await db.update(rooms).set(change).where(isRoom(room))
}

export function isRoom(room: { workspaceId: string, id: string }) {
  return and(eq(rooms.workspaceId, room.workspaceId), eq(rooms.id, room.id))
}
