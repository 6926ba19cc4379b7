import { deleteCookie, getCookie, sendRedirect } from 'h3'
import { findBookingByToken } from '../../../booking'
import { bookingPage } from '../../../details'
import { defineCall } from '../../../http/define'
import { enforceRateLimit } from '../../../http/limits'
import { idParam, notFound } from '../../../http/problem'
import { workspaceOfPayment } from '../../../payments'

/** Where a payment service sends a client back to: on to their booking, or to the workspace's page in another browser. */
export default defineCall('GET /bookings/returned/{payment}', async (event, context) => {
  const id = idParam(event, 'payment')
  const details = await findBookingByToken(context.db, getCookie(event, 'paying') ?? '')
  deleteCookie(event, 'paying', { path: '/bookings/returned' })
  if (details?.payment?.id === id) return sendRedirect(event, `${bookingPage(context, details)}?paid`, 303)
  const slug = await workspaceOfPayment(context, id)
  if (slug) return sendRedirect(event, `${context.settings.baseUrl}/${slug}`, 303)
  await enforceRateLimit(event, context, 'token')
  throw notFound()
})
