import { randomUUID } from 'node:crypto'
import { sql } from 'drizzle-orm'
import { distinctHosts, type Opening } from '../../core/openings'
import { fillChairs } from '../../core/rotation/chairs'
import { MINUTE } from '../../core/time/civil'
import type { BookingView } from '../../core/views/client'
import { refreshCalendars } from '../calendar-sync'
import { applyBookingChange } from '../changes'
import { type Context, dateOf } from '../context'
import { Batch, type Guard } from '../database/batch'
import type { Database } from '../database/connection'
import { isConstraintFault, withRetries } from '../database/faults'
import { lockHosts } from '../database/lock'
import { answers, bookings, guests, idempotencyKeys, payments, sessionHosts, sessions } from '../database/schema'
import { type BookingDetails, bookingPage } from '../details'
import {
  bookableStates,
  type EventType,
  explainStart,
  hostIdsOf,
  isBookable,
  loadSnapshot,
  nearestOpenings,
  openEventType,
  openingAt,
  saveOneOff,
  shareEventType,
  type WorkspaceSnapshot,
} from '../event-types'
import { recordAssignments } from '../rotation'
import { type BookOutcome, findAnswer, hashRequest } from './idempotency'
import { inTurn } from './in-turn'
import { type Booker, bookingChange, newBooking } from './new-booking'
import { type BookingRequest, checkRequest, type ValidatedRequest } from './request'
import { joinSession, newSession, seatedHosts, seatsOf, StartTaken } from './seating'
import { bookingView, publicOpening, withPage } from './view'

/**
 * The one place where bookings are made, whoever asks. What a booking is decided on is read in one query and written in one
 * statement, which writes nothing if any of it has changed in between: a booking that nobody disturbs takes no more. One
 * that was overtaken, or that joins a session, goes the longer way under the hosts' locks.
 */

const CREATED = 201
const CONFLICT = 409

/** One attempt to book: where, by which request, and under which idempotency key. */
export interface Attempt {
  snapshot: WorkspaceSnapshot
  eventType: EventType
  request: ValidatedRequest
  key: string
  requestHash: string
  booker: Booker
}

export async function bookOpening(
  context: Context,
  workspaceSlug: string,
  slug: string,
  key: string,
  request: BookingRequest,
): Promise<BookOutcome> {
  const snapshot = await loadSnapshot(context.db, workspaceSlug)
  if (!snapshot?.workspace.confirmed) return { kind: 'notFound' }
  const { id: workspaceId } = snapshot.workspace
  const requestHash = hashRequest({ slug, request })
  // What was answered once is answered again, whatever has become of the event type.
  const earlier = () => findAnswer(context, context.db, workspaceId, key, requestHash)
  const eventType = openEventType(snapshot, slug)
  if (!eventType) return (await earlier()) ?? { kind: 'notFound' }

  const validated = checkRequest(eventType, request)
  if ('errors' in validated) return (await earlier()) ?? { kind: 'invalid', errors: validated.errors }
  const booker: Booker = { by: { kind: 'client', name: validated.client.name }, despite: false, told: null }
  const attempt: Attempt = { snapshot, eventType, request: validated, key, requestHash, booker }
  return (await tryBooking(context, attempt)) ?? (await earlier()) ?? refuseTaken(context, attempt)
}

/** Null where the time is taken, or no opening. */
export async function tryBooking(context: Context, attempt: Attempt): Promise<BookOutcome | null> {
  const { eventType } = attempt
  await refreshCalendarsFor(context, attempt)
  try {
    // One that is made for this session alone is saved with it.
    const first = eventType.oneOff ? 'joins' : await inTurn(eventType.id, () => tryToBook(context, context.db, attempt))
    if (typeof first === 'object') return first
    // Most of a crowd after one start is turned away before it queues for the hosts' locks.
    if (first !== 'taken') {
      return await inTurn(eventType.id, () => withRetries(() => context.db.transaction(tx => bookLocked(context, tx, attempt))))
    }
  } catch (error) {
    // What the constraints refuse is taken: hosts' time, seats.
    if (!(error instanceof StartTaken) && !isConstraintFault(error)) throw error
  }
  return null
}

