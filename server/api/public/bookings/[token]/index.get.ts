import { bookingView, withPayUrl } from '../../../../booking'
import { bookingPage } from '../../../../details'
import { defineCall } from '../../../../http/define'
import { bookingOfToken } from '../../../../http/token'

export default defineCall('GET /api/public/bookings/{token}', async (event, context) => {
  const details = await bookingOfToken(event, context)
  return { booking: withPayUrl(bookingView(details), bookingPage(context, details)) }
})
