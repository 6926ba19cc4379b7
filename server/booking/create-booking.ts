import { randomUUID } from 'node:crypto'
import { and, asc, eq, inArray, lt, sql } from 'drizzle-orm'
import type { Place } from '../../core/event-type/settings'
import type { Opening } from '../../core/openings'
import { type FilledChair, fillChairs } from '../../core/rotation/chairs'
import { MINUTE } from '../../core/time/civil'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { isConstraintFault, withRetries } from '../database/faults'
import { answers, bookings, guests, hosts, idempotencyKeys, sessionHosts, sessions } from '../database/schema'
import { type EventType, findOpenings, hostIdsOf, isOpen, loadEventTypes, loadOpenEventType, loadWorkspace, nearestOpenings, type PoolChair, shareEventType } from '../event-types'
import { bookingPage, type BookingDetails, loadBookingDetails, planMessages } from '../messages'
import { planRoom } from '../rooms'
import { bookingToken, hashToken, makeSeed } from '../secrets'
import { recordTrail } from '../trail'
import { answerGiven, type BookOutcome, hashOf } from './idempotency'
import { saveCredits } from './credits'
import { type BookingRequest, checkRequest, type ValidatedRequest } from './request'
import { bookingView } from './view'

/** The one place where bookings are made, whoever asks. */

/** Thrown to roll a transaction back: the start is no longer open. */
class StartTaken extends Error {}

const CREATED = 201
const CONFLICT = 409

export async function bookOpening(context: Context, workspaceSlug: string, slug: string, key: string, request: BookingRequest): Promise<BookOutcome> {
  const workspace = await loadWorkspace(context.db, workspaceSlug)
  if (!workspace?.confirmed) return { kind: 'notFound' }
  const requestHash = hashOf({ slug, request })
  // What was answered once is answered again, whatever has become of the event type.
  const earlier = await answerGiven(context, context.db, workspace.id, key, requestHash)
  if (earlier) return earlier
  const eventType = await loadOpenEventType(context.db, workspace, slug)
  if (!eventType) return { kind: 'notFound' }

  const wanted = checkRequest(eventType, request)
  if ('errors' in wanted) return { kind: 'invalid', errors: wanted.errors }

  // Most of a crowd after one start is turned away here, before it queues for the hosts' locks.
  if (await openingAt(context, context.db, eventType, wanted)) {
    try {
      return await withRetries(() => context.db.transaction(tx => bookLocked(context, tx, eventType, wanted, key, requestHash)))
    } catch (error) {
      // What the constraints refuse is taken: hosts' time, seats.
      if (!(error instanceof StartTaken) && !isConstraintFault(error)) throw error
    }
  }
  return refuseTaken(context, eventType, wanted, key, requestHash)
}

async function bookLocked(
  context: Context, tx: Database, known: EventType, wanted: ValidatedRequest, key: string, requestHash: string,
): Promise<BookOutcome> {
  const { workspaceId } = known
  // A second press with the same key waits here for the first, and then finds its answer.
  const claimed = await tx.insert(idempotencyKeys)
    .values({ workspaceId, key, requestHash, status: CREATED, body: {} })
    .onConflictDoNothing().returning({ key: idempotencyKeys.key })
  if (claimed.length === 0) {
    const earlier = await answerGiven(context, tx, workspaceId, key, requestHash)
    if (earlier) return earlier
  }
  // Publishing waits for bookings under way, and they for it.
  await shareEventType(tx, workspaceId, known.id)
  await tx.select({ id: hosts.id }).from(hosts)
    .where(and(eq(hosts.workspaceId, workspaceId), inArray(hosts.id, hostIdsOf(known))))
    .orderBy(asc(hosts.id)).for('no key update')
  // Rotation and settings as they stand under the locks.
  const [eventType] = await loadEventTypes(tx, workspaceId, { id: known.id })
  const opening = eventType && isOpen(eventType) ? await openingAt(context, tx, eventType, wanted) : null
  if (!eventType || !opening) throw new StartTaken()

  const { sessionId, seated } = opening.session
    ? await joinSession(tx, eventType, opening.session)
    : await makeSession(context, tx, eventType, wanted, opening)
  const story = await makeBooking(context, tx, eventType, wanted, sessionId, seated)
  const body = { booking: bookingView(story) }
  await tx.update(idempotencyKeys).set({ body, bookingId: story.booking.id })
    .where(and(eq(idempotencyKeys.workspaceId, workspaceId), eq(idempotencyKeys.key, key)))
  return { kind: 'answered', status: CREATED, body: { ...body, manage: bookingPage(context, story) } }
}

