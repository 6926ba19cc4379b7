import { and, asc, eq, lte } from 'drizzle-orm'
import { changeBooking } from '../changes'
import { type Context, dateOf } from '../context'
import { bookings, payments } from '../database/schema'
import { type JobSubject, planJob, waitAfter } from '../jobs/queue'
import type { PaymentAtService } from '../ports/payment'
import { unexpectedFault } from '../../core/faults'
import { ServiceFault } from '../ports/service'
import { recordTrail } from '../trail'
import { reachAccount } from './accounts'
import { loadPayment, type PaymentThere, updatePayment } from './load'
import { settlePaid } from './settle'
import { settleRefunded } from './refund'

/** What a service is asked about a payment: whether it was made, where it does not say so by itself, and that it no longer can be. */

/** How long after a payment was opened, and how often from then on, its service is asked. */
export const CHECK_SECONDS = 60

/** Asks whether it was paid. The client waits for it on their page, too. */
export async function checkPayment(context: Context, subject: JobSubject): Promise<void> {
  const found = await loadPayment(context, subject)
  if (!found || found.payment.state !== 'wanted' || found.payment.openedAt === null) return
  try {
    await settleFrom(context, found, (service, credentials) => service.find(credentials, subject.id))
  } catch (error) {
    // The next one may be answered; at the end of the hold it is asked once more.
    if (!(error instanceof ServiceFault)) throw error
  }
  await planJob(context.db, 'checkPayment', subject, context.now() + CHECK_SECONDS)
}

/** Sees to it that what is no longer held cannot be paid; what was paid meanwhile goes back. */
export async function closePayment(context: Context, subject: JobSubject): Promise<void> {
  const found = await loadPayment(context, subject)
  if (!found || found.payment.state !== 'ended') return
  await settleFrom(context, found, (service, credentials) => service.close(credentials, subject.id))
  await updatePayment(context.db, subject, { attempts: 0, fault: null, nextTryAt: null })
}

/** Pays back what is to be paid back. */
export async function refundPayment(context: Context, subject: JobSubject): Promise<void> {
  const found = await loadPayment(context, subject)
  if (!found || found.payment.state !== 'paid' || found.payment.refundedAmount >= found.payment.refundAmount) return
  const { service, credentials } = reachAccount(context, found.account)
  await service.refund(credentials, subject.id, found.payment.refundAmount)
  await settleRefunded(context, subject, service.name, found.payment.refundAmount)
}

/** After how many tries closing a payment is left alone: its page has ended by itself long since. */
const MOST_CLOSINGS = 40

/** A call to a service that failed is made again with growing waits, and shown to a person meanwhile. */
export async function paymentJobFailed(
  context: Context, name: 'closePayment' | 'refundPayment', subject: JobSubject, error: unknown,
): Promise<void> {
  const found = await loadPayment(context, subject)
  if (!found) return
  const { payment, booking, account } = found
  const attempts = payment.attempts + 1
  const fault = error instanceof ServiceFault ? error.fault : unexpectedFault(error)
  const next = name === 'closePayment' && attempts >= MOST_CLOSINGS ? null : context.now() + waitAfter(attempts, context.settings.retryPace)
  await context.db.transaction(async (tx) => {
    await updatePayment(tx, subject, { attempts, fault, nextTryAt: next === null ? null : dateOf(next) })
    if (name === 'refundPayment') {
      await recordTrail(tx, { workspaceId: subject.workspaceId, sessionId: booking.sessionId, bookingId: booking.id }, context.now(), 'refundFailed', {
        amount: payment.refundAmount - payment.refundedAmount, currency: payment.currency,
        service: context.payments.get(account.service)?.name ?? account.service, fault, nextAt: next,
      })
    }
    if (next !== null) await planJob(tx, name, subject, next)
  })
}

/** Holds that end in one go; the next minute takes the rest. */
const MOST = 200

/** Ends holds whose time is over, unless their service says that they were paid. One that meets an error does not hold up the others. */
export async function endHolds(context: Context): Promise<void> {
  const due = await context.db.select({ workspaceId: bookings.workspaceId, id: bookings.id, paymentId: payments.id }).from(bookings)
    .innerJoin(payments, and(eq(payments.workspaceId, bookings.workspaceId), eq(payments.bookingId, bookings.id)))
    .where(and(eq(bookings.state, 'held'), lte(bookings.expiresAt, dateOf(context.now()))))
    .orderBy(asc(bookings.expiresAt)).limit(MOST)
  const errors: unknown[] = []
  const unanswered = new Set<string>()
  for (const { workspaceId, id, paymentId } of due) {
    try {
      if (await isPaidAfterAll(context, { workspaceId, id: paymentId }, unanswered)) continue
      await changeBooking(context, workspaceId, id, 'holdEnded', { kind: 'system', name: 'Temporia' })
    } catch (error) {
      errors.push(error)
    }
  }
  if (errors.length > 0) throw errors[0]
}

/** `unanswered`: accounts whose service has not answered just now; all others who wait would wait for it, too. */
async function isPaidAfterAll(context: Context, subject: JobSubject, unanswered: Set<string>): Promise<boolean> {
  const found = await loadPayment(context, subject)
  if (!found || found.payment.openedAt === null || unanswered.has(found.account.id)) return false
  try {
    return await settleFrom(context, found, (service, credentials) => service.close(credentials, subject.id))
  } catch (error) {
    // It is closed by a job of its own once the hold has ended.
    if (!(error instanceof ServiceFault)) throw error
    unanswered.add(found.account.id)
    return false
  }
}

/** Takes note of what a service answers; whether it was paid. */
async function settleFrom(
  context: Context, { payment, account }: PaymentThere,
  ask: (service: ReturnType<typeof reachAccount>['service'], credentials: string) => Promise<PaymentAtService | null>,
): Promise<boolean> {
  const { service, credentials } = reachAccount(context, account)
  const answer = await ask(service, credentials)
  if (answer?.state !== 'paid' || !answer.paid) return false
  return settlePaid(context, payment, service.name, answer.paid)
}
