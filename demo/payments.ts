import { eq } from 'drizzle-orm'
import { type Context, dateOf } from '../server/context'
import { bookings } from '../server/database/schema'
import { loadBookingDetails } from '../server/details'
import { checkPayment, connectPayments, openPayment } from '../server/payments'

/** The workspace's account of Tollgate, and clients who pay to it. */

export const tollgateMerchant = { key: 'fernhollow-till', secret: 'goldbeaters-skin-and-vellum', name: 'Fernhollow Conservation' }

/** The owner types in the workspace's key and secret. */
export async function connectTollgate(context: Context, workspaceId: string): Promise<void> {
  const service = context.payments.get('tollgate')
  const { key, secret } = tollgateMerchant
  if (service) await connectPayments(context, workspaceId, 'tollgate', service, { key, secret })
}

/** The client of a held booking pays, as they would in a browser. The service keeps its own time, whenever the booking was made. */
export async function payAsClient(then: Context, workspaceId: string, bookingId: string): Promise<void> {
  const now = Math.floor(Date.now() / 1000)
  await then.db.update(bookings).set({ expiresAt: dateOf(now + 900) }).where(eq(bookings.id, bookingId))
  const details = await loadBookingDetails(then.db, workspaceId, bookingId)
  const opened = details && await openPayment({ ...then, now: () => now }, details)
  if (opened?.kind !== 'open' || !details?.payment) throw new Error('The payment was not opened')
  await fetch(opened.url, { method: 'POST', redirect: 'manual', body: new URLSearchParams({ do: 'pay' }) })
  await checkPayment(then, details.payment)
}
