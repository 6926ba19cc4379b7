import { and, eq } from 'drizzle-orm'
import { type Context, secondsOf } from '../context'
import { canBecome } from '../../core/booking/states'
import { formatInstant } from '../../core/time/civil'
import type { BookingView, ClientPageView } from '../../core/views/client'
import type { Database } from '../database/connection'
import { bookings } from '../database/schema'
import { type BookingDetails, loadBookingDetails } from '../messages'
import { hashToken, workspaceOfToken } from '../secrets'

/** A join link never appears before confirmation, and host links never at all. */
export function bookingView(story: BookingDetails): BookingView {
  const { booking, session, room } = story
  const confirmed = booking.state === 'confirmed'
  const ready = room?.state === 'ready' && confirmed && room.joinUrl && room.number && room.passcode
    ? { joinUrl: room.joinUrl, number: room.number, passcode: room.passcode } : {}
  const { key, kind, label, detail } = session.place
  return {
    id: booking.id,
    state: booking.state,
    start: formatInstant(secondsOf(session.startsAt)),
    end: formatInstant(secondsOf(session.endsAt)),
    timeZone: booking.timeZone,
    place: { key, kind, label, ...(confirmed && detail ? { detail } : {}) },
    hosts: story.hosts.map(host => host.name),
    room: room && { state: room.state, ...ready },
  }
}

/** The booking that a client's token opens, or null for any token that opens none. */
export async function findBookingByToken(db: Database, token: string): Promise<BookingDetails | null> {
  const workspaceId = workspaceOfToken(token)
  if (!workspaceId) return null
  const [found] = await db.select({ id: bookings.id }).from(bookings)
    .where(and(eq(bookings.workspaceId, workspaceId), eq(bookings.tokenHash, hashToken(token))))
  return found ? loadBookingDetails(db, workspaceId, found.id) : null
}

export function clientPageView(context: Context, story: BookingDetails): ClientPageView {
  const { workspace, eventType, booking, session } = story
  return {
    booking: bookingView(story),
    workspace: { slug: workspace.slug, name: workspace.name, colour: workspace.looks.colour },
    eventType: { slug: eventType.slug, name: eventType.settings.name },
    client: { name: booking.clientName, email: booking.clientEmail },
    hostZone: story.hosts[0]?.timeZone ?? workspace.timeZone,
    answers: story.answers.map(answer => ({ label: answer.label, words: answer.words })),
    cancelReason: booking.cancelReason,
    afterwards: eventType.settings.afterwards,
    mayCancel: canBecome({ state: booking.state, end: secondsOf(session.endsAt) }, 'cancelled', context.now()),
  }
}
