import { and, asc, eq, inArray } from 'drizzle-orm'
import type { Database } from '../database/connection'
import { answers, bookings, eventTypes, guests, hosts, rooms, sessionHosts, sessions, workspaces } from '../database/schema'

/** A booking with all that anybody is told about it: what messages, calendar entries and pages are made from. */

export type Guest = typeof guests.$inferSelect

export interface BookingDetails {
  workspace: Pick<typeof workspaces.$inferSelect, 'id' | 'slug' | 'name' | 'timeZone' | 'looks'>
  eventType: Pick<typeof eventTypes.$inferSelect, 'id' | 'slug' | 'settings'>
  session: typeof sessions.$inferSelect
  booking: typeof bookings.$inferSelect
  /** Who sits in the session, by name. */
  hosts: (typeof hosts.$inferSelect)[]
  answers: (typeof answers.$inferSelect)[]
  guests: Guest[]
  room: typeof rooms.$inferSelect | null
}

export async function loadBookingDetails(db: Database, workspaceId: string, bookingId: string): Promise<BookingDetails | null> {
  const [found] = await db.select().from(bookings)
    .innerJoin(sessions, and(eq(sessions.workspaceId, bookings.workspaceId), eq(sessions.id, bookings.sessionId)))
    .innerJoin(eventTypes, and(eq(eventTypes.workspaceId, sessions.workspaceId), eq(eventTypes.id, sessions.eventTypeId)))
    .innerJoin(workspaces, eq(workspaces.id, bookings.workspaceId))
    .leftJoin(rooms, and(eq(rooms.workspaceId, sessions.workspaceId), eq(rooms.sessionId, sessions.id)))
    .where(and(eq(bookings.workspaceId, workspaceId), eq(bookings.id, bookingId)))
  if (!found) return null
  const parts = await loadParts(db, workspaceId, [bookingId])
  return {
    workspace: found.workspaces,
    eventType: found.event_types,
    session: found.sessions,
    booking: found.bookings,
    room: found.rooms,
    hosts: await loadSessionHosts(db, workspaceId, found.sessions.id),
    ...parts,
  }
}

/** Who sits in a session, by name. */
async function loadSessionHosts(db: Database, workspaceId: string, sessionId: string): Promise<BookingDetails['hosts']> {
  const rows = await db.select({ host: hosts }).from(sessionHosts)
    .innerJoin(hosts, and(eq(hosts.workspaceId, sessionHosts.workspaceId), eq(hosts.id, sessionHosts.hostId)))
    .where(and(eq(sessionHosts.workspaceId, workspaceId), eq(sessionHosts.sessionId, sessionId)))
    .orderBy(asc(hosts.name))
  return rows.map(row => row.host)
}

/** A session with its hosts and its room, whoever has booked it. */
export async function loadSession(
  db: Database,
  workspaceId: string,
  sessionId: string,
): Promise<Pick<BookingDetails, 'session' | 'hosts' | 'room'> | null> {
  const [found] = await db
    .select()
    .from(sessions)
    .leftJoin(rooms, and(eq(rooms.workspaceId, sessions.workspaceId), eq(rooms.sessionId, sessions.id)))
    .where(and(eq(sessions.workspaceId, workspaceId), eq(sessions.id, sessionId)))
  return found ? { session: found.sessions, room: found.rooms, hosts: await loadSessionHosts(db, workspaceId, sessionId) } : null
}

async function loadParts(db: Database, workspaceId: string, bookingIds: string[]): Promise<Pick<BookingDetails, 'answers' | 'guests'>> {
  return {
    answers: await db.select().from(answers)
      .where(and(eq(answers.workspaceId, workspaceId), inArray(answers.bookingId, bookingIds)))
      .orderBy(asc(answers.position)),
    guests: await db.select().from(guests)
      .where(and(eq(guests.workspaceId, workspaceId), inArray(guests.bookingId, bookingIds)))
      .orderBy(asc(guests.email)),
  }
}

export type SessionBooking = Pick<BookingDetails, 'booking' | 'answers' | 'guests'>

/** All bookings of a session, in the order in which they were made. */
export async function loadSessionBookings(db: Database, workspaceId: string, sessionId: string): Promise<SessionBooking[]> {
  const found = await db.select().from(bookings)
    .where(and(eq(bookings.workspaceId, workspaceId), eq(bookings.sessionId, sessionId)))
    .orderBy(asc(bookings.createdAt), asc(bookings.id))
  const parts = await loadParts(db, workspaceId, found.map(booking => booking.id))
  return found.map(booking => ({
    booking,
    answers: parts.answers.filter(answer => answer.bookingId === booking.id),
    guests: parts.guests.filter(guest => guest.bookingId === booking.id),
  }))
}

/** The confirmed bookings of a session: whom its hosts expect. */
export async function loadAttendees(db: Database, workspaceId: string, sessionId: string): Promise<SessionBooking[]> {
  return (await loadSessionBookings(db, workspaceId, sessionId)).filter(({ booking }) => booking.state === 'confirmed')
}