/** Looks at the calendars of those who may be chosen, as far as they have any that were not looked at just now. */
async function refreshCalendarsFor(context: Context, { snapshot, eventType, request }: Attempt): Promise<void> {
  const { calendarHosts, stated, workspace } = snapshot
  if (!hostIdsOf(eventType).some(id => calendarHosts.has(id))) return
  const { opening } = await openingAt(context, eventType, request.start, spanOf(context, request), stated)
  if (!opening || opening.session) return
  const able = [...new Set(Object.values(opening.able).flat())].filter(id => calendarHosts.has(id))
  const { bufferBeforeMinutes, bufferAfterMinutes } = eventType.settings
  await refreshCalendars(context, workspace.id, able, {
    from: request.start - bufferBeforeMinutes * MINUTE, to: request.start + (request.durationMinutes + bufferAfterMinutes) * MINUTE,
  })
}

export function spanOf({ now }: Context, { durationMinutes, people, chosen }: ValidatedRequest) {
  return { now: now(), durationMinutes, people, chosen }
}

/** The longer way: nobody else can change what this is decided on until the transaction ends. */
async function bookLocked(context: Context, tx: Database, attempt: Attempt): Promise<BookOutcome> {
  const { workspace } = attempt.snapshot
  if (attempt.eventType.oneOff) {
    await lockHosts(tx, workspace.id, hostIdsOf(attempt.eventType))
    await saveOneOff(tx, attempt.eventType, dateOf(context.now()))
    return requireBooked(await tryToBook(context, tx, attempt, true))
  }
  // Publishing waits for bookings under way, and they for it.
  await shareEventType(tx, workspace.id, attempt.eventType.id)
  await lockHosts(tx, workspace.id, hostIdsOf(attempt.eventType))
  const snapshot = await loadSnapshot(tx, workspace.slug)
  const eventType = snapshot?.eventTypes.find(candidate => candidate.id === attempt.eventType.id)
  if (!snapshot || !eventType || !isBookable(eventType, attempt.booker.by.kind)) throw new StartTaken()
  return requireBooked(await tryToBook(context, tx, { ...attempt, snapshot, eventType }, true))
}

/** Whatever was written for one that is not made, such as a seat taken, is rolled back. */
function requireBooked(outcome: Awaited<ReturnType<typeof tryToBook>>): BookOutcome {
  if (typeof outcome !== 'object') throw new StartTaken()
  return outcome
}

/** One reading and one writing. `overtaken` where something has changed in between; `joins` where only the longer way leads on. */
async function tryToBook(
  context: Context,
  db: Database,
  attempt: Attempt,
  isLocked = false,
): Promise<BookOutcome | 'taken' | 'overtaken' | 'joins'> {
  const {
    snapshot: { workspace, stated, hosts, paymentAccountId },
    request, booker,
  } = attempt
  const { opening, eventType, takenStamp } = await findOpening({ ...context, db }, attempt, stated)
  if (!opening) return 'taken'
  if (opening.session && !isLocked) return 'joins'

  const bookingId = randomUUID()
  const seated = opening.session ? [] : fillChairs(eventType.chairs, opening.able, request.chosen)
  const joined = opening.session ? await joinSession(db, eventType, opening.session, request.people) : null
  const session = joined?.session ?? newSession(eventType, request)
  const { booking, payment, ...parts } = newBooking(context, { eventType, request, booker }, session.id, bookingId, paymentAccountId)
  const details: BookingDetails = {
    workspace,
    eventType: { ...eventType, archivedAt: null },
    session,
    booking,
    payment,
    ...parts,
    room: joined?.room ?? null,
    hosts: joined?.hosts ?? seatedHosts(hosts, seated),
  }
  const body = { booking: bookingView(details) }
  const batch = new Batch(guardOf(attempt, takenStamp, bookingId, body))
  if (!joined) {
    batch.insert(sessions, [session])
    batch.insert(sessionHosts, seatsOf(eventType, session, seated))
    recordAssignments(batch, { workspaceId: workspace.id, sessionId: session.id, kind: 'booked', at: context.now() }, seated)
  }
  batch.insert(bookings, [booking])
  batch.insert(answers, parts.answers)
  batch.insert(guests, parts.guests)
  batch.insert(payments, payment ? [payment] : [])
  const change = bookingChange(context, details, seated, booker)
  const facts = { hostsHaveEntry: joined?.hostsHaveEntry ?? false }
  if (!(await applyBookingChange(context, db, details, change, null, facts, batch))) return 'overtaken'
  return { kind: 'booked', body: withPage(body.booking, bookingPage(context, details)) }
}

