import { bookingView, withPayUrl } from '../../../../booking'
import { bookingPage } from '../../../../details'
import { defineCall } from '../../../../http/define'
import { enforceRateLimit } from '../../../../http/limits'
import { bookingOfToken } from '../../../../http/token'
import { checkPayment } from '../../../../payments'

/** Whoever comes back from paying waits for the answer. */
export default defineCall('POST /api/public/bookings/{token}/payment', async (event, context) => {
  const { payment } = await bookingOfToken(event, context)
  await enforceRateLimit(event, context, 'booking')
  if (payment) await checkPayment(context, payment)
  const details = await bookingOfToken(event, context)
  return { booking: withPayUrl(bookingView(details), bookingPage(context, details)) }
})
