import { randomUUID } from 'node:crypto'
import { and, asc, eq, inArray, lt, sql } from 'drizzle-orm'
import type { Actor, Change } from '../../core/booking/changes'
import type { Opening } from '../../core/openings'
import { type FilledChair, fillChairs } from '../../core/rotation/chairs'
import { MINUTE } from '../../core/time/civil'
import { applyBookingChange } from '../changes'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { isConstraintFault, withRetries } from '../database/faults'
import { lockSession } from '../database/lock'
import { answers, bookings, guests, hosts, idempotencyKeys, sessionHosts, sessions } from '../database/schema'
import { type BookingDetails, bookingPage, loadBookingDetails, loadSessionBookings } from '../details'
import {
  type EventType, findOpenings, hostIdsOf, isOpen, loadEventTypes, loadOpenEventType, loadWorkspace, nearestOpenings, type PoolChair, shareEventType, type Workspace,
} from '../event-types'
import { bookingToken, hashToken, makeSeed } from '../secrets'
import { saveCredits } from './credits'
import { type BookOutcome, findAnswer, hashRequest } from './idempotency'
import { type BookingRequest, checkRequest, type ValidatedRequest } from './request'
import { bookingView } from './view'

/** The one place where bookings are made, whoever asks. */

/** Thrown to roll a transaction back: the start is no longer open. */
class StartTaken extends Error {}

const CREATED = 201
const CONFLICT = 409

/** One attempt to book: where, by which request, and under which idempotency key. */
interface Attempt {
  workspace: Workspace
  eventType: EventType
  request: ValidatedRequest
  key: string
  requestHash: string
}

export async function bookOpening(context: Context, workspaceSlug: string, slug: string, key: string, request: BookingRequest): Promise<BookOutcome> {
  const workspace = await loadWorkspace(context.db, workspaceSlug)
  if (!workspace?.confirmed) return { kind: 'notFound' }
  const requestHash = hashRequest({ slug, request })
  // What was answered once is answered again, whatever has become of the event type.
  const earlier = await findAnswer(context, context.db, workspace.id, key, requestHash)
  if (earlier) return earlier
  const eventType = await loadOpenEventType(context.db, workspace, slug)
  if (!eventType) return { kind: 'notFound' }

  const validated = checkRequest(eventType, request)
  if ('errors' in validated) return { kind: 'invalid', errors: validated.errors }
  const attempt: Attempt = { workspace, eventType, request: validated, key, requestHash }

  // Most of a crowd after one start is turned away here, before it queues for the hosts' locks.
  if (await openingAt(context, context.db, eventType, validated)) {
    try {
      return await withRetries(() => context.db.transaction(tx => bookLocked(context, tx, attempt)))
    } catch (error) {
      // What the constraints refuse is taken: hosts' time, seats.
      if (!(error instanceof StartTaken) && !isConstraintFault(error)) throw error
    }
  }
  return refuseTaken(context, attempt)
}

async function bookLocked(context: Context, tx: Database, attempt: Attempt): Promise<BookOutcome> {
  const { workspace, request, key, requestHash } = attempt
  // A second press with the same key waits here for the first, and then finds its answer.
  const claimed = await tx.insert(idempotencyKeys)
    .values({ workspaceId: workspace.id, key, requestHash, status: CREATED, body: {} })
    .onConflictDoNothing().returning({ key: idempotencyKeys.key })
  if (claimed.length === 0) {
    const earlier = await findAnswer(context, tx, workspace.id, key, requestHash)
    if (earlier) return earlier
  }
  // Publishing waits for bookings under way, and they for it.
  await shareEventType(tx, workspace.id, attempt.eventType.id)
  const pool = await tx.select().from(hosts)
    .where(and(eq(hosts.workspaceId, workspace.id), inArray(hosts.id, hostIdsOf(attempt.eventType))))
    .orderBy(asc(hosts.id)).for('no key update')
  // Rotation and settings as they stand under the locks.
  const [eventType] = await loadEventTypes(tx, workspace.id, { id: attempt.eventType.id })
  const opening = eventType && isOpen(eventType) ? await openingAt(context, tx, eventType, request) : null
  if (!eventType || !opening) throw new StartTaken()

  const details = opening.session
    ? await joinSession(context, tx, eventType, request, opening.session)
    : await startSession(context, tx, { workspace, eventType, request, opening, pool })
  const body = { booking: bookingView(details) }
  await tx.update(idempotencyKeys).set({ body, bookingId: details.booking.id })
    .where(and(eq(idempotencyKeys.workspaceId, workspace.id), eq(idempotencyKeys.key, key)))
  return { kind: 'answered', status: CREATED, body: { ...body, manage: bookingPage(context, details) } }
}

