import { bookingView } from '../../../../booking'
import { defineCall } from '../../../../http/define'
import { bookingOfToken } from '../../../../http/token'

export default defineCall('GET /api/public/bookings/{token}', async (event, context) => ({
  booking: bookingView(await bookingOfToken(event, context)),
}))
