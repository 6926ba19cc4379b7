import { and, eq, inArray, sql } from 'drizzle-orm'
import type { Actor, Move } from '../../core/booking/changes'
import { type BookingTimes, type ChangeRefusal, changeRefusal, clientRefusal } from '../../core/booking/refusals'
import type { Opening } from '../../core/openings'
import { assignChosen } from '../../core/rotation'
import { type FilledChair, fillChairs } from '../../core/rotation/chairs'
import { MINUTE } from '../../core/time/civil'
import type { PublicOpening } from '../../core/views/client'
import { refreshCalendars } from '../calendar-sync'
import { applyBookingChange, applySessionChange } from '../changes'
import { type Context, secondsOf } from '../context'
import { Batch } from '../database/batch'
import type { Database } from '../database/connection'
import { isConstraintFault, Overtaken, withRetries } from '../database/faults'
import { lockSessionWithHosts } from '../database/lock'
import { bookings, hosts, rooms, sessionHosts, sessions } from '../database/schema'
import { type BookingDetails, loadAttendees, loadBookingDetails } from '../details'
import { hostIdsOf, isOpen, type PoolChair, shareEventType } from '../event-types'
import { loadTurns, recordAssignments, returnTurns } from '../rotation'
import { keptSeats, loadMoving, minutesOf, type Moving, nearestToMoveTo, openingsToMoveTo, reasonsAgainstMove } from './moving'
import { assignedEntry, joinSession, newSession, seatedHosts, seatsOf, StartTaken } from './seating'
import type { Reader } from './reasons'
import { publicOpening } from './view'

/**
 * Moving a booking to another time. Alone in its session it takes the session along, or everybody moves together; one that
 * shares its session leaves it, for another that it joins or that is made for it. Who sits in it stays where able.
 */

export interface MoveRequest {
  bookingId: string
  /** Seconds since the epoch. */
  start: number
  /** Whether everybody in its session moves too. */
  whole: boolean
  /** Moves it also to a time that is not open, as long as no other session is in the way; for members only. */
  despite: boolean
}

export type MoveOutcome =
  | { kind: 'moved', details: BookingDetails }
  | { kind: 'notFound' }
  | { kind: 'refused', refusal: ChangeRefusal }
  /** Somebody pays for a seat in the session just now. */
  | { kind: 'held' }
  /** It is no opening, or no longer one. */
  | { kind: 'taken', nearest: PublicOpening[] }
  /** It is no opening, but nothing stands in the way that a member could not decide on. */
  | { kind: 'warned', reasons: string[], nearest: PublicOpening[] }

/** Who moves it; a member reads why not in their own zone. */
export interface Mover extends Reader {
  by: Actor
}

export async function moveBooking(context: Context, workspaceId: string, wanted: MoveRequest, mover: Mover): Promise<MoveOutcome> {
  const isClient = mover.by.kind === 'client'
  const load = () => loadMoving(context.db, workspaceId, wanted.bookingId, wanted.whole)
  const first = await load()
  if (!first) return { kind: 'notFound' }
  const { bufferBeforeMinutes, bufferAfterMinutes } = first.eventType.settings
  await refreshCalendars(context, workspaceId, hostsOf(first), {
    from: wanted.start - bufferBeforeMinutes * MINUTE, to: wanted.start + (minutesOf(first) + bufferAfterMinutes) * MINUTE,
  })
  try {
    const outcome = await withRetries(async () => {
      const current = await load() ?? first
      return context.db.transaction(tx => moveLocked(context, tx, wanted, mover, current))
    })
    if (outcome !== 'taken') return outcome
  } catch (error) {
    // What the constraints refuse is taken: hosts' time, seats.
    if (!(error instanceof StartTaken) && !isConstraintFault(error)) throw error
  }
  const nearest = (await nearestToMoveTo(context, first, wanted.start)).map(publicOpening)
  if (isClient || wanted.despite) return { kind: 'taken', nearest }
  const { isTaken, sentences } = await reasonsAgainstMove(context, first, wanted.start, mover)
  return isTaken ? { kind: 'taken', nearest } : { kind: 'warned', reasons: sentences, nearest }
}

/** Everybody who sits in it, or may. */
function hostsOf({ eventType, seats }: Moving): string[] {
  return [...new Set([...hostIdsOf(eventType), ...seats.map(seat => seat.hostId)])]
}

