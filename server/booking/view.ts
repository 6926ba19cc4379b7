import { and, eq } from 'drizzle-orm'
import { MOST_GUESTS } from '../../core/booking/guests'
import { fillCalendarLink } from '../../core/calendar/links'
import { formatAnswer } from '../../core/intake'
import { type PaymentView, standingOf } from '../../core/payment/payment'
import { describeRefund } from '../../core/payment/price'
import { withHosts } from '../../core/messages/with-hosts'
import { formatInstant, MINUTE } from '../../core/time/civil'
import type { Opening } from '../../core/openings'
import type { BookingView, ClientPageView, GivenBefore, PublicOpening } from '../../core/views/client'
import { type Context, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { bookings } from '../database/schema'
import { type BookingDetails, bookingPage, clientMay, loadBookingDetails } from '../details'
import { hashToken, idOfToken } from '../secrets'
import { guestsRefusal } from './guests'
import { peopleRefusal } from './people'

export function publicOpening({ start, end, seatsLeft }: Opening): PublicOpening {
  return { start, end, seatsLeft }
}

/** A join link never appears before confirmation, and host links never at all. */
export function bookingView({ booking, eventType, session, room, hosts, payment }: BookingDetails): BookingView {
  const confirmed = booking.state === 'confirmed'
  const { key, kind, label, detail, note } = session.place
  return {
    id: booking.id,
    state: booking.state,
    start: formatInstant(secondsOf(session.startsAt)),
    end: formatInstant(secondsOf(session.endsAt)),
    timeZone: booking.timeZone,
    ...(booking.people > 1 || eventType.settings.mostPeople > 1 ? { people: booking.people } : {}),
    place: { key, kind, label, ...(confirmed && detail ? { detail } : {}), ...(confirmed && note ? { note } : {}) },
    hosts: hosts.map(host => host.name),
    ...(payment ? { payment: paymentView(payment, booking) } : {}),
    room: room && { state: room.state, ...(confirmed && room.state === 'ready' && room.joinUrl ? joinDetails(room, room.joinUrl) : {}) },
  }
}

function paymentView(payment: NonNullable<BookingDetails['payment']>, { state, expiresAt }: BookingDetails['booking']): PaymentView {
  const { amount, currency, refundedAmount } = payment
  return {
    state: standingOf(payment), amount, currency, ...(refundedAmount > 0 ? { refunded: refundedAmount } : {}),
    ...(state === 'held' && expiresAt ? { expiresAt: formatInstant(secondsOf(expiresAt)) } : {}),
  }
}

/** A booking with the addresses that only its client has: its page, and where it is paid. */
export function withPage(booking: BookingView, page: string): { booking: BookingView, manage: string } {
  return { booking: withPayUrl(booking, page), manage: page }
}

export function withPayUrl(booking: BookingView, page: string): BookingView {
  return booking.payment?.state === 'due' ? { ...booking, payment: { ...booking.payment, payUrl: `${page}/pay` } } : booking
}

function joinDetails({ number, passcode }: NonNullable<BookingDetails['room']>, joinUrl: string) {
  return { joinUrl, ...(number ? { number } : {}), ...(passcode ? { passcode } : {}) }
}

/** The booking that a client's token opens, or null for any token that opens none. */
export async function findBookingByToken(db: Database, token: string): Promise<BookingDetails | null> {
  const workspaceId = idOfToken(token)
  if (!workspaceId) return null
  const [found] = await db.select({ id: bookings.id }).from(bookings)
    .where(and(eq(bookings.workspaceId, workspaceId), eq(bookings.tokenHash, hashToken(token))))
  return found ? loadBookingDetails(db, workspaceId, found.id) : null
}

export function guestsView({ guests }: Pick<BookingDetails, 'guests'>): ClientPageView['guests'] {
  return guests.map(({ name, email }) => ({ name, email }))
}

/** Neither the room's link nor the client's page goes to another service. */
function calendarLinksOf({ workspace, eventType, session, hosts }: BookingDetails): ClientPageView['calendarLinks'] {
  const [start, end] = [session.startsAt, session.endsAt].map(at => at.toISOString().replace(/[-:]|\.\d+/g, ''))
  const values = {
    title: withHosts(eventType.settings.name, hosts.map(host => host.name)), start: start ?? '', end: end ?? '',
    place: session.place.kind === 'address' ? session.place.detail : '',
  }
  return workspace.calendarLinks.map(({ name, address }) => ({ name, address: fillCalendarLink(address, values) }))
}

/** Where a client books the same once more; their own link to it stands in the address. Null where it can no longer be booked. */
export function bookAgainPath(context: Context, { workspace, eventType, booking }: BookAgain): string | null {
  if (eventType.state !== 'open' || eventType.archivedAt !== null || eventType.oneOff) return null
  const token = new URL(bookingPage(context, { workspace, booking })).pathname.split('/').at(-1)
  return `/${workspace.slug}/${eventType.slug}?again=${token}`
}

interface BookAgain {
  workspace: Pick<BookingDetails['workspace'], 'id' | 'slug'>
  booking: Pick<BookingDetails['booking'], 'tokenSeed'>
  eventType: Pick<BookingDetails['eventType'], 'slug' | 'state' | 'archivedAt' | 'oneOff'>
}

/** What a client gave, for another booking of theirs. */
export function givenBefore({ booking, answers }: BookingDetails): GivenBefore {
  return {
    client: { name: booking.clientName, email: booking.clientEmail, phone: booking.clientPhone },
    answers: Object.fromEntries(answers.map(({ key, value }) => [key, value])),
  }
}

export function clientPageView(context: Context, details: BookingDetails): ClientPageView {
  const { workspace, eventType, booking, session } = details
  const { moveUntilMinutes, cancelUntilMinutes } = eventType.settings.clientTerms
  const mayChangeGuests = guestsRefusal(details, 'client', context.now()) === null
  const until = (minutes: number | null) => (booking.state === 'confirmed' && minutes ? formatInstant(secondsOf(session.startsAt) - minutes * MINUTE) : null)
  return {
    booking: withPayUrl(bookingView(details), bookingPage(context, details)),
    workspace: { slug: workspace.slug, name: workspace.name, colour: workspace.looks.colour },
    eventType: { slug: eventType.slug, name: eventType.settings.name },
    client: { name: booking.clientName, email: booking.clientEmail },
    suggestion: session.place.kind === 'clientSuggests' ? booking.placeSuggestion : null,
    hostZone: details.hosts[0]?.timeZone ?? workspace.timeZone,
    answers: details.answers.map(formatAnswer),
    guests: guestsView(details),
    mayChangeGuests: mayChangeGuests && (eventType.settings.guests || details.guests.length > 0),
    mayInvite: mayChangeGuests && eventType.settings.guests && details.guests.length < MOST_GUESTS,
    cancelReason: booking.cancelReason,
    calendarLinks: booking.state === 'confirmed' ? calendarLinksOf(details) : [],
    afterwards: eventType.settings.afterwards,
    bookAgain: bookAgainPath(context, details),
    refundTerms: details.payment?.price.when === 'booking' ? describeRefund(details.payment.price, 'client') : null,
    mostPeople: peopleRefusal(details, 'client', context.now()) === null && (eventType.settings.mostPeople > 1 || booking.people > 1)
      ? Math.max(eventType.settings.mostPeople, booking.people) : null,
    mayMove: clientMay('moved', details, context.now()),
    mayCancel: clientMay('cancelled', details, context.now()),
    heldUntil: booking.state === 'awaitingApproval' && booking.expiresAt ? formatInstant(secondsOf(booking.expiresAt)) : null,
    moveUntil: until(moveUntilMinutes),
    cancelUntil: until(cancelUntilMinutes),
  }
}
