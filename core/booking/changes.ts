import type { Place } from '../event-type/settings'
import type { Money } from '../payment/money'
import type { RoomWay } from '../rooms/ways'
import type { AssignmentCode } from '../rotation'
import type { GuestChange } from './guests'
import type { Tellable } from './told'
import type { TrailValues } from './trail'

/** Everything that can happen to a booking or its session, as values. What follows from each is in `change-table.ts`. */

export interface Actor {
  kind: 'client' | 'member' | 'system'
  name: string
}

/** From when to when, in seconds, and whether other hosts sit in it from then on. */
export interface Move {
  from: { start: number, end: number }
  to: { start: number, end: number }
  hasOtherHosts: boolean
}

export interface Moved {
  move: Move
  /** The names of the hosts before and after, where they are others. */
  hosts: { from: string[], to: string[] } | null
  assigned: TrailValues<'assigned'>[]
}

export interface Created {
  client: string
  eventType: string
  start: number
  assigned: TrailValues<'assigned'>[]
}

interface ChangeFields {
  /** `told`: who is, where a member booked for the client and chose them. */
  booked: Created & { told: readonly Tellable[] | null }
  requested: Created
  /** The opening is held for a client while they pay. `until`: seconds. */
  heldForPayment: Created & { until: number }
  /** What was held is paid: it is confirmed, or asks for approval then. */
  paid: { money: Money, service: string }
  paidRequest: { money: Money, service: string }
  /** The hold ends before it is paid: its client gives it up, or its time is over. */
  holdReleased: object
  holdEnded: object
  /** It was paid when it was no longer held, and is paid back. */
  paidLate: { money: Money, service: string }
  refunded: { money: Money, service: string }
  /** What is paid at the session, as its host marks it. */
  paymentMarked: { money: Money, isPaid: boolean }
  approved: object
  declined: { reason: string | null }
  cancelled: { reason: string | null }
  /** Nobody has answered the request in time. */
  expired: object
  /** A session goes to another time with all its bookings. */
  moved: Moved
  /** A booking goes to another session than the one it shared with others; the two halves of that. */
  left: { client: string, move: Move }
  joined: Moved
  /** Other people come along with the client. */
  guestsChanged: { guests: GuestChange }
  /** The booking is for another number of people. */
  peopleChanged: { people: { from: number, to: number } }
  attended: object
  missed: object
  roomReady: { way: RoomWay, service: string, number: string | null, attempt: number }
  /** `way`: the way that was chosen for the new one; the order decides where it is null. */
  roomRenewed: { way: string | null }
  /** It should have a room and has none. */
  roomMissed: object
  roomGiven: { link: string }
  roomRemoved: object
  /** Where it takes place is filled in, or another place than it was booked for. */
  placeChanged: { place: Place, fromVideo: boolean }
  /** It starts soon and still has no link. */
  linkMissing: { hours: number }
  handedOver: { chair: string, from: string, to: string, code: AssignmentCode, able: string[] }
}
export type ChangeKind = keyof ChangeFields

/** A change as a value: what, who did it, when (seconds), and what only this kind of change knows. */
export type ChangeOf<Kind extends ChangeKind> = ChangeFields[Kind] & { kind: Kind, by: Actor, at: number }
export type Change = { [Kind in ChangeKind]: ChangeOf<Kind> }[ChangeKind]

/** What a message or a page tells of a change beyond what the booking is since, and whom, where that was chosen. */
export function tellingOf(change: Change): { move: Move | null, guests: GuestChange | null, told: readonly Tellable[] | null } {
  return {
    move: change.kind === 'moved' || change.kind === 'left' || change.kind === 'joined' ? change.move : null,
    guests: change.kind === 'guestsChanged' ? change.guests : null,
    told: change.kind === 'booked' ? change.told : null,
  }
}
