import { and, eq, inArray, ne, sql } from 'drizzle-orm'
import { changeTable } from '../../core/booking/change-table'
import type { Actor } from '../../core/booking/changes'
import { cancellationOf, type ChangeRefusal, changeRefusal, clientRefusal, type LaterChangeKind } from '../../core/booking/refusals'
import { takingStates } from '../../core/booking/states'
import { type Context, dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { withRetries } from '../database/faults'
import { lockSessionWithHosts } from '../database/lock'
import { bookings, sessions } from '../database/schema'
import { type BookingDetails, loadBookingDetails } from '../details'
import { applyBookingChange } from './apply'

/** The one place where a booking's state changes after it was made. */

export type ChangeOutcome =
  | { kind: 'changed', details: BookingDetails }
  | { kind: 'refused', refusal: ChangeRefusal, details: BookingDetails }
  | { kind: 'notFound' }

/** Changes a booking if its state allows it, under its session's lock; the session ends with its last booking. */
export async function changeBooking(
  context: Context, workspaceId: string, bookingId: string, wanted: LaterChangeKind, by: Actor, reason: string | null = null,
): Promise<ChangeOutcome> {
  return withRetries(() => context.db.transaction(async (tx) => {
    const before = await lockBooking(tx, workspaceId, bookingId)
    if (!before) return { kind: 'notFound' }
    const from = before.booking.state
    // What is held is its client's to give up; it ends by itself before long.
    const kind = wanted === 'cancelled' && by.kind === 'client' ? cancellationOf(from) : wanted
    const now = context.now()
    const times = { state: from, start: secondsOf(before.session.startsAt), end: secondsOf(before.session.endsAt) }
    const refusal = by.kind === 'client' && wanted === 'cancelled' ? clientRefusal(wanted, times, before.eventType.settings.clientTerms, now)
      : changeRefusal(kind, times, now)
    if (refusal) return { kind: 'refused', refusal, details: before }

    const to = changeTable[kind].to ?? from
    const others = await tx.select({ state: bookings.state }).from(bookings).where(and(
      eq(bookings.workspaceId, workspaceId),
      eq(bookings.sessionId, before.session.id),
      ne(bookings.id, bookingId),
      inArray(bookings.state, [...takingStates]),
    ))
    const frees = !takingStates.includes(to)
    const [booking] = await tx.update(bookings)
      .set({ state: to, ...(frees ? { cancelReason: reason, closedAt: dateOf(now) } : {}) })
      .where(and(eq(bookings.workspaceId, workspaceId), eq(bookings.id, bookingId))).returning()
    if (!booking) return { kind: 'notFound' }
    if (frees) {
      await tx.update(sessions).set({ seatsTaken: sql`${sessions.seatsTaken} - ${booking.people}::int` })
        .where(and(eq(sessions.workspaceId, workspaceId), eq(sessions.id, before.session.id)))
    }
    const details = { ...before, booking }
    await applyBookingChange(context, tx, details, { kind, by, at: now, reason }, from, {
      isLast: others.length === 0,
      othersMissed: others.every(({ state }) => state === 'missed'),
      hostsHaveEntry: from === 'confirmed' || before.session.sequence > 0 || others.some(({ state }) => state === 'confirmed'),
    })
    return { kind: 'changed', details }
  }))
}

/** Reads a booking under its session's lock, so that two bookings of one session that end at once count its seats one after the other. */
export async function lockBooking(tx: Database, workspaceId: string, bookingId: string): Promise<BookingDetails | null> {
  const [known] = await tx.select({ sessionId: bookings.sessionId }).from(bookings)
    .where(and(eq(bookings.workspaceId, workspaceId), eq(bookings.id, bookingId)))
  if (!known) return null
  await lockSessionWithHosts(tx, workspaceId, known.sessionId)
  return loadBookingDetails(tx, workspaceId, bookingId)
}
