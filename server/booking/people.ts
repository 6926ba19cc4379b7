import { and, eq } from 'drizzle-orm'
import type { Actor } from '../../core/booking/changes'
import { type ChangeRefusal, changeRefusal, clientRefusal } from '../../core/booking/refusals'
import type { InputFault } from '../../core/validation'
import { applyBookingChange, changePaymentForPeople, lockBooking } from '../changes'
import { type Context, secondsOf } from '../context'
import { withRetries } from '../database/faults'
import { bookings, sessions } from '../database/schema'
import type { BookingDetails } from '../details'

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
    await changePaymentForPeople(tx, before, people, { byClient: by.kind === 'client', at: context.now() })
    const details = { ...before, booking, session: { ...before.session, seatsTaken: taken, seats: most } }
    await applyBookingChange(
      context, tx, details, { kind: 'peopleChanged', by, at: context.now(), people: { from, to: people } }, booking.state,
      { hostsHaveEntry: booking.state === 'confirmed' },
    )
    return { kind: 'changed', details }
  }))
}

/** Clients change it as long as they may cancel; members while the session lasts, too. */
export function peopleRefusal(
  { booking, session, eventType }: Pick<BookingDetails, 'booking' | 'session' | 'eventType'>, by: Actor['kind'], now: number,
): ChangeRefusal | null {
  const times = { state: booking.state, start: secondsOf(session.startsAt), end: secondsOf(session.endsAt) }
  return changeRefusal('peopleChanged', times, now) ?? (by === 'client' ? clientRefusal('cancelled', times, eventType.settings.clientTerms, now) : null)
}
