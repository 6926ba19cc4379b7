import { isDeepStrictEqual } from 'node:util'
import { and, eq, isNull } from 'drizzle-orm'
import { roomMayBecome } from '../../core/booking/states'
import type { TrailValues } from '../../core/booking/trail'
import { afterFailure, givenUpAt, nextWay, type Trying, type WayKind } from '../../core/rooms/ways'
import { type Fault, unexpectedFault } from '../../core/faults'
import { applySessionChange } from '../changes'
import { type Context, dateOf, secondsOf } from '../context'
import { Batch } from '../database/batch'
import type { Database } from '../database/connection'
import { persist } from '../database/faults'
import { withLock } from '../database/lock'
import { rooms, sessions, trail } from '../database/schema'
import { type JobSubject, planJob, waitAfter } from '../jobs/queue'
import { type RoomDetails, type RoomRequest, ServiceFault } from '../ports/video'
import { recordTrail } from '../trail'
import { markLost, markRefused, markWorking } from './accounts'
import { withCredentials } from './credentials'
import { describeSession } from './describe'
import { openWays, type SessionWay } from './ways'

type Room = typeof rooms.$inferSelect
type Session = typeof sessions.$inferSelect

/** The job that makes one room: one try, after which the room is ready or the next try is planned. */
export async function makeRoom(context: Context, subject: JobSubject): Promise<void> {
  await withLock(context.pool, `room ${subject.id}`, async (db) => {
    const attempt = await startAttempt(context, db, subject)
    if (!attempt) return
    try {
      const details = await askService(context, db, attempt)
      await persist(() => saveRoom(context, attempt, details))
    } catch (error) {
      await persist(() => afterFault(context, attempt, error))
    }
  })
}

interface Attempt {
  room: Room
  /** When it was last asked without an answer before this try. */
  unansweredBefore: Date | null
  session: Session
  request: RoomRequest
  way: SessionWay
  /** The way that follows where this one is given up. */
  another: Another | null
}

interface Another {
  way: SessionWay
  givenUp: string[]
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
    const { open, order, hosts: names, waiting } = await openWays(context, tx, session, room.id)
    // One that is gone, such as an account that was disconnected, is not asked any more.
    const way = open.find(({ key }) => key === room.wayKey) ?? nextWay(open, order, room.givenUp) ?? nextWay(open, order, [])
    if (!way) {
      const lastFault = waiting?.fault ?? { by: null, fault: { code: 'noVideoAccount' as const } }
      const isNews = room.state !== 'failing' || room.waitsFor !== (waiting?.account.id ?? null)
      if (isNews && waiting) await recordTrail(tx, about, context.now(), 'roomWaits', { service: waiting.name, account: waiting.account.label, fault: lastFault.fault })
      else if (isNews) await recordTrail(tx, about, context.now(), 'roomUnowned', { hosts: names })
      await updateRoom(tx, room, { state: 'failing', lastFault, nextTryAt: null, waitsFor: waiting?.account.id ?? null })
      return null
    }
    if (room.accountId && room.wayKey !== way.key) {
      // Its service may have made a room that it did not answer for.
      await giveUp(context, tx, room, room.givenUp)
      return null
    }
    const isNew = room.wayKey !== way.key
    const change = {
      state: 'making' as const,
      attempts: isNew ? 1 : room.attempts + 1,
      accountId: way.account?.id ?? null,
      way: way.kind,
      wayHostId: way.hostId,
      wayKey: way.key,
      triedSince: isNew || !room.triedSince ? dateOf(context.now()) : room.triedSince,
      userId: way.userId,
      waitsFor: null,
      askedAt: way.account ? dateOf(context.now()) : null,
      // Until there is an answer: this process may end before.
      unansweredAt: way.account ? dateOf(context.now()) : room.unansweredAt,
      nextTryAt: null,
    }
    const batch = new Batch()
    batch.update(tx.update(rooms).set(change).where(isRoom(room)).getSQL())
    if (way.account) {
      const values: TrailValues<'roomAsked'> = { service: way.name, account: way.account.label, attempt: change.attempts }
      batch.insert(trail, [{ ...about, at: dateOf(context.now()), code: 'roomAsked', values }])
    }
    await batch.write(tx)
    const request = await describeSession(context, tx, session, { ...room, ...change })
    const another = anotherWay(open, order, room.givenUp, way)
    return { room: { ...room, ...change }, unansweredBefore: room.unansweredAt, session, request, way, another }
  })
}

