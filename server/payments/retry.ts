import { and, eq, lt } from 'drizzle-orm'
import type { Context } from '../context'
import { payments } from '../database/schema'
import { planJob } from '../jobs/queue'
import { updatePayment } from './load'

/** Pays back at once what could not be paid back so far. False where nothing waits for it. */
export async function retryRefund(context: Context, workspaceId: string, bookingId: string): Promise<boolean> {
  return context.db.transaction(async (tx) => {
    const [payment] = await tx.select().from(payments).where(and(
      eq(payments.workspaceId, workspaceId), eq(payments.bookingId, bookingId), lt(payments.refundedAmount, payments.refundAmount),
    )).for('update')
    if (!payment) return false
    await updatePayment(tx, payment, { fault: null, nextTryAt: null })
    await planJob(tx, 'refundPayment', { workspaceId, id: payment.id }, context.now())
    return true
  })
}
