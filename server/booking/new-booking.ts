import { randomUUID } from 'node:crypto'
import type { Actor, Change } from '../../core/booking/changes'
import { requestExpiry } from '../../core/booking/refusals'
import type { Tellable } from '../../core/booking/told'
import { costOf, HOLD_SECONDS, type Price } from '../../core/payment/price'
import type { FilledChair } from '../../core/rotation/chairs'
import { type Context, dateOf, secondsOf } from '../context'
import type { BookingDetails } from '../details'
import type { EventType, PoolChair } from '../event-types'
import { bookingToken, hashToken, makeSeed } from '../secrets'
import type { ValidatedRequest } from './request'
import { assignedEntry } from './seating'

/** What a new booking is: its rows, and the change that makes it. */

/** Who books, and what a member may decide that a client may not. */
export interface Booker {
  by: Actor
  /** Whether it is booked also where it is no opening, as long as no other session is in the way. */
  despite: boolean
  /** Who is told of it; null for everybody. */
  told: readonly Tellable[] | null
}

interface Wanted {
  eventType: EventType
  request: ValidatedRequest
  booker: Booker
}

/** The rows of a booking and all that is its own, as its client and its event type want it. */
export function newBooking(
  context: Context, { eventType: { workspaceId, settings }, request: { client, ...request }, booker }: Wanted,
  sessionId: string, id: string, paymentAccountId: string | null,
): Pick<BookingDetails, 'booking' | 'answers' | 'guests' | 'payment'> {
  // Whom a member books has neither to be approved nor to pay at once.
  const byMember = booker.by.kind === 'member'
  const price = settings.price && byMember ? { ...settings.price, when: 'session' as const } : settings.price
  const isHeld = price?.when === 'booking'
  const asks = settings.approval && !byMember
  const now = context.now()
  const asksUntil = asks ? requestExpiry(request.start, now, settings.approvalHours) : null
  const until = isHeld ? Math.min(now + HOLD_SECONDS, request.start) : asksUntil
  const tokenSeed = makeSeed()
  const booking: BookingDetails['booking'] = {
    workspaceId,
    id,
    sessionId,
    state: isHeld ? 'held' : asks ? 'awaitingApproval' : 'confirmed',
    clientName: client.name,
    clientEmail: client.email,
    clientPhone: request.phone,
    people: request.people,
    timeZone: request.timeZone,
    locale: supportedLocale(client.locale),
    source: request.source,
    tokenSeed,
    tokenHash: hashToken(bookingToken(context.settings.secret, workspaceId, tokenSeed)),
    sequence: 0,
    openedAt: null,
    cancelReason: null,
    placeSuggestion: request.suggestion,
    expiresAt: until === null ? null : dateOf(until),
    createdAt: dateOf(context.now()),
    closedAt: null,
  }
  const own = { workspaceId, bookingId: booking.id }
  return {
    booking,
    payment: price && newPayment(price, booking, isHeld ? paymentAccountId : null),
    answers: request.answers.map((answer, position) => ({ ...own, position, ...answer })),
    guests: request.guests.map(({ email, name }) => ({ ...own, email, name: name ?? email })),
  }
}

function newPayment(
  price: Price, { workspaceId, id, people }: BookingDetails['booking'], accountId: string | null,
): NonNullable<BookingDetails['payment']> {
  return {
    workspaceId, id: randomUUID(), bookingId: id, state: price.when === 'booking' ? 'wanted' : 'atSession', price, amount: costOf(price, people),
    currency: price.currency, accountId, openedAt: null, paidAmount: 0, paidAt: null, isLate: false, refundAmount: 0, refundedAmount: 0,
    attempts: 0, fault: null, nextTryAt: null,
  }
}

/** The change that makes a booking, with the hosts it was assigned to. */
export function bookingChange(
  context: Context, { booking, eventType, session }: BookingDetails, seated: readonly FilledChair<PoolChair>[], { by, told }: Booker,
): Change {
  const made = {
    by, at: context.now(), client: booking.clientName, eventType: eventType.settings.name, start: session.startsAt.getTime() / 1000,
    assigned: seated.map(chair => ({
      ...assignedEntry(chair), ...(by.kind === 'member' && chair.assignment.code === 'chosen' ? { byHand: true as const } : {}),
    })),
  }
  if (booking.state === 'held') return { ...made, kind: 'heldForPayment', until: booking.expiresAt ? secondsOf(booking.expiresAt) : made.at }
  return booking.state === 'confirmed' ? { ...made, kind: 'booked', told } : { ...made, kind: 'requested' }
}

/** The client's language where the platform can say times in it. */
function supportedLocale(locale: string | undefined): string {
  return locale && Intl.DateTimeFormat.supportedLocalesOf([locale]).length > 0 ? locale : 'en-GB'
}
