import { and, eq } from 'drizzle-orm'
import { applyBookingChange, lockBooking } from '../changes'
import type { Context } from '../context'
import { withRetries } from '../database/faults'
import { payments } from '../database/schema'
import type { JobSubject } from '../jobs/queue'
import { loadPayment, updatePayment } from './load'

/** Takes note that a payment was paid back up to a total, and tells its client, once. */
export async function settleRefunded(context: Context, subject: JobSubject, service: string, total: number): Promise<void> {
  const known = await loadPayment(context, subject)
  if (!known) return
  await withRetries(() => context.db.transaction(async (tx) => {
    const details = await lockBooking(tx, subject.workspaceId, known.booking.id)
    const [payment] = await tx.select().from(payments).where(and(eq(payments.workspaceId, subject.workspaceId), eq(payments.id, subject.id))).for('update')
    if (!details || !payment || payment.refundedAmount >= total) return
    const change = { refundedAmount: total, attempts: 0, fault: null, nextTryAt: null }
    await updatePayment(tx, subject, change)
    await applyBookingChange(
      context, tx, { ...details, payment: { ...payment, ...change } },
      {
        kind: 'refunded', by: { kind: 'system', name: service }, at: context.now(), service,
        money: { amount: total - payment.refundedAmount, currency: payment.currency },
      },
      details.booking.state,
    )
  }))
}
