import { and, eq } from 'drizzle-orm'
import { isPayment } from '../changes'
import type { Context } from '../context'
import type { Database } from '../database/connection'
import { bookings, paymentAccounts, payments, workspaces } from '../database/schema'
import type { JobSubject } from '../jobs/queue'
import type { PaymentAccount } from './accounts'

export type Payment = typeof payments.$inferSelect

/** A payment at a service, with the account it goes to and the booking that it is for. */
export interface PaymentThere {
  payment: Payment
  account: PaymentAccount
  booking: typeof bookings.$inferSelect
}

/** Null where there is none, or where it is paid at the session. */
export async function loadPayment({ db }: Pick<Context, 'db'>, subject: JobSubject): Promise<PaymentThere | null> {
  const [found] = await db.select({ payment: payments, account: paymentAccounts, booking: bookings }).from(payments)
    .innerJoin(paymentAccounts, and(eq(paymentAccounts.workspaceId, payments.workspaceId), eq(paymentAccounts.id, payments.accountId)))
    .innerJoin(bookings, and(eq(bookings.workspaceId, payments.workspaceId), eq(bookings.id, payments.bookingId)))
    .where(isPayment(subject))
  return found ?? null
}

/** The address of the workspace that a payment is made to; null where there is none. */
export async function workspaceOfPayment({ db }: Pick<Context, 'db'>, id: string): Promise<string | null> {
  const [found] = await db.select({ slug: workspaces.slug }).from(payments).innerJoin(workspaces, eq(workspaces.id, payments.workspaceId))
    .where(eq(payments.id, id))
  return found?.slug ?? null
}

export async function updatePayment(db: Database, payment: JobSubject, change: Partial<Payment>): Promise<void> {
  await db.update(payments).set(change).where(isPayment(payment))
}
