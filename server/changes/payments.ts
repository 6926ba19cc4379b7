import { and, eq } from 'drizzle-orm'
import { costOf, refundOf } from '../../core/payment/price'
import { secondsOf } from '../context'
import type { Batch } from '../database/batch'
import type { Database } from '../database/connection'
import { payments } from '../database/schema'
import type { BookingDetails } from '../details'
import { type JobSubject, planJob } from '../jobs/queue'

export const isPayment = ({ workspaceId, id }: JobSubject) => and(eq(payments.workspaceId, workspaceId), eq(payments.id, id))

/**
 * What becomes of a booking's payment when the booking ends: what was paid is to be paid back, by the terms where its client ends
 * it, and a page to pay at is to be closed.
 */
export async function endPayment(
  tx: Database, batch: Batch, { payment, session }: Pick<BookingDetails, 'payment' | 'session'>, { byClient, at }: { byClient: boolean, at: number },
): Promise<void> {
  if (!payment) return
  const { workspaceId, id } = payment
  if (payment.state === 'wanted') {
    await tx.update(payments).set({ state: 'ended' }).where(isPayment(payment))
    if (payment.openedAt) batch.plan({ name: 'closePayment', about: { workspaceId, id }, at })
    return
  }
  if (payment.state === 'atSession') {
    await tx.update(payments).set({ state: 'ended' }).where(isPayment(payment))
    return
  }
  // What was paid at the session is given back there.
  if (payment.state !== 'paid' || payment.accountId === null) return
  const byTerms = refundOf(payment.price, payment.paidAmount, { byClient, start: secondsOf(session.startsAt), at })
  const refund = Math.max(payment.refundAmount, byTerms)
  if (refund <= payment.refundedAmount) return
  await tx.update(payments).set({ refundAmount: refund, attempts: 0, fault: null, nextTryAt: null }).where(isPayment(payment))
  batch.plan({ name: 'refundPayment', about: { workspaceId, id }, at })
}

/** Once a booking is for more or fewer people: what is due at the session follows, and what is paid too much goes back by the terms. */
export async function changePaymentForPeople(
  tx: Database, { payment, session }: Pick<BookingDetails, 'payment' | 'session'>, people: number,
  { byClient, at }: { byClient: boolean, at: number },
): Promise<void> {
  if (!payment) return
  const cost = costOf(payment.price, people)
  if (payment.state === 'atSession') await tx.update(payments).set({ amount: cost }).where(isPayment(payment))
  if (payment.state !== 'paid' || payment.price.per !== 'person' || payment.accountId === null) return
  const over = Math.max(0, payment.paidAmount - payment.refundAmount - cost)
  const refund = refundOf(payment.price, over, { byClient, start: secondsOf(session.startsAt), at })
  if (refund === 0) return
  const { workspaceId, id } = payment
  await tx.update(payments).set({ refundAmount: payment.refundAmount + refund, attempts: 0, fault: null, nextTryAt: null })
    .where(isPayment(payment))
  await planJob(tx, 'refundPayment', { workspaceId, id }, at)
}
