import { and, asc, eq, exists, gt, inArray, isNull, sql, type SQL } from 'drizzle-orm'
import type { Database } from '../database/connection'
import { jsonRows } from '../database/json-rows'
import { preparedQuery } from '../database/prepared-query'
import { answers, bookings, eventTypes, guests, hosts, payments, rooms, sessionHosts, sessions, workspaces } from '../database/schema'

/** The room that a session has at present. */
export const isRoomOfSession = and(eq(rooms.workspaceId, sessions.workspaceId), eq(rooms.sessionId, sessions.id), isNull(rooms.replacedAt))

/** A booking with everything that anybody reads about it: what messages, calendar entries and pages are made from. */

export type Guest = typeof guests.$inferSelect

export interface BookingDetails {
  workspace: Pick<typeof workspaces.$inferSelect, 'id' | 'slug' | 'name' | 'timeZone' | 'looks' | 'countsCancelled' | 'countsMissed' | 'calendarLinks' | 'quietHours'>
  eventType: Pick<typeof eventTypes.$inferSelect, 'id' | 'slug' | 'settings' | 'state' | 'archivedAt' | 'oneOff'>
  session: typeof sessions.$inferSelect
  booking: typeof bookings.$inferSelect
  /** Who sits in the session, by name. */
  hosts: (typeof hosts.$inferSelect)[]
  answers: (typeof answers.$inferSelect)[]
  guests: Guest[]
  room: typeof rooms.$inferSelect | null
  /** Null where the booking costs nothing. */
  payment: typeof payments.$inferSelect | null
}

/** Who sits in the session of the row, by name. */
const seatedHosts = jsonRows(hosts, {
  from: sql`${sessionHosts} join ${hosts} on ${and(eq(hosts.workspaceId, sessionHosts.workspaceId), eq(hosts.id, sessionHosts.hostId))}`,
  where: and(eq(sessionHosts.workspaceId, sessions.workspaceId), eq(sessionHosts.sessionId, sessions.id)),
  orderBy: sql`${hosts.name}`,
})

/** What belongs to the booking of the row. */
const bookingParts = {
  answers: jsonRows(answers, {
    from: sql`${answers}`,
    where: and(eq(answers.workspaceId, bookings.workspaceId), eq(answers.bookingId, bookings.id)),
    orderBy: sql`${answers.position}`,
  }),
  guests: jsonRows(guests, {
    from: sql`${guests}`,
    where: and(eq(guests.workspaceId, bookings.workspaceId), eq(guests.bookingId, bookings.id)),
    orderBy: sql`${guests.email}`,
  }),
}

export async function loadBookingDetails(db: Database, workspaceId: string, bookingId: string): Promise<BookingDetails | null> {
  const [found] = await oneBooking(db).execute({ workspaceId, bookingId })
  return found ?? null
}

/** The bookings of a session in one state, each with everything that its people read. */
export function loadDetailsOfSession(
  db: Database, workspaceId: string, sessionId: string, state: 'confirmed' | 'awaitingApproval',
): Promise<BookingDetails[]> {
  return detailsOfSession(db).execute({ workspaceId, sessionId, state })
}

/** The confirmed and waiting bookings of a host's sessions that end after an instant, with everything that its people read. */
export function loadDetailsOfHost(db: Database, workspaceId: string, hostId: string, after: Date): Promise<BookingDetails[]> {
  const sits = exists(db.select({ one: sql`1` }).from(sessionHosts).where(and(
    eq(sessionHosts.workspaceId, sessions.workspaceId), eq(sessionHosts.sessionId, sessions.id), eq(sessionHosts.hostId, hostId),
    eq(sessionHosts.active, true),
  )))
  return detailsQuery(db, and(
    eq(bookings.workspaceId, workspaceId), inArray(bookings.state, ['confirmed', 'awaitingApproval']), gt(sessions.endsAt, after), sits,
  ))
}

const ofWorkspace = eq(bookings.workspaceId, sql.placeholder('workspaceId'))
const ofSession = eq(bookings.sessionId, sql.placeholder('sessionId'))
const oneBooking = preparedQuery(db => detailsQuery(db, and(ofWorkspace, eq(bookings.id, sql.placeholder('bookingId')))).prepare(''))
const detailsOfSession = preparedQuery(db =>
  detailsQuery(db, and(ofWorkspace, ofSession, eq(bookings.state, sql.placeholder('state')))).prepare(''))

function detailsQuery(db: Database, condition: SQL | undefined) {
  return db
    .select({
      workspace: workspaces, eventType: eventTypes, session: sessions, booking: bookings, room: rooms, payment: payments,
      hosts: seatedHosts, ...bookingParts,
    })
    .from(bookings)
    .innerJoin(sessions, and(eq(sessions.workspaceId, bookings.workspaceId), eq(sessions.id, bookings.sessionId)))
    .innerJoin(eventTypes, and(eq(eventTypes.workspaceId, sessions.workspaceId), eq(eventTypes.id, sessions.eventTypeId)))
    .innerJoin(workspaces, eq(workspaces.id, bookings.workspaceId))
    .leftJoin(rooms, isRoomOfSession)
    .leftJoin(payments, and(eq(payments.workspaceId, bookings.workspaceId), eq(payments.bookingId, bookings.id)))
    .where(condition)
    .orderBy(asc(bookings.createdAt), asc(bookings.id))
}

/** A session with its hosts and its room, whoever has booked it. */
export async function loadSession(
  db: Database,
  workspaceId: string,
  sessionId: string,
): Promise<Pick<BookingDetails, 'session' | 'hosts' | 'room'> | null> {
  const [found] = await db
    .select({ session: sessions, room: rooms, hosts: seatedHosts })
    .from(sessions)
    .leftJoin(rooms, isRoomOfSession)
    .where(and(eq(sessions.workspaceId, workspaceId), eq(sessions.id, sessionId)))
  return found ?? null
}

export type SessionBooking = Pick<BookingDetails, 'booking' | 'answers' | 'guests' | 'payment'>

/** All bookings of a session, in the order in which they were made. */
export async function loadSessionBookings(db: Database, workspaceId: string, sessionId: string): Promise<SessionBooking[]> {
  return bookingsOfSession(db).execute({ workspaceId, sessionId })
}

const bookingsOfSession = preparedQuery(db =>
  db.select({ booking: bookings, payment: payments, ...bookingParts }).from(bookings)
    .leftJoin(payments, and(eq(payments.workspaceId, bookings.workspaceId), eq(payments.bookingId, bookings.id)))
    .where(and(ofWorkspace, ofSession))
    .orderBy(asc(bookings.createdAt), asc(bookings.id)).prepare(''))

/** The confirmed bookings of a session: whom its hosts expect. */
export async function loadAttendees(db: Database, workspaceId: string, sessionId: string): Promise<SessionBooking[]> {
  return (await loadSessionBookings(db, workspaceId, sessionId)).filter(({ booking }) => booking.state === 'confirmed')
}
