import { nameGuest } from '../../core/booking/guests'
import { isConfirmed } from '../../core/booking/states'
import { formatAnswer } from '../../core/intake'
import { type MessageFields, type Occasion, occasionTable } from '../../core/messages'
import { standingOf } from '../../core/payment/payment'
import type { ClockFace } from '../../core/time/format'
import { type Context, secondsOf } from '../context'
import type { changes, deliveries } from '../database/schema'
import { type BookingDetails, clientMay, formatPlace, formatPlaceLabel } from '../details'

/** What a message about a booking can say to one reader. */

export type Recipient = Pick<typeof deliveries.$inferSelect, 'audience' | 'name' | 'address'>

/** What a message says of the change that it tells of. */
export type ToldChange = Pick<typeof changes.$inferSelect, 'kind' | 'actorKind' | 'actorName' | 'move' | 'guests'>

/** Who reads a mail on the hosts' side. */
export interface TeamReader {
  timeZone: string
  clock: ClockFace | null
  /** Whether they open the room as its host. */
  isHost: boolean
}

/** Where the reader changes the booking, ends reminders, and sees all their bookings; empty where the message has no such link. */
export interface ReaderPages {
  booking: string
  reminders: string
  list: string
}

/** The fields of a message for one reader. The link is given only where the room is ready and the booking confirmed. */
export function messageFields(
  context: Context, details: BookingDetails, recipient: Recipient, occasion: Occasion, reader: TeamReader | null, cause: ToldChange | null,
  { locale, pages }: { locale: string, pages: ReaderPages },
): MessageFields {
  const { baseUrl } = context.settings
  const { booking, session, eventType, workspace, room } = details
  const shown = room?.state === 'ready' && isConfirmed(booking.state) && !occasionTable[occasion].isFarewell ? room : null
  const hostZone = details.hosts[0]?.timeZone ?? workspace.timeZone
  const isGuest = recipient.audience === 'guest'
  const [start, end] = [secondsOf(session.startsAt), secondsOf(session.endsAt)]
  return {
    workspace: { name: workspace.name, colour: workspace.looks.colour },
    // One that was made for a single session has no page.
    eventType: { name: eventType.settings.name, page: `${baseUrl}/${workspace.slug}${eventType.oneOff ? '' : `/${eventType.slug}`}` },
    client: isGuest ? { name: recipient.name, email: recipient.address, phone: '' }
      : { name: booking.clientName, email: booking.clientEmail, phone: booking.clientPhone ?? '' },
    // A guest sees the booking but cannot change it, so the client's own page is not theirs.
    booking: {
      client: booking.clientName,
      people: booking.people,
      page: recipient.audience === 'client' ? pages.booking : '',
      canMove: clientMay('moved', details, context.now()),
      canCancel: clientMay('cancelled', details, context.now()),
      isRequest: booking.state === 'awaitingApproval',
      heldUntil: booking.expiresAt && secondsOf(booking.expiresAt),
    },
    session: { page: `${baseUrl}/desk/sessions/${session.id}` },
    actor: cause?.actorName ?? booking.clientName,
    byTeam: cause?.kind === 'booked' && cause.actorKind === 'member',
    hostNames: details.hosts.map(host => host.name),
    hasOtherHosts: cause?.move?.hasOtherHosts ?? false,
    remindersPage: pages.reminders,
    listPage: pages.list,
    guests: {
      all: isGuest ? [] : details.guests.map(nameGuest),
      added: cause?.guests?.added.map(nameGuest) ?? [],
      removed: cause?.guests?.removed.map(nameGuest) ?? [],
    },
    payment: paymentOf(details),
    reason: booking.cancelReason ?? '',
    place: reader || isConfirmed(booking.state) ? formatPlace(session.place, booking.clientPhone) : formatPlaceLabel(session.place),
    placeNote: isConfirmed(booking.state) ? session.place.note ?? '' : '',
    room: {
      expected: session.place.kind === 'video' && room?.state !== 'withdrawn',
      underMainUser: shown?.userId === '',
      link: (reader?.isHost ? shown?.hostUrl ?? shown?.joinUrl : shown?.joinUrl) ?? '',
      number: shown?.number ?? '',
      passcode: shown?.passcode ?? '',
    },
    answers: isGuest ? [] : details.answers.map(answer => ({ key: answer.key, ...formatAnswer(answer) })),
    when: {
      start, end, now: context.now(),
      readerZone: reader?.timeZone ?? booking.timeZone,
      otherZone: reader ? booking.timeZone : hostZone,
      locale,
      other: cause?.move ? (occasion === 'left' ? cause.move.to : cause.move.from) : null,
    },
  }
}

function paymentOf({ payment, booking }: BookingDetails): MessageFields['payment'] {
  if (!payment) return null
  const { amount, currency, refundedAmount, isLate } = payment
  return {
    amount: { amount, currency }, standing: standingOf(payment), refunded: { amount: refundedAmount, currency }, isLate,
    until: booking.state === 'held' && booking.expiresAt ? secondsOf(booking.expiresAt) : null,
  }
}