/** Takes a seat, if by now the session still stands and has one. */
async function joinSession(
  context: Context, tx: Database, { workspaceId, settings }: EventType, request: ValidatedRequest, sessionId: string,
): Promise<BookingDetails> {
  await lockSession(tx, workspaceId, sessionId)
  const joined = await tx.update(sessions)
    .set({ seatsTaken: sql`${sessions.seatsTaken} + 1`, seats: sql`greatest(${sessions.seats}, ${settings.seats}::int)` })
    .where(and(eq(sessions.workspaceId, workspaceId), eq(sessions.id, sessionId), eq(sessions.cancelled, false), lt(sessions.seatsTaken, settings.seats)))
    .returning({ id: sessions.id })
  if (joined.length === 0) throw new StartTaken()
  const others = await loadSessionBookings(tx, workspaceId, sessionId)
  const { booking } = await insertBooking(context, tx, workspaceId, sessionId, settings.approval, request)
  const details = await loadBookingDetails(tx, workspaceId, booking.id)
  if (!details) throw new Error('The booking was not saved')
  await applyBookingChange(context, tx, details, changeOf(context, details, []), null, {
    isLast: false,
    hostsHaveEntry: details.session.sequence > 0 || others.some(other => other.booking.state === 'confirmed'),
  })
  return details
}

interface NewSession {
  workspace: Workspace
  eventType: EventType
  request: ValidatedRequest
  opening: Opening
  /** The event type's hosts. */
  pool: BookingDetails['hosts']
}

async function startSession(context: Context, tx: Database, { workspace, eventType, request, opening, pool }: NewSession): Promise<BookingDetails> {
  const { settings } = eventType
  const workspaceId = workspace.id
  const seated = fillChairs(eventType.chairs, opening.able, request.host)
  const end = request.start + request.durationMinutes * MINUTE
  const [session] = await tx.insert(sessions).values({
    workspaceId,
    id: randomUUID(),
    eventTypeId: eventType.id,
    startsAt: dateOf(request.start),
    endsAt: dateOf(end),
    bufferBeforeMinutes: settings.bufferBeforeMinutes,
    bufferAfterMinutes: settings.bufferAfterMinutes,
    seats: settings.seats,
    seatsTaken: 1,
    place: request.place,
  }).returning()
  if (!session) throw new Error('The session was not saved')
  const paddedStart = dateOf(request.start - settings.bufferBeforeMinutes * MINUTE)
  const paddedEnd = dateOf(end + settings.bufferAfterMinutes * MINUTE)
  await tx.insert(sessionHosts).values(seated.map(({ chair, host, assignment }) => ({
    workspaceId, sessionId: session.id, hostId: host, chairId: chair.id, padded: `[${paddedStart.toISOString()},${paddedEnd.toISOString()})`, reason: assignment.reason,
  })))
  await saveCredits(tx, workspaceId, seated, context.now())
  const details: BookingDetails = {
    workspace, eventType, session, room: null,
    ...await insertBooking(context, tx, workspaceId, session.id, settings.approval, request),
    hosts: pool.filter(host => seated.some(chair => chair.host === host.id)).sort((a, b) => (a.name < b.name ? -1 : 1)),
  }
  await applyBookingChange(context, tx, details, changeOf(context, details, seated), null, { isLast: false, hostsHaveEntry: false })
  return details
}

