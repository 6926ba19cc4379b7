import { sendRedirect, setCookie } from 'h3'
import { HOLD_SECONDS } from '../../../../core/payment/price'
import { bookingPage } from '../../../details'
import { defineCall } from '../../../http/define'
import { enforceRateLimit } from '../../../http/limits'
import { param } from '../../../http/problem'
import { bookingOfToken } from '../../../http/token'
import { openPayment } from '../../../payments'

/**
 * Sends the client of a held booking on to where they pay; everybody else back to the booking. The address of the client's page
 * does not go to the service: their browser keeps it until they come back.
 */
export default defineCall('GET /bookings/{token}/pay', async (event, context) => {
  const details = await bookingOfToken(event, context)
  await enforceRateLimit(event, context, 'booking')
  const outcome = await openPayment(context, details)
  const page = bookingPage(context, details)
  if (outcome.kind !== 'open') return sendRedirect(event, outcome.kind === 'unavailable' ? `${page}?unpayable` : page, 303)
  const secure = context.settings.baseUrl.startsWith('https:')
  setCookie(event, 'paying', param(event, 'token'), { path: '/bookings/returned', httpOnly: true, sameSite: 'lax', secure, maxAge: 2 * HOLD_SECONDS })
  return sendRedirect(event, outcome.url, 303)
})
