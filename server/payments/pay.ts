import { type Context, dateOf, secondsOf } from '../context'
import type { BookingDetails } from '../details'
import { planJob } from '../jobs/queue'
import type { Notification } from '../ports/payment'
import { ServiceFault } from '../ports/service'
import { findPaymentAccount, reachAccount } from './accounts'
import { loadPayment, updatePayment } from './load'
import { CHECK_SECONDS } from './check'
import { settlePaid } from './settle'

/** The way of a payment: the client is sent to its service, and the service says that it was paid. */

export type PayOutcome = { kind: 'open', url: string } | { kind: 'notDue' } | { kind: 'unavailable' }

/** Where the client of a held booking pays. */
export async function openPayment(context: Context, details: BookingDetails): Promise<PayOutcome> {
  const { booking, eventType, workspace } = details
  const found = details.payment && await loadPayment(context, details.payment)
  if (!found || booking.state !== 'held' || found.payment.state !== 'wanted' || !booking.expiresAt) return { kind: 'notDue' }
  const { payment, account } = found
  const expiresAt = secondsOf(booking.expiresAt)
  if (expiresAt <= context.now()) return { kind: 'notDue' }
  // From here on the service may know of it, whatever comes of the call.
  if (payment.openedAt === null) {
    await context.db.transaction(async (tx) => {
      await updatePayment(tx, payment, { openedAt: dateOf(context.now()) })
      await planJob(tx, 'checkPayment', { workspaceId: workspace.id, id: payment.id }, context.now() + CHECK_SECONDS)
    })
  }
  try {
    const { service, credentials } = reachAccount(context, account)
    const { payUrl } = await service.open(credentials, {
      reference: payment.id, title: `${eventType.settings.name}, ${workspace.name}`, amount: payment.amount, currency: payment.currency, expiresAt,
      returnUrl: `${context.settings.baseUrl}/bookings/returned/${payment.id}`, notifyUrl: `${context.settings.baseUrl}/api/payments/${account.id}/notifications`,
    })
    return { kind: 'open', url: payUrl }
  } catch (error) {
    if (error instanceof ServiceFault) return { kind: 'unavailable' }
    throw error
  }
}

/** What a service says by itself. False where nobody can have sent it who knows the account’s secret. */
export async function receiveNotification(context: Context, accountId: string, notification: Notification): Promise<boolean> {
  const account = await findPaymentAccount(context.db, accountId)
  if (!account) return false
  const { service, credentials } = reachAccount(context, account)
  const told = service.readNotification(credentials, notification, context.now())
  if (!told) return false
  const found = await loadPayment(context, { workspaceId: account.workspaceId, id: told.reference })
  // Whoever has the secret of one account speaks of its payments only.
  if (found?.account.id === account.id && told.paid) await settlePaid(context, found.payment, service.name, told.paid)
  return true
}
