import { and, eq, inArray, ne, sql } from 'drizzle-orm'
import { type BookingState, canBecome, takingStates } from '../../core/booking/states'
import { type Context, dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { withRetries } from '../database/faults'
import { lockSession } from '../database/lock'
import { bookings, sessionHosts, sessions } from '../database/schema'
import { type BookingDetails, loadBookingDetails, planMessages } from '../messages'
import { planWithdrawal } from '../rooms'
import { recordTrail } from '../trail'
import { afterConfirmation } from './create-booking'
import { findBookingByToken } from './view'

/** Cancelling and deciding: the one place where a booking's state changes after it was made. */

/**
 * Cancels by the client's token. Cancelling again changes nothing, and a booking whose session is over stays as it is.
 * Null where the token opens nothing.
 */
export async function cancelByToken(context: Context, token: string, reason: string | null): Promise<{ story: BookingDetails, tooLate: boolean } | null> {
  const found = await findBookingByToken(context.db, token)
  if (!found) return null
  const closed = await closeBooking(context, found.workspace.id, found.booking.id, 'cancelled', { by: 'client', name: found.booking.clientName, reason })
  const story = await loadBookingDetails(context.db, found.workspace.id, found.booking.id)
  return story && { story, tooLate: !closed && takingStates.includes(story.booking.state) }
}

export interface Closing {
  by: 'client' | 'member'
  name: string
  reason: string | null
}

/** Ends a booking; the session goes with its last one. False where its state does not allow it or the session is over. */
export async function closeBooking(
  context: Context, workspaceId: string, bookingId: string, state: 'cancelled' | 'declined', closing: Closing,
): Promise<boolean> {
  return withRetries(() => context.db.transaction(async (tx) => {
    const booking = await lockBooking(tx, workspaceId, bookingId)
    if (!booking || !canBecome(booking, state, context.now())) return false
    const { sessionId } = booking
    await tx.update(bookings)
      .set({ state, cancelReason: closing.reason, closedAt: dateOf(context.now()), sequence: sql`${bookings.sequence} + 1` })
      .where(isBooking(workspaceId, bookingId))
    const others = await tx.select({ id: bookings.id }).from(bookings).where(and(
      eq(bookings.workspaceId, workspaceId),
      eq(bookings.sessionId, sessionId),
      ne(bookings.id, bookingId),
      inArray(bookings.state, [...takingStates]),
    ))
    await tx.update(sessions)
      .set({ seatsTaken: sql`${sessions.seatsTaken} - 1`, cancelled: others.length === 0 })
      .where(and(eq(sessions.workspaceId, workspaceId), eq(sessions.id, sessionId)))
    if (others.length === 0) {
      await tx.update(sessionHosts).set({ active: false })
        .where(and(eq(sessionHosts.workspaceId, workspaceId), eq(sessionHosts.sessionId, sessionId)))
      await planWithdrawal(tx, workspaceId, sessionId, context.now())
    }
    const about = { workspaceId, sessionId, bookingId }
    if (state === 'declined') await recordTrail(tx, about, context.now(), 'declined', { member: closing.name })
    else await recordTrail(tx, about, context.now(), 'cancelled', closing)
    await planMessages(tx, context, workspaceId, bookingId, state, context.now())
    return true
  }))
}

export async function approveBooking(context: Context, workspaceId: string, bookingId: string, member: string): Promise<boolean> {
  return withRetries(() => context.db.transaction(async (tx) => {
    const booking = await lockBooking(tx, workspaceId, bookingId)
    if (booking?.state !== 'awaitingApproval' || !canBecome(booking, 'confirmed', context.now())) return false
    await tx.update(bookings).set({ state: 'confirmed', sequence: sql`${bookings.sequence} + 1` }).where(isBooking(workspaceId, bookingId))
    const story = await loadBookingDetails(tx, workspaceId, bookingId)
    if (!story) return false
    await recordTrail(tx, { workspaceId, sessionId: booking.sessionId, bookingId }, context.now(), 'approved', { member })
    await afterConfirmation(context, tx, workspaceId, booking.sessionId, bookingId, story.session.place)
    return true
  }))
}

/** Reads a booking under its session's lock, so that two bookings of one session that end at once count its seats one after the other. */
async function lockBooking(tx: Database, workspaceId: string, bookingId: string): Promise<{ sessionId: string, state: BookingState, end: number } | null> {
  const [known] = await tx.select({ sessionId: bookings.sessionId }).from(bookings).where(isBooking(workspaceId, bookingId))
  if (!known) return null
  await lockSession(tx, workspaceId, known.sessionId)
  const [booking] = await tx.select({ sessionId: bookings.sessionId, state: bookings.state, endsAt: sessions.endsAt }).from(bookings)
    .innerJoin(sessions, and(eq(sessions.workspaceId, bookings.workspaceId), eq(sessions.id, bookings.sessionId)))
    .where(isBooking(workspaceId, bookingId))
  return booking ? { sessionId: booking.sessionId, state: booking.state, end: secondsOf(booking.endsAt) } : null
}

function isBooking(workspaceId: string, bookingId: string) {
  return and(eq(bookings.workspaceId, workspaceId), eq(bookings.id, bookingId))
}
