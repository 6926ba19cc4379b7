import { and, eq } from 'drizzle-orm'
import { requestExpiry } from '../../core/booking/refusals'
import type { Money } from '../../core/payment/money'
import { applyBookingChange, lockBooking } from '../changes'
import { type Context, dateOf, secondsOf } from '../context'
import { withRetries } from '../database/faults'
import { bookings } from '../database/schema'
import { loadAttendees } from '../details'
import { type JobSubject, planJob } from '../jobs/queue'
import { loadPayment, updatePayment } from './load'

/**
 * Takes note that a payment was made, whoever says so: its service by itself, or when it is asked. What is held for it is confirmed;
 * where it is no longer held, the payment goes back. False where it is not what was to be paid.
 */
export async function settlePaid(context: Context, subject: JobSubject, service: string, paid: Money): Promise<boolean> {
  const known = await loadPayment(context, subject)
  if (!known) return false
  return withRetries(() => context.db.transaction(async (tx) => {
    const details = await lockBooking(tx, subject.workspaceId, known.booking.id)
    const payment = details?.payment
    if (!details || !payment || payment.state === 'atSession') return false
    if (payment.state === 'paid') return true
    if (paid.amount !== payment.amount || paid.currency !== payment.currency) {
      await updatePayment(tx, payment, { fault: { code: 'paymentDiffers', amount: paid.amount, currency: paid.currency } })
      return false
    }
    const now = context.now()
    const isHeld = details.booking.state === 'held'
    const received = {
      state: 'paid' as const, paidAmount: paid.amount, paidAt: dateOf(now), isLate: !isHeld, refundAmount: isHeld ? 0 : paid.amount,
      attempts: 0, fault: null, nextTryAt: null,
    }
    await updatePayment(tx, payment, received)
    const { workspace, eventType, session } = details
    const asks = isHeld && eventType.settings.approval
    const [booking = details.booking] = isHeld
      ? await tx.update(bookings).set({
          state: asks ? 'awaitingApproval' : 'confirmed',
          expiresAt: asks ? dateOf(requestExpiry(secondsOf(session.startsAt), now, eventType.settings.approvalHours)) : null,
        }).where(and(eq(bookings.workspaceId, workspace.id), eq(bookings.id, details.booking.id))).returning()
      : []
    const others = (await loadAttendees(tx, workspace.id, session.id)).filter(other => other.booking.id !== booking.id)
    await applyBookingChange(
      context, tx, { ...details, booking, payment: { ...payment, ...received } },
      { kind: !isHeld ? 'paidLate' : asks ? 'paidRequest' : 'paid', by: { kind: 'client', name: booking.clientName }, at: now, money: paid, service },
      details.booking.state,
      { hostsHaveEntry: session.sequence > 0 || others.length > 0 },
    )
    if (!isHeld) await planJob(tx, 'refundPayment', subject, now)
    return true
  }))
}
