import { and, asc, eq } from 'drizzle-orm'
import { settingsSchema } from '../../core/event-type/settings'
import { renderTitle } from '../../core/messages'
import { type Context, secondsOf } from '../context'
import type { Database } from '../database/connection'
import type { rooms, sessions } from '../database/schema'
import { bookings, eventTypes, guests, hosts, sessionHosts } from '../database/schema'
import { recordTitleFault } from '../messages'
import type { RoomRequest } from '../ports/video'

type Room = typeof rooms.$inferSelect
type Session = typeof sessions.$inferSelect

/** What a service is to know of a session's room, as the session is now. The title is the calendar title of its first booking. */
export async function describeSession(
  context: Context, tx: Database, session: Session, { reference, userId }: Pick<Room, 'reference' | 'userId'>,
): Promise<RoomRequest> {
  const { workspaceId } = session
  const [eventType] = await tx.select({ settings: eventTypes.settings }).from(eventTypes)
    .where(and(eq(eventTypes.workspaceId, workspaceId), eq(eventTypes.id, session.eventTypeId)))
  const booked = await tx.select({
    id: bookings.id, name: bookings.clientName, email: bookings.clientEmail, state: bookings.state,
  }).from(bookings)
    .where(and(eq(bookings.workspaceId, workspaceId), eq(bookings.sessionId, session.id))).orderBy(asc(bookings.createdAt))
  const brought = await tx.select({ bookingId: guests.bookingId, name: guests.name, email: guests.email }).from(guests)
    .innerJoin(bookings, and(eq(bookings.workspaceId, guests.workspaceId), eq(bookings.id, guests.bookingId)))
    .where(and(eq(guests.workspaceId, workspaceId), eq(bookings.sessionId, session.id))).orderBy(asc(guests.email))
  const seated = await tx.select({ name: hosts.name, email: hosts.email, videoEmail: hosts.videoEmail }).from(sessionHosts)
    .innerJoin(hosts, and(eq(hosts.workspaceId, sessionHosts.workspaceId), eq(hosts.id, sessionHosts.hostId)))
    .where(and(eq(sessionHosts.workspaceId, workspaceId), eq(sessionHosts.sessionId, session.id))).orderBy(asc(hosts.name))
  const confirmed = new Set(booked.filter(({ state }) => state === 'confirmed').map(({ id }) => id))
  return {
    reference,
    title: await titleOf(context, tx, session, eventType?.settings ?? null, booked[0]?.name ?? null),
    start: secondsOf(session.startsAt),
    end: secondsOf(session.endsAt),
    // What was published before rooms had settings has none.
    options: settingsSchema.shape.room.parse(eventType?.settings.room).options,
    hosts: seated.map(({ name, email, videoEmail }) => ({ name, email: videoEmail || email })),
    attendees: [
      ...booked.filter(({ id }) => confirmed.has(id)).map(({ name, email }) => ({ name, email })),
      ...brought.filter(({ bookingId }) => confirmed.has(bookingId)).map(({ name, email }) => ({ name: name || email, email })),
    ],
    user: userId || null,
  }
}

async function titleOf(
  context: Context, tx: Database, { workspaceId, id, seats }: Session, settings: (typeof eventTypes.$inferSelect)['settings'] | null, client: string | null,
): Promise<string> {
  if (!settings || client === null) return 'Session'
  if (seats > 1) return settings.name
  const { calendarTitle } = settings
  const { title, fault } = await renderTitle(calendarTitle, { client: { name: client }, eventType: { name: settings.name } })
  if (fault) await recordTitleFault(tx, context, { workspaceId, sessionId: id }, { title: calendarTitle, fault })
  return title
}
