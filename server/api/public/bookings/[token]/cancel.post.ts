import { bookingView } from '../../../../booking'
import { changeBooking } from '../../../../changes'
import { readBodyOf } from '../../../../http/body'
import { defineCall } from '../../../../http/define'
import { notFound, tooLate } from '../../../../http/problem'
import { cancelSchema } from '../../../../http/requests'
import { bookingOfToken } from '../../../../http/token'

/** Cancels by the client's token. Cancelling again changes nothing and is answered in the same way. */
export default defineCall('POST /api/public/bookings/{token}/cancel', async (event, context) => {
  const { workspace, booking } = await bookingOfToken(event, context)
  const { reason } = await readBodyOf(event, cancelSchema)
  const outcome = await changeBooking(
    context,
    workspace.id,
    booking.id,
    'cancelled',
    { kind: 'client', name: booking.clientName },
    reason || null,
  )
  if (outcome.kind === 'notFound') throw notFound()
  // What has ended already stays ended, and is answered in the same way.
  if (outcome.kind === 'refused' && outcome.refusal !== 'wrongState') throw tooLate(outcome.refusal)
  return { booking: bookingView(outcome.details) }
})
