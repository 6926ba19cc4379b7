import type { Actor } from '../../core/booking/changes'
import { isConfirmed } from '../../core/booking/states'
import { applyBookingChange, lockBooking } from '../changes'
import { type Context, dateOf } from '../context'
import { withRetries } from '../database/faults'
import { updatePayment } from './load'

/** Marks what is paid at the session as paid, or as not paid after all. False where nothing is to be paid there. */
export async function markPaid(context: Context, workspaceId: string, bookingId: string, isPaid: boolean, by: Actor): Promise<boolean> {
  return withRetries(() => context.db.transaction(async (tx) => {
    const details = await lockBooking(tx, workspaceId, bookingId)
    const payment = details?.payment
    if (!details || !payment || payment.accountId !== null || !isConfirmed(details.booking.state)) return false
    if ((payment.state === 'paid') === isPaid) return true
    const change = isPaid ? { state: 'paid' as const, paidAmount: payment.amount, paidAt: dateOf(context.now()) } : { state: 'atSession' as const, paidAmount: 0, paidAt: null }
    await updatePayment(tx, payment, change)
    await applyBookingChange(
      context, tx, { ...details, payment: { ...payment, ...change } },
      { kind: 'paymentMarked', by, at: context.now(), money: { amount: payment.amount, currency: payment.currency }, isPaid },
      details.booking.state,
    )
    return true
  }))
}
