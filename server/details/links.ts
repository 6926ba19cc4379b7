import type { Context } from '../context'
import { bookingToken, openedKey } from '../secrets'
import type { BookingDetails } from './load'

/** The client's own page, which can be opened with its token alone. */
export function bookingPage(
  { settings }: Pick<Context, 'settings'>,
  { workspace, booking }: { workspace: Pick<BookingDetails['workspace'], 'id'>, booking: Pick<BookingDetails['booking'], 'tokenSeed'> },
): string {
  return `${settings.baseUrl}/bookings/${bookingToken(settings.secret, workspace.id, booking.tokenSeed)}`
}

/** The client's page as their mails link to it: following this link shows that the address is theirs. */
export function mailedBookingPage(context: Pick<Context, 'settings'>, details: Pick<BookingDetails, 'workspace' | 'booking'>): string {
  return `${bookingPage(context, details)}?mail=${openedKey(context.settings.secret, details.workspace.id, details.booking.id)}`
}