/** The way after one: the next in the order, or all over again from the first other one. */
function anotherWay(
  open: readonly SessionWay[], order: readonly WayKind[], givenUp: readonly string[], { key }: SessionWay,
): Another | null {
  const next = nextWay(open, order, [...givenUp, key])
  if (next) return { way: next, givenUp: [...givenUp, key] }
  const first = nextWay(open, order, [key])
  return first && { way: first, givenUp: [key] }
}

/** How long one way is tried, as far as that depends on when and for whom. */
function tryingOf({ now }: Context, { room, session }: Pick<Attempt, 'room' | 'session'>): Trying {
  return {
    now: now(),
    start: secondsOf(session.startsAt),
    since: room.triedSince ? secondsOf(room.triedSince) : now(),
    waitsUntil: room.waitsUntil && secondsOf(room.waitsUntil),
  }
}

async function askService(context: Context, lock: Database, attempt: Attempt): Promise<RoomDetails> {
  const { request, way, another } = attempt
  if (!way.account) return way.room
  const { service } = way
  const left = another ? Math.max(1, givenUpAt(tryingOf(context, attempt)) - context.now()) : undefined
  return withCredentials(context, lock, service, way.account, credentials => service.makeRoom(credentials, request, left), left)
}

async function saveRoom(context: Context, attempt: Attempt, details: RoomDetails): Promise<void> {
  const { account, kind, name } = attempt.way
  const { workspaceId, id, sessionId, attempts } = attempt.room
  await context.db.transaction(async (tx) => {
    const found = await lockRoom(tx, attempt.room)
    const known = { accountId: account?.id ?? null, externalId: details.externalId || null, unansweredAt: attempt.unansweredBefore }
    if (!found || !roomMayBecome(found.room.state, 'ready')) {
      // The session was cancelled while the service worked: what it made is withdrawn again.
      await updateRoom(tx, attempt.room, known)
      if (account) await planJob(tx, 'withdrawRoom', { workspaceId, id }, context.now())
      return
    }
    if (account) await markWorking(context, tx, account)
    const { number, passcode, joinUrl, hostUrl } = details
    await updateRoom(tx, attempt.room, { ...known, number, passcode, joinUrl, hostUrl, state: 'ready', lastFault: null, nextTryAt: null })
    // What the session has become while the service worked.
    const isBehind = account && !isDeepStrictEqual(await describeSession(context, tx, found.session, attempt.room), attempt.request)
    if (isBehind) await planJob(tx, 'changeRoom', { workspaceId, id }, context.now())
    await applySessionChange(context, tx, workspaceId, sessionId, {
      kind: 'roomReady', by: { kind: 'system', name: account ? name : OURSELVES }, at: context.now(), way: kind, service: name, number, attempt: attempts,
    })
  })
}

/** Who met an error that came from no service. */
export const OURSELVES = 'Temporia'

export function faultOf(name: string, error: unknown): { by: string, fault: Fault } {
  return error instanceof ServiceFault ? { by: name, fault: error.fault } : { by: OURSELVES, fault: unexpectedFault(error) }
}

/** Whether a fault says that the service has made no room: it answered, or was not asked at all. */
function isAnswer({ code }: Fault): boolean {
  return code === 'answered' || code === 'tooManyCalls' || code === 'notApproved' || code === 'unknownInstallation' || code === 'consentUnreadable'
}