/** The opening; where a member books in spite of what speaks against it, with whoever has no other session then. */
async function findOpening(context: Context, { eventType, request, booker }: Attempt, stated: WorkspaceSnapshot['stated']) {
  const span = spanOf(context, request)
  const found = await openingAt(context, eventType, request.start, span, stated)
  if (found.opening || !booker.despite) return found
  const free = await openingAt(context, eventType, request.start, { ...span, onlySessions: true }, stated)
  if (!free.opening || free.opening.session) return free
  const { explanation } = await explainStart(context, eventType, request.start, span)
  const against = new Set(explanation.reasons.flatMap(reason => ('host' in reason ? [reason.host] : [])))
  return { ...free, opening: { ...free.opening, able: preferring(free.opening.able, host => !against.has(host)) } }
}

/** Only those whom nothing speaks against, where they can fill all chairs. */
function preferring(able: Opening['able'], isPreferred: (host: string) => boolean): Opening['able'] {
  const preferred = Object.fromEntries(Object.entries(able).map(([chair, hosts]) => [chair, hosts.filter(isPreferred)]))
  return distinctHosts(Object.values(preferred)) === null ? able : preferred
}

/**
 * What must still be so when the booking is written: the workspace's settings and the hosts' taken time as they were read,
 * both locked until the end; and that nobody has used the idempotency key, which a second press waits for. The version is
 * the one of the locked row: the workspace's stamp beside it may be older than the lock.
 */
function guardOf(
  { snapshot: { workspace }, eventType, key, requestHash, booker }: Attempt,
  takenStamp: string,
  bookingId: string,
  body: { booking: BookingView },
): Guard {
  const ids = sql.param(hostIdsOf(eventType))
  return {
    queries: sql`
      locked as (select taken_stamp from hosts where workspace_id = ${workspace.id} and id = any(${ids}::uuid[]) order by id for no key update),
      settings as (
        select ${eventType.oneOff} or workspaces.stamp = ${workspace.stamp}::bigint as is_current, event_types.version,
          event_types.state = any(${sql.param(bookableStates(booker.by.kind))}::text[]) and event_types.archived_at is null as is_open
        from event_types inner join workspaces on workspaces.id = event_types.workspace_id
        where event_types.workspace_id = ${workspace.id} and event_types.id = ${eventType.id} for share of event_types
      ),
      claim as (
        insert into idempotency_keys (workspace_id, key, request_hash, status, body, booking_id)
        select ${workspace.id}::uuid, ${key}, ${requestHash}, ${CREATED}::int, ${JSON.stringify(body)}::json, ${bookingId}::uuid
        where (select sum(taken_stamp) from locked) = ${takenStamp}::numeric and (select is_current and version = ${eventType.version}::int and is_open from settings)
        on conflict do nothing returning 1
      )`,
    condition: sql`exists (select 1 from claim)`,
  }
}

export async function refuseTaken(
  context: Context,
  { snapshot: { workspace, stated }, eventType, request, key, requestHash }: Attempt,
): Promise<BookOutcome> {
  const nearest = (
    await nearestOpenings(
      context,
      eventType,
      request.start,
      spanOf(context, request),
      stated,
    )
  ).map(publicOpening)
  const body = { nearest }
  const saved = await context.db
    .insert(idempotencyKeys)
    .values({ workspaceId: workspace.id, key, requestHash, status: CONFLICT, body })
    .onConflictDoNothing()
    .returning({ key: idempotencyKeys.key })
  const earlier = saved.length === 0 ? await findAnswer(context, context.db, workspace.id, key, requestHash) : null
  return earlier ?? { kind: 'taken', body }
}