async function insertBooking(
  context: Context, tx: Database, workspaceId: string, sessionId: string, approval: boolean, { client, ...request }: ValidatedRequest,
): Promise<Pick<BookingDetails, 'booking' | 'answers' | 'guests'>> {
  const tokenSeed = makeSeed()
  const [booking] = await tx.insert(bookings).values({
    workspaceId,
    id: randomUUID(),
    sessionId,
    state: approval ? 'awaitingApproval' : 'confirmed',
    clientName: client.name,
    clientEmail: client.email,
    clientPhone: request.phone,
    timeZone: request.timeZone,
    locale: supportedLocale(client.locale),
    source: request.source,
    tokenSeed,
    tokenHash: hashToken(bookingToken(context.settings.secret, workspaceId, tokenSeed)),
    createdAt: dateOf(context.now()),
  }).returning()
  if (!booking) throw new Error('The booking was not saved')
  const own = { workspaceId, bookingId: booking.id }
  return {
    booking,
    answers: request.answers.length === 0 ? []
      : await tx.insert(answers).values(request.answers.map((answer, position) => ({ ...own, position, ...answer }))).returning(),
    guests: request.guests.length === 0 ? []
      : await tx.insert(guests).values(request.guests.map(({ email, name }) => ({ ...own, email, name: name ?? email }))).returning(),
  }
}

/** The change that made a booking, with the hosts it was assigned to. */
function changeOf(context: Context, { booking, eventType, session }: BookingDetails, seated: readonly FilledChair<PoolChair>[]): Change {
  const by: Actor = { kind: 'client', name: booking.clientName }
  return {
    kind: booking.state === 'confirmed' ? 'booked' : 'requested', by, at: context.now(),
    client: booking.clientName, eventType: eventType.settings.name, start: session.startsAt.getTime() / 1000,
    assigned: seated.map(({ chair, host, chosen, assignment }) => {
      const name = (id: string) => chair.hosts.find(candidate => candidate.id === id)?.name ?? id
      return { host: name(host), chair: chair.name, code: chosen ? 'chosen' : assignment.reason.code, able: assignment.reason.able.map(name) }
    }),
  }
}

async function refuseTaken(context: Context, { workspace, eventType, request, key, requestHash }: Attempt): Promise<BookOutcome> {
  const nearest = (await nearestOpenings(context.db, eventType, request.start, {
    now: context.now(), durationMinutes: request.durationMinutes, ...(request.host ? { host: request.host } : {}),
  })).map(publicOpening)
  const body = { nearest }
  const saved = await context.db.insert(idempotencyKeys).values({ workspaceId: workspace.id, key, requestHash, status: CONFLICT, body })
    .onConflictDoNothing().returning({ key: idempotencyKeys.key })
  const earlier = saved.length === 0 ? await findAnswer(context, context.db, workspace.id, key, requestHash) : null
  return earlier ?? { kind: 'answered', status: CONFLICT, body }
}

async function openingAt(context: Context, db: Database, eventType: EventType, request: ValidatedRequest): Promise<Opening | null> {
  const [opening] = await findOpenings(db, eventType, {
    now: context.now(),
    from: request.start,
    to: request.start + 1,
    durationMinutes: request.durationMinutes,
    ...(request.host ? { host: request.host } : {}),
  })
  return opening ?? null
}

export function publicOpening(opening: Opening): { start: string, end: string, seatsLeft: number } {
  return { start: opening.start, end: opening.end, seatsLeft: opening.seatsLeft }
}

/** The client's language where the platform can say times in it. */
function supportedLocale(locale: string | undefined): string {
  return locale && Intl.DateTimeFormat.supportedLocalesOf([locale]).length > 0 ? locale : 'en-GB'
}