async function moveLocked(
  context: Context, tx: Database, wanted: MoveRequest, { by }: Mover, first: Moving,
): Promise<MoveOutcome | 'taken'> {
  const { workspace, session } = first.details
  const hostIds = hostsOf(first)
  // Publishing waits for moves under way, and they for it.
  await shareEventType(tx, workspace.id, first.eventType.id)
  await lockSessionWithHosts(tx, workspace.id, session.id, hostIds)
  const moving = await loadMoving(tx, workspace.id, wanted.bookingId, wanted.whole)
  if (!moving) return { kind: 'notFound' }
  // Who may sit in it has changed before it was locked, or it has gone to another session.
  if (moving.details.session.id !== session.id || hostIdsOf(moving.eventType).some(id => !hostIds.includes(id))) throw new Overtaken()
  if (secondsOf(moving.details.session.startsAt) === wanted.start) return { kind: 'moved', details: moving.details }
  const refusal = refusalOf(moving, by, context.now())
  if (refusal) return { kind: 'refused', refusal }
  if (moving.isWhole && moving.isHeld) return { kind: 'held' }
  if (wanted.start <= context.now()) return 'taken'
  const [open] = await openingsToMoveTo({ ...context, db: tx }, moving, wanted.start, wanted.start + 1)
  const opening = open ?? (wanted.despite ? asItStands(moving) : null)
  if (!opening) return 'taken'
  const plan: Plan = { moving, opening, start: wanted.start, by, now: context.now() }
  if (opening.session === undefined && moving.isWhole) await moveSession(context, tx, plan)
  else await leaveSession(context, tx, plan)
  const details = await loadBookingDetails(tx, workspace.id, wanted.bookingId)
  return details ? { kind: 'moved', details } : { kind: 'notFound' }
}

function refusalOf({ details: { booking, session }, eventType }: Moving, by: Actor, now: number): ChangeRefusal | null {
  const times: BookingTimes = { state: booking.state, start: secondsOf(session.startsAt), end: secondsOf(session.endsAt) }
  if (by.kind !== 'client') return changeRefusal('joined', times, now)
  return isOpen(eventType) ? clientRefusal('moved', times, eventType.settings.clientTerms, now) : 'pastDeadline'
}

interface Plan {
  moving: Moving
  opening: Pick<Opening, 'able' | 'session'>
  start: number
  by: Actor
  now: number
}

/** A time that is not open, for the hosts who sit in it; null where none of their chairs is there any more. */
function asItStands({ seats, eventType }: Moving): Plan['opening'] | null {
  const standing = seats.filter(({ chairId }) => eventType.chairs.some(chair => chair.id === chairId))
  return standing.length === 0 ? null : { able: Object.fromEntries(standing.map(({ chairId, hostId }) => [chairId, [hostId]])) }
}

interface Seating {
  /** Who sits in which chair from then on. */
  filled: FilledChair<PoolChair>[]
  /** Those of them whom the rotation has chosen anew. */
  anew: FilledChair<PoolChair>[]
}

/** Keeps whoever is able in their chairs, and fills the others by their rotation. */
async function seat(tx: Database, { moving, opening }: Plan, isAnew: boolean): Promise<Seating> {
  const { eventType, details: { workspace } } = moving
  const kept = new Map(keptSeats(moving, opening).map(({ chairId, hostId }) => [chairId, hostId]))
  const chairs = await Promise.all(eventType.chairs.filter(({ id }) => opening.able[id]).map(async chair =>
    ({ ...chair, pool: await loadTurns(tx, workspace.id, chair.poolId, chair.pool) })))
  const able = Object.fromEntries(chairs.map(({ id }) => {
    const host = kept.get(id)
    return [id, host ? [host] : opening.able[id] ?? []]
  }))
  const filled = fillChairs(chairs, able).map((seated) => {
    const host = kept.get(seated.chair.id)
    return host ? { ...seated, assignment: assignChosen(seated.chair.pool, new Set(opening.able[seated.chair.id]), host) } : seated
  })
  return { filled, anew: isAnew ? filled : filled.filter(({ chair }) => !kept.has(chair.id)) }
}

/** The session itself goes to the new time, with everybody in it. */
async function moveSession(context: Context, tx: Database, plan: Plan): Promise<void> {
  const { moving: { details, eventType, seats }, by, now } = plan
  const { workspace, session } = details
  const before = keptSeats(plan.moving, plan.opening)
  const leaving = seats.filter(candidate => !before.some(({ chairId }) => chairId === candidate.chairId))
  for (const { chairId } of leaving) await returnTurns(tx, workspace.id, session.id, now, chairId)
  const { filled, anew } = await seat(tx, plan, false)
  const moved = { ...session, ...newSession(eventType, { ...timesOf(plan), place: session.place }), ...keptOf(session) }
  await tx.delete(sessionHosts).where(and(eq(sessionHosts.workspaceId, workspace.id), eq(sessionHosts.sessionId, session.id)))
  const { startsAt, endsAt, bufferBeforeMinutes, bufferAfterMinutes } = moved
  await tx.update(sessions).set({ startsAt, endsAt, bufferBeforeMinutes, bufferAfterMinutes })
    .where(and(eq(sessions.workspaceId, workspace.id), eq(sessions.id, session.id)))
  await tx.update(bookings).set({ expiresAt: expiry(eventType, moved.startsAt) })
    .where(and(eq(bookings.workspaceId, workspace.id), eq(bookings.sessionId, session.id), eq(bookings.state, 'awaitingApproval')))
  // Whoever was warned of a missing link is warned anew before the new time.
  await tx.update(rooms).set({ warnings: 0 }).where(and(eq(rooms.workspaceId, workspace.id), eq(rooms.sessionId, session.id)))
  const batch = new Batch()
  batch.insert(sessionHosts, seatsOf(eventType, moved, filled))
  recordAssignments(batch, { workspaceId: workspace.id, sessionId: session.id, kind: 'moved', at: now }, anew)
  const concerned = [...new Set([...seats.map(({ hostId }) => hostId), ...filled.map(({ host }) => host)])]
  batch.update(sql`update ${hosts} set taken_stamp = taken_stamp + 1
    where ${hosts.workspaceId} = ${workspace.id} and ${inArray(hosts.id, concerned)}`)
  await batch.write(tx)
  const current = filled.map(({ host }) => host)
  const former = details.hosts.filter(host => !current.includes(host.id))
  const newHostIds = current.filter(id => !details.hosts.some(host => host.id === id))
  const nameOf = ({ chair, host }: FilledChair<PoolChair>) => chair.hosts.find(candidate => candidate.id === host)?.name ?? host
  const isOther = former.length + newHostIds.length > 0
  await applySessionChange(context, tx, workspace.id, session.id, {
    kind: 'moved', by, at: now, move: moveOf(plan, isOther), assigned: anew.map(assignedEntry),
    hosts: isOther ? { from: details.hosts.map(host => host.name), to: filled.map(nameOf) } : null,
  }, { former, newHostIds })
}

