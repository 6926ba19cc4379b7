import { bookingView } from '../../../../booking'
import { defineCall } from '../../../../http/problem'
import { bookingOfToken } from '../../../../http/token'

export default defineCall(async (event, context) => ({ booking: bookingView(await bookingOfToken(event, context)) }))
