import { and, eq } from 'drizzle-orm'
import type { Actor } from '../../core/booking/changes'
import { type ChangeRefusal, changeRefusal, clientRefusal } from '../../core/booking/refusals'
import { costOf, refundOf } from '../../core/payment/price'
import type { InputFault } from '../../core/validation'
import { applyBookingChange, lockBooking } from '../changes'
import { type Context, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { withRetries } from '../database/faults'
import { bookings, payments, sessions } from '../database/schema'
import type { BookingDetails } from '../details'
import { planJob } from '../jobs/queue'

/** For how many people a booking is, changed later: each of them has a seat. */

export type PeopleOutcome =
  | { kind: 'changed', details: BookingDetails }
  | { kind: 'notFound' }
  | { kind: 'refused', refusal: ChangeRefusal }
  | { kind: 'invalid', errors: InputFault[] }

export async function changePeople(
  context: Context, workspaceId: string, bookingId: string, people: number, by: Actor,
): Promise<PeopleOutcome> {
  return withRetries(() => context.db.transaction(async (tx) => {
    const before = await lockBooking(tx, workspaceId, bookingId)
    if (!before) return { kind: 'notFound' }
    const refusal = peopleRefusal(before, by.kind, context.now())
    if (refusal) return { kind: 'refused', refusal }
    const from = before.booking.people
    if (people === from) return { kind: 'changed', details: before }
    const { mostPeople, seats } = before.eventType.settings
    // What was agreed on before the event type was changed may stay, or become less.
    if (people > Math.max(mostPeople, from)) return { kind: 'invalid', errors: [{ path: 'people', code: 'tooManyPeople', values: { most: mostPeople } }] }
    const most = Math.max(seats, before.session.seats)
    const { payment } = before
    const isPaid = payment !== null && payment.state === 'paid' && payment.price.per === 'person'
    // More seats would have to be paid for, and nobody is asked for that twice.
    if (isPaid && people > from) return { kind: 'invalid', errors: [{ path: 'people', code: 'paidFor', values: {} }] }
    const taken = before.session.seatsTaken + people - from
    if (taken > most)
      return { kind: 'invalid', errors: [{ path: 'people', code: 'fewSeatsLeft', values: { left: Math.max(0, most - before.session.seatsTaken) } }] }
    await tx.update(sessions).set({ seatsTaken: taken, seats: most })
      .where(and(eq(sessions.workspaceId, workspaceId), eq(sessions.id, before.session.id)))
    const [booking = before.booking] = await tx.update(bookings).set({ people })
      .where(and(eq(bookings.workspaceId, workspaceId), eq(bookings.id, bookingId))).returning()
    if (payment?.state === 'atSession') await tx.update(payments).set({ amount: costOf(payment.price, people) }).where(isPayment(payment))
    if (isPaid && payment.accountId !== null) await refundDifference(tx, before, costOf(payment.price, people), by, context.now())
    const details = { ...before, booking, session: { ...before.session, seatsTaken: taken, seats: most } }
    const { countsCancelled, countsMissed } = before.workspace
    await applyBookingChange(
      context, tx, details, { kind: 'peopleChanged', by, at: context.now(), people: { from, to: people } }, booking.state,
      { isLast: false, countsCancelled, countsMissed, othersMissed: false, hostsHaveEntry: booking.state === 'confirmed' },
    )
    return { kind: 'changed', details }
  }))
}

const isPayment = ({ workspaceId, id }: { workspaceId: string, id: string }) =>
  and(eq(payments.workspaceId, workspaceId), eq(payments.id, id))

/** What fewer people cost less is paid back by the terms of a cancellation. */
async function refundDifference(tx: Database, { payment, session }: BookingDetails, cost: number, by: Actor, at: number): Promise<void> {
  if (!payment) return
  const over = Math.max(0, payment.paidAmount - payment.refundAmount - cost)
  const refund = refundOf(payment.price, over, { byClient: by.kind === 'client', start: secondsOf(session.startsAt), at })
  if (refund === 0) return
  const { workspaceId, id } = payment
  await tx.update(payments).set({ refundAmount: payment.refundAmount + refund }).where(isPayment(payment))
  await planJob(tx, 'refundPayment', { workspaceId, id }, at)
}

/** Clients change it as long as they may cancel; members while the session lasts, too. */
export function peopleRefusal(
  { booking, session, eventType }: Pick<BookingDetails, 'booking' | 'session' | 'eventType'>, by: Actor['kind'], now: number,
): ChangeRefusal | null {
  const times = { state: booking.state, start: secondsOf(session.startsAt), end: secondsOf(session.endsAt) }
  return changeRefusal('peopleChanged', times, now) ?? (by === 'client' ? clientRefusal('cancelled', times, eventType.settings.clientTerms, now) : null)
}
