import { and, eq, gte, lt, or, sql } from 'drizzle-orm'
import { nameForTeam } from '../../core/event-type/name-for-team'
import type { Attention, SignedIn } from '../../core/views/desk'
import { type Context, secondsOf } from '../context'
import { bookings, eventTypes, paymentAccounts, payments, sessions } from '../database/schema'
import { sessionsOf } from './scope'

/** After so many tries a person is shown what could not be paid back. */
const MANY_ATTEMPTS = 3

export async function paymentsToMend({ db, payments: services }: Context, member: SignedIn): Promise<Attention[]> {
  const { settings: eventTypeSettings } = eventTypes
  const { service: serviceKey } = paymentAccounts
  const found = await db.select({ payment: payments, booking: bookings, settings: eventTypeSettings, service: serviceKey }).from(payments)
    .innerJoin(bookings, and(eq(bookings.workspaceId, payments.workspaceId), eq(bookings.id, payments.bookingId)))
    .innerJoin(sessions, and(eq(sessions.workspaceId, bookings.workspaceId), eq(sessions.id, bookings.sessionId)))
    .innerJoin(eventTypes, and(eq(eventTypes.workspaceId, sessions.workspaceId), eq(eventTypes.id, sessions.eventTypeId)))
    .innerJoin(paymentAccounts, and(eq(paymentAccounts.workspaceId, payments.workspaceId), eq(paymentAccounts.id, payments.accountId)))
    .where(and(
      eq(payments.workspaceId, member.workspaceId), sessionsOf(db, member, 'change'),
      or(
        and(lt(payments.refundedAmount, payments.refundAmount), gte(payments.attempts, MANY_ATTEMPTS)),
        sql`${payments.fault} ->> 'code' = 'paymentDiffers'`,
      ),
    ))
  return found.map(({ payment, booking, settings, service }) => {
    const left = payment.refundAmount - payment.refundedAmount
    return {
      kind: 'payment', bookingId: booking.id, sessionId: booking.sessionId, eventType: nameForTeam(settings), client: booking.clientName,
      amount: left > 0 ? left : payment.amount, currency: payment.currency, isRefund: left > 0,
      fault: payment.fault && { by: services.get(service)?.name ?? service, fault: payment.fault },
      nextTryAt: payment.nextTryAt && secondsOf(payment.nextTryAt),
    }
  })
}