/** Any error leads to a state that is shown and tried again, this way or another; one that nobody foresaw too. */
async function afterFault(context: Context, attempt: Attempt, error: unknown): Promise<void> {
  const { room, session, way, another } = attempt
  const { by, fault } = faultOf(way.name, error)
  const kind = error instanceof ServiceFault ? error.kind : 'other'
  const isRefused = kind === 'accountRefused' || kind === 'awaitsApproval'
  const isHopeless = kind === 'accessLost' || isRefused
  const wait = waitAfter(room.attempts, context.settings.retryPace)
  const next = afterFailure(tryingOf(context, attempt), wait, another !== null, isHopeless)
  // An account that refuses is asked again by one room, not by each.
  const again = next.kind === 'again' && !isRefused && next.at < secondsOf(session.endsAt) ? next.at : null
  const subject = { workspaceId: room.workspaceId, id: room.id }
  await context.db.transaction(async (tx) => {
    const found = await lockRoom(tx, room)
    if (isAnswer(fault)) await updateRoom(tx, room, { unansweredAt: attempt.unansweredBefore })
    if (kind === 'accessLost' && way.account) await markLost(tx, way.account)
    if (isRefused && way.account) await markRefused(context, tx, way.account, { by, fault }, kind)
    if (found?.room.state !== 'making') {
      // Cancelled meanwhile. The service may have made the room all the same, so it is looked for and withdrawn.
      if (way.account) await planJob(tx, 'withdrawRoom', subject, context.now())
      return
    }
    await recordTrail(tx, { workspaceId: room.workspaceId, sessionId: session.id }, context.now(), 'roomFailed', {
      service: by, attempt: room.attempts, fault, nextAt: again, ...(next.kind === 'another' && another ? { next: wayName(another.way) } : {}),
    })
    if (next.kind === 'another' && another) return giveUp(context, tx, found.room, another.givenUp)
    await updateRoom(tx, room, {
      state: 'failing', lastFault: { by, fault }, nextTryAt: again === null ? null : dateOf(again),
      waitsFor: isRefused && way.account ? way.account.id : null,
    })
    if (again !== null) await planJob(tx, 'makeRoom', subject, again)
  })
}

const wayName = ({ kind, name }: SessionWay) => ({ way: kind, name })

/** Another room, by another way, takes the place of one: what its service has made of it after all is withdrawn. */
async function giveUp(context: Context, tx: Database, room: Room, givenUp: string[]): Promise<void> {
  const { workspaceId, sessionId, waitsUntil, warnings } = room
  const now = context.now()
  await updateRoom(tx, room, { state: 'withdrawn', replacedAt: dateOf(now), attempts: 0, lastFault: null, nextTryAt: null })
  if (room.accountId) await planJob(tx, 'withdrawRoom', { workspaceId, id: room.id }, now)
  const [next] = await tx.insert(rooms).values({ workspaceId, sessionId, givenUp, waitsUntil, warnings }).returning({ id: rooms.id })
  if (next) await planJob(tx, 'makeRoom', { workspaceId, id: next.id }, now)
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
export async function lockRoom(tx: Database, subject: JobSubject): Promise<{ room: Room, session: Session } | null> {
  const known = tx.select({ sessionId: rooms.sessionId }).from(rooms).where(isRoom(subject))
  await tx.select({ id: sessions.id }).from(sessions)
    .where(and(eq(sessions.workspaceId, subject.workspaceId), eq(sessions.id, known))).for('no key update')
  const [found] = await tx.select({ room: rooms, session: sessions }).from(rooms)
    .innerJoin(sessions, and(eq(sessions.workspaceId, rooms.workspaceId), eq(sessions.id, rooms.sessionId)))
    .where(isRoom(subject))
  return found ?? null
}

export async function updateRoom(db: Database, room: { workspaceId: string, id: string }, change: Partial<Room>): Promise<void> {
  await db.update(rooms).set(change).where(isRoom(room))
}

export function isRoom(room: { workspaceId: string, id: string }) {
  return and(eq(rooms.workspaceId, room.workspaceId), eq(rooms.id, room.id))
}
