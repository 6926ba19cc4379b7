import { clientRefusal } from '../../core/booking/refusals'
import { secondsOf } from '../context'
import type { BookingDetails } from './load'

/** Whether a client may move or cancel a booking by themselves at an instant (seconds). To move it, there must be openings. */
export function clientMay(
  kind: 'moved' | 'cancelled', { eventType, booking, session }: Pick<BookingDetails, 'eventType' | 'booking' | 'session'>, now: number,
): boolean {
  const isOpen = eventType.state === 'open' && eventType.archivedAt === null
  const times = { state: booking.state, start: secondsOf(session.startsAt), end: secondsOf(session.endsAt) }
  return (kind === 'cancelled' || isOpen) && clientRefusal(kind, times, eventType.settings.clientTerms, now) === null
}
