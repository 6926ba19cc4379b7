import { MINUTE } from '../time/civil'
import { changeTable } from './change-table'
import type { BookingState } from './states'

/** Whether a change may be made to a booking as it stands, and until when clients make it by themselves. */

/** Changes of a booking that already exists. */
export type LaterChangeKind = 'approved' | 'declined' | 'cancelled' | 'expired' | 'attended' | 'missed' | 'holdReleased' | 'holdEnded'

/**
 * Why a change is not possible: the booking's state does not allow it, its session is over, has not begun, or has begun; or
 * the client may no longer make it.
 */
export type ChangeRefusal = 'wrongState' | 'sessionOver' | 'notBegun' | 'hasBegun' | 'pastDeadline'

export interface BookingTimes {
  state: BookingState
  start: number
  end: number
}

/**
 * Whether a change may be made to a booking as it stands; views, use cases and messages all ask here. Instants in seconds.
 */
export function changeRefusal(kind: LaterChangeKind | 'joined' | 'guestsChanged' | 'peopleChanged', booking: BookingTimes, now: number): ChangeRefusal | null {
  const { from, during } = changeTable[kind]
  if (!from.includes(booking.state)) return 'wrongState'
  if (during === 'fromStart') return booking.start <= now ? null : 'notBegun'
  return during === 'always' || booking.end > now ? null : 'sessionOver'
}

/** Until how long before the start clients may change a booking by themselves, in minutes; null where they have to ask. */
export interface ClientTerms {
  moveUntilMinutes: number | null
  cancelUntilMinutes: number | null
}

/** Until when a request waits for an answer: so many hours, but never beyond the start. Seconds. */
export function requestExpiry(start: number, createdAt: number, hours: number | null): number {
  return hours === null ? start : Math.min(start, createdAt + hours * 60 * MINUTE)
}

/** What is held for a payment is only given up: nobody else has heard of it. */
export function cancellationOf(state: BookingState): 'cancelled' | 'holdReleased' {
  return state === 'held' ? 'holdReleased' : 'cancelled'
}

/** Whether a client may move or cancel a booking by themselves. A request can be taken back until it would have begun. */
export function clientRefusal(kind: 'moved' | 'cancelled', booking: BookingTimes, terms: ClientTerms, now: number): ChangeRefusal | null {
  const refusal = changeRefusal(kind === 'moved' ? 'joined' : cancellationOf(booking.state), booking, now)
  if (refusal) return refusal
  if (booking.start <= now) return 'hasBegun'
  if (booking.state !== 'confirmed') return null
  const until = kind === 'moved' ? terms.moveUntilMinutes : terms.cancelUntilMinutes
  return until === null || now > booking.start - until * MINUTE ? 'pastDeadline' : null
}