interface Seated {
  sessionId: string
  /** Hosts assigned by this booking; none where it joins a session. */
  seated: FilledChair<PoolChair>[]
}

/** Takes a seat, if by now the session still stands and has one. */
async function joinSession(tx: Database, { workspaceId, settings }: EventType, sessionId: string): Promise<Seated> {
  const joined = await tx.update(sessions)
    .set({ seatsTaken: sql`${sessions.seatsTaken} + 1`, seats: sql`greatest(${sessions.seats}, ${settings.seats}::int)` })
    .where(and(eq(sessions.workspaceId, workspaceId), eq(sessions.id, sessionId), eq(sessions.cancelled, false), lt(sessions.seatsTaken, settings.seats)))
    .returning({ id: sessions.id })
  if (joined.length === 0) throw new StartTaken()
  return { sessionId, seated: [] }
}

async function makeSession(context: Context, tx: Database, eventType: EventType, wanted: ValidatedRequest, opening: Opening): Promise<Seated> {
  const { workspaceId, settings } = eventType
  const seated = fillChairs(eventType.chairs, opening.able, wanted.request.host)
  const end = wanted.start + wanted.durationMinutes * MINUTE
  const sessionId = randomUUID()
  await tx.insert(sessions).values({
    workspaceId,
    id: sessionId,
    eventTypeId: eventType.id,
    startsAt: dateOf(wanted.start),
    endsAt: dateOf(end),
    bufferBeforeMinutes: settings.bufferBeforeMinutes,
    bufferAfterMinutes: settings.bufferAfterMinutes,
    seats: settings.seats,
    seatsTaken: 1,
    place: wanted.place,
  })
  const padded = `[${dateOf(wanted.start - settings.bufferBeforeMinutes * MINUTE).toISOString()},${dateOf(end + settings.bufferAfterMinutes * MINUTE).toISOString()})`
  await tx.insert(sessionHosts).values(seated.map(({ chair, host, assignment }) => ({
    workspaceId, sessionId, hostId: host, chairId: chair.id, padded, reason: assignment.reason,
  })))
  await saveCredits(tx, workspaceId, seated, context.now())
  return { sessionId, seated }
}

