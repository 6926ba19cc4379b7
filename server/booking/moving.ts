import { and, eq, inArray, ne } from 'drizzle-orm'
import { takingStates } from '../../core/booking/states'
import type { Opening } from '../../core/openings'
import { distinctHosts } from '../../core/openings/matching'
import { dateToDays, instantToSeconds, MINUTE } from '../../core/time/civil'
import { zoneOf } from '../../core/time/zone'
import type { MoveOpenings } from '../../core/views/client'
import { type Context, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { bookings, sessionHosts } from '../database/schema'
import { type BookingDetails, loadBookingDetails } from '../details'
import { type EventType, findOpenings, loadEventTypes, nearestOpenings } from '../event-types'
import { type Reader, reasonsAgainst } from './reasons'
import { publicOpening } from './view'

/** Where a booking can be moved to: the openings of its event type, as they are without the session that moves. */

export interface Moving {
  details: BookingDetails
  /** With everybody who sits in the session among those who may, also who was picked from elsewhere. */
  eventType: EventType
  seats: { chairId: string, hostId: string }[]
  /** How many other bookings take the session's time. */
  others: number
  /** Whether somebody pays for a seat in it just now. */
  isHeld: boolean
  /** Whether the session goes to the new time itself, with all who are in it. */
  isWhole: boolean
}

/** Null where there is no such booking. `whole` where everybody in its session is to move. */
export async function loadMoving(db: Database, workspaceId: string, bookingId: string, whole: boolean): Promise<Moving | null> {
  const details = await loadBookingDetails(db, workspaceId, bookingId)
  const [eventType] = details ? await loadEventTypes(db, workspaceId, { ofSessions: [details.session.eventTypeId] }) : []
  if (!details || !eventType) return null
  const seats = await db.select({ chairId: sessionHosts.chairId, hostId: sessionHosts.hostId }).from(sessionHosts)
    .where(and(eq(sessionHosts.workspaceId, workspaceId), eq(sessionHosts.sessionId, details.session.id)))
  const taking = await db.select({ state: bookings.state }).from(bookings).where(and(
    eq(bookings.workspaceId, workspaceId), eq(bookings.sessionId, details.session.id), ne(bookings.id, bookingId),
    inArray(bookings.state, [...takingStates]),
  ))
  const others = taking.length
  return { details, eventType: withSeated(eventType, seats, details.hosts), seats, others, isWhole: whole || others === 0, isHeld: taking.some(({ state }) => state === 'held') }
}

function withSeated(eventType: EventType, seats: Moving['seats'], hosts: BookingDetails['hosts']): EventType {
  return {
    ...eventType,
    chairs: eventType.chairs.map((chair) => {
      const seated = hosts.find(host => seats.some(seat => seat.chairId === chair.id && seat.hostId === host.id))
      if (!seated || chair.hosts.some(host => host.id === seated.id)) return chair
      return {
        ...chair,
        hosts: [...chair.hosts, { id: seated.id, name: seated.name, weight: 1 }],
        pool: [...chair.pool, { host: seated.id, weight: 1, credit: 0, assignedAt: null }],
      }
    }),
  }
}

/** How long the session lasts, in minutes. */
export function minutesOf({ details: { session } }: Moving): number {
  return (secondsOf(session.endsAt) - secondsOf(session.startsAt)) / MINUTE
}

function spanOf({ now }: Pick<Context, 'now'>, moving: Moving) {
  const { details, eventType, seats, isWhole } = moving
  // Whom the client could pick is not changed by a move.
  const picked = seats.find(({ chairId, hostId }) => eventType.chairs.some(chair =>
    chair.id === chairId && chair.policy === 'client' && chair.hosts.some(host => host.id === hostId)))
  return {
    now: now(), durationMinutes: minutesOf(moving), ...(isWhole ? { without: details.session.id } : {}),
    chosen: picked ? { chairId: picked.chairId, host: picked.hostId } : null,
  }
}

/** Starts with from <= start < to that the booking can move to, ascending. Instants in seconds. */
export async function openingsToMoveTo(context: Context, moving: Moving, from: number, to: number): Promise<Opening[]> {
  const found = await findOpenings(context, moving.eventType, { ...spanOf(context, moving), from, to })
  return found.filter(opening => suits(moving, opening))
}

/** The times of some days that a booking can move to, as its client and members see them. */
export async function viewMoveOpenings(
  context: Context, moving: Moving, { from, to, timeZone }: { from: string, to: string, timeZone: string },
): Promise<MoveOpenings> {
  const zone = zoneOf(timeZone)
  const openings = await openingsToMoveTo(context, moving, zone.startOfDay(dateToDays(from)), zone.startOfDay(dateToDays(to) + 1))
  return { openings: openings.map(opening => ({ ...publicOpening(opening), sameHosts: keepsHosts(moving, opening) })) }
}

/** A session can be joined by one client, not by another session; and nobody moves to where they are, or where too few seats are left. */
function suits({ details: { session, booking }, isWhole, others }: Moving, opening: Opening): boolean {
  if (instantToSeconds(opening.start) === secondsOf(session.startsAt)) return false
  if (opening.seatsLeft < booking.people && (opening.session !== undefined || !isWhole)) return false
  return opening.session === undefined || (opening.session !== session.id && !(isWhole && others > 0))
}

export async function nearestToMoveTo(context: Context, moving: Moving, start: number): Promise<Opening[]> {
  const found = await nearestOpenings(context, moving.eventType, start, spanOf(context, moving), undefined, MOST_NEAREST + 1)
  return found.filter(opening => suits(moving, opening)).slice(0, MOST_NEAREST)
}

const MOST_NEAREST = 6

/** Whether everybody who sits in the session can sit in it at an opening, each in the same chair. */
export function keepsHosts(moving: Moving, opening: Opening): boolean {
  return opening.session === undefined && keptSeats(moving, opening).length === moving.seats.length
}

/** The seats whose hosts are able at an opening, as far as all chairs can be filled around them. */
export function keptSeats({ eventType: { chairs }, seats }: Moving, { able }: Pick<Opening, 'able'>): Moving['seats'] {
  const kept = seats.filter(seat => able[seat.chairId]?.includes(seat.hostId))
  const around = chairs.map(({ id }) => {
    const seat = kept.find(candidate => candidate.chairId === id)
    return seat ? [seat.hostId] : [...able[id] ?? []]
  })
  return distinctHosts(around) === null ? [] : kept
}

/**
 * Why a start is no opening, as far as it concerns who sits in the session, in sentences for who moves it. `isTaken` where
 * another session of theirs is there, be it one that a client alone could join: that can never be.
 */
export async function reasonsAgainstMove(
  context: Context, moving: Moving, start: number, reader: Reader,
): Promise<{ isTaken: boolean, sentences: string[] }> {
  const { eventType, seats } = moving
  const seated = new Set(seats.map(seat => seat.hostId))
  const chairs = eventType.chairs.map(chair => ({ ...chair, hosts: chair.hosts.filter(host => seated.has(host.id)) }))
  const own = { ...eventType, chairs: chairs.filter(chair => chair.hosts.length > 0) }
  if (own.chairs.length === 0) return { isTaken: false, sentences: [] }
  const { reasons, sentences } = await reasonsAgainst(context, own, start, spanOf(context, moving), reader)
  return { isTaken: sentences.length === 0 || reasons.some(({ code }) => code === 'session' || code === 'full'), sentences }
}
