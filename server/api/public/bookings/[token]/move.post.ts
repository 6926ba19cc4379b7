import { bookingView, moveBooking } from '../../../../booking'
import { instantToSeconds } from '../../../../../core/time/civil'
import { readBodyOf } from '../../../../http/body'
import { defineCall } from '../../../../http/define'
import { enforceRateLimit } from '../../../../http/limits'
import { notFound, problem, tooLate } from '../../../../http/problem'
import { moveSchema } from '../../../../http/requests'
import { bookingOfToken } from '../../../../http/token'

/** Moves by the client's token. To move to where it is already changes nothing and is answered in the same way. */
export default defineCall('POST /api/public/bookings/{token}/move', async (event, context) => {
  const { workspace, booking } = await bookingOfToken(event, context)
  await enforceRateLimit(event, context, 'booking')
  const { start } = await readBodyOf(event, moveSchema)
  const { timeZone: zone, locale } = booking
  const outcome = await moveBooking(
    context, workspace.id, { bookingId: booking.id, start: instantToSeconds(start), whole: false, despite: false },
    { by: { kind: 'client', name: booking.clientName }, zone, locale },
  )
  switch (outcome.kind) {
    case 'notFound': throw notFound()
    case 'refused':
      throw outcome.refusal === 'wrongState' ? problem('notPossible', 'bookingEnded', {}) : tooLate(outcome.refusal)
    case 'moved': return { booking: bookingView(outcome.details) }
    case 'held': throw problem('notPossible', 'sessionHeld', {})
    default: throw problem('noLongerOpen', 'timeTaken', {}, { nearest: outcome.nearest })
  }
})
