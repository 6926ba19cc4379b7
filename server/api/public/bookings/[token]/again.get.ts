import { givenBefore } from '../../../../booking'
import { defineCall } from '../../../../http/define'
import { bookingOfToken } from '../../../../http/token'

export default defineCall('GET /api/public/bookings/{token}/again', async (event, context) => givenBefore(await bookingOfToken(event, context)))
