import { and, eq, inArray } from 'drizzle-orm'
import type { Actor } from '../../core/booking/changes'
import { type ChangeRefusal, changeRefusal } from '../../core/booking/refusals'
import { MOST_GUESTS } from '../../core/booking/guests'
import type { InputFault } from '../../core/validation'
import { applyBookingChange, lockBooking } from '../changes'
import { type Context, secondsOf } from '../context'
import { withRetries } from '../database/faults'
import { guests } from '../database/schema'
import { type BookingDetails, loadBookingDetails } from '../details'
import type { GuestsRequest } from './request'

/** Whom a client brings along is changed later: who comes since and who no longer does are told, and so is everybody who meets them. */

export type GuestsOutcome =
  | { kind: 'changed', details: BookingDetails }
  | { kind: 'notFound' }
  | { kind: 'refused', refusal: ChangeRefusal }
  | { kind: 'invalid', errors: InputFault[] }

/** Whom already comes is not invited again, and who does not come is not removed: the same call twice changes nothing more. */
export async function changeGuests(
  context: Context, workspaceId: string, bookingId: string, wanted: GuestsRequest, by: Actor,
): Promise<GuestsOutcome> {
  return withRetries(() => context.db.transaction(async (tx) => {
    const before = await lockBooking(tx, workspaceId, bookingId)
    if (!before) return { kind: 'notFound' }
    const refusal = guestsRefusal(before, by.kind, context.now())
    if (refusal) return { kind: 'refused', refusal }
    const key = (email: string) => email.toLowerCase()
    const removed = before.guests.filter(({ email }) => wanted.remove.some(other => key(other) === key(email)))
    const kept = before.guests.filter(guest => !removed.includes(guest))
    const known = new Set([before.booking.clientEmail, ...before.guests.map(guest => guest.email)].map(key))
    const added = wanted.add.filter(({ email }) => !known.has(key(email))).map(({ email, name }) => ({ email, name: name ?? email }))
    const errors: InputFault[] = []
    if (added.length > 0 && by.kind === 'client' && !before.eventType.settings.guests)
      errors.push({ path: 'add', code: 'guestsNotAllowed', values: {} })
    if (kept.length + added.length > MOST_GUESTS) errors.push({ path: 'add', code: 'tooMany', values: { most: MOST_GUESTS } })
    if (errors.length > 0) return { kind: 'invalid', errors }
    if (added.length + removed.length === 0) return { kind: 'changed', details: before }

    if (removed.length > 0) {
      await tx.delete(guests).where(and(
        eq(guests.workspaceId, workspaceId), eq(guests.bookingId, bookingId), inArray(guests.email, removed.map(guest => guest.email)),
      ))
    }
    if (added.length > 0) await tx.insert(guests).values(added.map(guest => ({ workspaceId, bookingId, ...guest })))
    const details = await loadBookingDetails(tx, workspaceId, bookingId) ?? before
    await applyBookingChange(
      context, tx, details,
      { kind: 'guestsChanged', by, at: context.now(), guests: { added, removed: removed.map(({ name, email }) => ({ name, email })) } },
      before.booking.state,
      { hostsHaveEntry: before.booking.state === 'confirmed' },
    )
    return { kind: 'changed', details }
  }))
}

/** Clients change whom they bring until the start; members while it lasts, too. */
export function guestsRefusal(
  { booking, session }: Pick<BookingDetails, 'booking' | 'session'>, by: Actor['kind'], now: number,
): ChangeRefusal | null {
  const times = { state: booking.state, start: secondsOf(session.startsAt), end: secondsOf(session.endsAt) }
  return changeRefusal('guestsChanged', times, now) ?? (by === 'client' && times.start <= now ? 'hasBegun' : null)
}
