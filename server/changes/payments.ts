import { and, eq } from 'drizzle-orm'
import { refundOf } from '../../core/payment/price'
import { secondsOf } from '../context'
import type { Batch } from '../database/batch'
import type { Database } from '../database/connection'
import { payments } from '../database/schema'
import type { BookingDetails } from '../details'

/**
 * What becomes of a booking's payment when the booking ends: what was paid is to be paid back, by the terms where its client ends
 * it, and a page to pay at is to be closed.
 */
export async function endPayment(
  tx: Database, batch: Batch, { payment, session }: Pick<BookingDetails, 'payment' | 'session'>, { byClient, at }: { byClient: boolean, at: number },
): Promise<void> {
  if (!payment) return
  const { workspaceId, id } = payment
  const isPayment = and(eq(payments.workspaceId, workspaceId), eq(payments.id, id))
  if (payment.state === 'wanted') {
    await tx.update(payments).set({ state: 'ended' }).where(isPayment)
    if (payment.openedAt) batch.plan({ name: 'closePayment', about: { workspaceId, id }, at })
    return
  }
  if (payment.state === 'atSession') {
    await tx.update(payments).set({ state: 'ended' }).where(isPayment)
    return
  }
  // What was paid at the session is given back there.
  if (payment.state !== 'paid' || payment.accountId === null) return
  const byTerms = refundOf(payment.price, payment.paidAmount, { byClient, start: secondsOf(session.startsAt), at })
  const refund = Math.max(payment.refundAmount, byTerms)
  if (refund <= payment.refundedAmount) return
  await tx.update(payments).set({ refundAmount: refund, attempts: 0, fault: null, nextTryAt: null }).where(isPayment)
  batch.plan({ name: 'refundPayment', about: { workspaceId, id }, at })
}