async function makeBooking(
  context: Context, tx: Database, eventType: EventType, wanted: ValidatedRequest, sessionId: string, seated: readonly FilledChair<PoolChair>[],
): Promise<BookingDetails> {
  const { workspaceId, settings } = eventType
  const { request, start } = wanted
  const bookingId = randomUUID()
  const tokenSeed = makeSeed()
  const state = settings.approval ? 'awaitingApproval' : 'confirmed'
  await tx.insert(bookings).values({
    workspaceId,
    id: bookingId,
    sessionId,
    state,
    clientName: request.client.name,
    clientEmail: request.client.email,
    clientPhone: wanted.phone,
    timeZone: request.timeZone,
    locale: knownLocale(request.client.locale),
    source: request.source ?? null,
    tokenSeed,
    tokenHash: hashToken(bookingToken(context.settings.secret, workspaceId, tokenSeed)),
    createdAt: dateOf(context.now()),
  })
  if (wanted.answers.length > 0) {
    await tx.insert(answers).values(wanted.answers.map((answer, position) => ({ workspaceId, bookingId, position, ...answer })))
  }
  if (request.guests?.length) {
    await tx.insert(guests).values(request.guests.map(guest => ({ workspaceId, bookingId, email: guest.email, name: guest.name ?? guest.email })))
  }
  await recordTrail(tx, { workspaceId, sessionId, bookingId }, context.now(), settings.approval ? 'requested' : 'booked', {
    client: request.client.name, eventType: settings.name, start,
  })
  for (const filledChair of seated) await recordAssignment(context, tx, eventType, sessionId, filledChair)
  if (settings.approval) await planMessages(tx, context, workspaceId, bookingId, 'awaitingApproval', context.now())
  else await afterConfirmation(context, tx, workspaceId, sessionId, bookingId, wanted.place)
  const story = await loadBookingDetails(tx, workspaceId, bookingId)
  if (!story) throw new Error('The booking was not kept')
  return story
}

/** What a confirmed booking sets going: the room, and the confirmations, which wait a short time for it. */
export async function afterConfirmation(
  context: Context, tx: Database, workspaceId: string, sessionId: string, bookingId: string, place: Place,
): Promise<void> {
  const now = context.now()
  const byVideo = place.kind === 'video'
  const ready = byVideo && (await loadBookingDetails(tx, workspaceId, bookingId))?.room?.state === 'ready'
  if (byVideo) await planRoom(tx, workspaceId, sessionId, now)
  await planMessages(tx, context, workspaceId, bookingId, 'booked', byVideo && !ready ? now + context.settings.roomWaitSeconds : now)
}

async function refuseTaken(context: Context, eventType: EventType, wanted: ValidatedRequest, key: string, requestHash: string): Promise<BookOutcome> {
  const { workspaceId } = eventType
  const nearest = (await nearestOpenings(context.db, eventType, wanted.start, {
    now: context.now(), durationMinutes: wanted.durationMinutes, ...(wanted.request.host ? { host: wanted.request.host } : {}),
  })).map(publicOpening)
  const body = { nearest }
  const kept = await context.db.insert(idempotencyKeys).values({ workspaceId, key, requestHash, status: CONFLICT, body })
    .onConflictDoNothing().returning({ key: idempotencyKeys.key })
  const earlier = kept.length === 0 ? await answerGiven(context, context.db, workspaceId, key, requestHash) : null
  return earlier ?? { kind: 'answered', status: CONFLICT, body }
}

async function openingAt(context: Context, db: Database, eventType: EventType, wanted: ValidatedRequest): Promise<Opening | null> {
  const [opening] = await findOpenings(db, eventType, {
    now: context.now(),
    from: wanted.start,
    to: wanted.start + 1,
    durationMinutes: wanted.durationMinutes,
    ...(wanted.request.host ? { host: wanted.request.host } : {}),
  })
  return opening ?? null
}

function recordAssignment(context: Context, tx: Database, eventType: EventType, sessionId: string, seated: FilledChair<PoolChair>): Promise<void> {
  const name = (id: string) => seated.chair.hosts.find(host => host.id === id)?.name ?? id
  return recordTrail(tx, { workspaceId: eventType.workspaceId, sessionId }, context.now(), 'assigned', {
    host: name(seated.host),
    chair: seated.chair.name,
    code: seated.chosen ? 'chosen' : seated.assignment.reason.code,
    able: seated.assignment.reason.able.map(name),
  })
}

export function publicOpening(opening: Opening): { start: string, end: string, seatsLeft: number } {
  return { start: opening.start, end: opening.end, seatsLeft: opening.seatsLeft }
}

/** The client's language where the platform can say times in it. */
function knownLocale(locale: string | undefined): string {
  return locale && Intl.DateTimeFormat.supportedLocalesOf([locale]).length > 0 ? locale : 'en-GB'
}