/** The booking goes from the session that it shares to another one. */
async function leaveSession(context: Context, tx: Database, plan: Plan): Promise<void> {
  const { moving: { details, eventType, others }, opening, by, now } = plan
  const { workspace, booking, session } = details
  const joined = opening.session === undefined ? null : await joinSession(tx, eventType, opening.session, booking.people)
  const { filled, anew } = joined ? { filled: [], anew: [] } : await seat(tx, plan, true)
  const target = joined?.session ?? newSession(eventType, { ...timesOf(plan), place: session.place })
  const batch = new Batch()
  if (!joined) {
    batch.insert(sessions, [target])
    batch.insert(sessionHosts, seatsOf(eventType, target, filled))
    recordAssignments(batch, { workspaceId: workspace.id, sessionId: target.id, kind: 'moved', at: now }, anew)
    await batch.write(tx)
  }
  await tx.update(bookings).set({
    sessionId: target.id, ...(booking.state === 'awaitingApproval' ? { expiresAt: expiry(eventType, target.startsAt) } : {}),
  })
    .where(and(eq(bookings.workspaceId, workspace.id), eq(bookings.id, booking.id)))
  await tx.update(sessions).set({ seatsTaken: sql`${sessions.seatsTaken} - ${booking.people}::int` })
    .where(and(eq(sessions.workspaceId, workspace.id), eq(sessions.id, session.id)))
  const seated = joined?.hosts ?? await seatedIn(tx, workspace.id, filled)
  const isOther = seated.some(host => !details.hosts.some(before => before.id === host.id))
  const move = moveOf(plan, isOther)
  const attendees = await loadAttendees(tx, workspace.id, session.id)
  await applyBookingChange(context, tx, details, { kind: 'left', by, at: now, client: booking.clientName, move }, booking.state, {
    isLast: others === 0, hostsHaveEntry: booking.state === 'confirmed' || session.sequence > 0 || attendees.length > 0,
  })
  const after = { ...details, booking: { ...booking, sessionId: target.id }, session: target, hosts: seated, room: joined?.room ?? null }
  const names = isOther ? { from: details.hosts.map(host => host.name), to: seated.map(host => host.name) } : null
  await applyBookingChange(
    context, tx, after, { kind: 'joined', by, at: now, move, hosts: names, assigned: anew.map(assignedEntry) }, booking.state,
    { hostsHaveEntry: joined?.hostsHaveEntry ?? false },
  )
}

async function seatedIn(tx: Database, workspaceId: string, filled: readonly FilledChair<PoolChair>[]): Promise<BookingDetails['hosts']> {
  const found = await tx.select().from(hosts)
    .where(and(eq(hosts.workspaceId, workspaceId), inArray(hosts.id, filled.map(({ host }) => host))))
  return seatedHosts(found, filled)
}

/** Like `requestExpiry`, for each request that it is written to. */
const expiry = ({ settings: { approvalHours } }: Moving['eventType'], start: Date) =>
  sql`least(${start.toISOString()}::timestamptz, ${bookings.createdAt} + make_interval(hours => ${approvalHours}::int))`

const timesOf = ({ moving, start }: Plan) => ({ start, durationMinutes: minutesOf(moving), people: moving.details.booking.people })

/** What of a session stays as it is at another time. */
const keptOf = ({ id, seats, seatsTaken, sequence, cancelled, notes, tags, notesVersion }: BookingDetails['session']) =>
  ({ id, seats, seatsTaken, sequence, cancelled, notes, tags, notesVersion })

function moveOf({ moving, start }: Plan, hasOtherHosts: boolean): Move {
  const { startsAt, endsAt } = moving.details.session
  return {
    from: { start: secondsOf(startsAt), end: secondsOf(endsAt) }, to: { start, end: start + minutesOf(moving) * MINUTE }, hasOtherHosts,
  }
}
