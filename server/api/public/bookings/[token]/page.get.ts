import { clientPageView } from '../../../../booking'
import { defineCall } from '../../../../http/problem'
import { bookingOfToken } from '../../../../http/token'

export default defineCall(async (event, context) => clientPageView(context, await bookingOfToken(event, context)))
