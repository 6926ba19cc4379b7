import type { Place } from '../event-type/settings'
import type { Occasion } from '../messages/occasions'
import type { Money } from '../payment/money'
import type { RoomWay } from '../rooms/ways'
import type { AssignmentCode } from '../rotation'
import { type GuestChange, nameGuest } from './guests'
import type { BookingState } from './states'
import { type Tellable, tellable } from './told'
import type { TrailEntry, TrailValues } from './trail'

/**
 * Everything that can happen to a booking or its session, and what follows from it. A new change is a row of this table,
 * and so is a new consequence; the executor (`server/changes`) writes them as rows and jobs in the change's transaction.
 */

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

interface Moved {
  move: Move
  /** The names of the hosts before and after, where they are others. */
  hosts: { from: string[], to: string[] } | null
  assigned: TrailValues<'assigned'>[]
}

interface Created {
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

/** `former` and `new`: who no longer takes part in a session after a change, and who does since. */
export type Recipient = 'client' | 'guests' | 'formerGuests' | 'newGuests' | 'hosts' | 'formerHosts' | 'newHosts'
export const everybody: readonly Recipient[] = ['client', 'guests', 'hosts']

export interface MessageConsequence {
  occasion: Occasion
  to: readonly Recipient[]
  /**
   * `now`; or `withRoom`: as soon as the room is ready, and after a short wait without it; or `whereLinkIsMissing`: now, to
   * those whose confirmation went out without the link; or `whereConfirmed`: now, to those whose confirmation went out; or
   * `whileUnpaid`: after a while in which most have paid.
   */
  when: 'now' | 'withRoom' | 'whereLinkIsMissing' | 'whereConfirmed' | 'whileUnpaid'
  /**
   * Of a change of a session, which bookings it is about where not each confirmed one: the first of these, the first of any,
   * or each that waits for approval.
   */
  per?: 'session' | 'sessionOrRequest' | 'request'
  /** It tells of the session as it is at the change, wherever the booking goes. */
  isOfSession?: true
}

interface ChangeRow<Kind extends ChangeKind> {
  /** What it happens to. A change of a session concerns all its confirmed bookings. */
  subject: 'booking' | 'session'
  /** States the booking may be in before (null: it is made by the change), and the state after; a session's change has none. */
  from: readonly (BookingState | null)[]
  to: BookingState | null
  trail: (change: ChangeOf<Kind>) => TrailEntry[]
  messages: readonly MessageConsequence[]
  /** Whose calendar entries it alters: their SEQUENCE is raised. */
  revises: readonly ('client' | 'hosts')[]
  /** What becomes of the session's room: made where the place is by video, told of the change, or withdrawn with the last booking. */
  room: 'make' | 'keepInStep' | 'withdrawWithLast' | 'moveWithHost' | 'renew' | 'give' | 'remove' | 'followPlace' | null
  /** When it can be made: until the session is over, from its start on, or at any time. */
  during: 'untilEnd' | 'fromStart' | 'always'
}

const assignedEntries = ({ assigned }: Pick<Created, 'assigned'>): TrailEntry[] => assigned.map(values => ({ code: 'assigned', values }))

function bookedEntry({ by, client, eventType, start, told }: ChangeOf<'booked'>): TrailEntry {
  const values = { client, eventType, start }
  if (by.kind !== 'member') return { code: 'booked', values }
  return { code: 'booked', values: { ...values, member: by.name, untold: tellable.filter(group => told !== null && !told.includes(group)) } }
}

const movedEntries = ({ by, move, hosts, assigned }: Moved & { by: Actor }): TrailEntry[] => [
  {
    code: 'moved',
    values: { by: by.kind === 'client' ? 'client' : 'member', name: by.name, from: move.from.start, to: move.to.start, ...(hosts ? { hosts } : {}) },
  },
  ...assignedEntries({ assigned }),
]

export const changeTable: { [Kind in ChangeKind]: ChangeRow<Kind> } = {
  booked: {
    subject: 'booking', from: [null], to: 'confirmed',
    trail: change => [bookedEntry(change), ...assignedEntries(change)],
    messages: [{ occasion: 'booked', to: everybody, when: 'withRoom' }],
    revises: ['hosts'],
    room: 'make',
    during: 'untilEnd',
  },
  requested: {
    subject: 'booking', from: [null], to: 'awaitingApproval',
    trail: ({ client, eventType, start, ...change }) => [{ code: 'requested', values: { client, eventType, start } }, ...assignedEntries(change)],
    messages: [{ occasion: 'awaitingApproval', to: everybody, when: 'now' }],
    revises: [],
    room: null,
    during: 'untilEnd',
  },
  heldForPayment: {
    subject: 'booking', from: [null], to: 'held',
    trail: ({ client, eventType, start, assigned, until }) => [
      { code: 'heldForPayment', values: { client, eventType, start, until } }, ...assignedEntries({ assigned }),
    ],
    messages: [{ occasion: 'paymentWanted', to: ['client'], when: 'whileUnpaid' }],
    revises: [],
    room: null,
    during: 'untilEnd',
  },
  paid: {
    subject: 'booking', from: ['held'], to: 'confirmed',
    trail: ({ money, service }) => [{ code: 'paid', values: { ...money, service } }],
    messages: [{ occasion: 'booked', to: everybody, when: 'withRoom' }],
    revises: ['client', 'hosts'],
    room: 'make',
    during: 'untilEnd',
  },
  paidRequest: {
    subject: 'booking', from: ['held'], to: 'awaitingApproval',
    trail: ({ money, service }) => [{ code: 'paid', values: { ...money, service } }],
    messages: [{ occasion: 'awaitingApproval', to: everybody, when: 'now' }],
    revises: [],
    room: null,
    during: 'untilEnd',
  },
  holdReleased: {
    subject: 'booking', from: ['held'], to: 'cancelled',
    trail: ({ by }) => [{ code: 'holdReleased', values: { client: by.name } }],
    messages: [],
    revises: [],
    room: 'withdrawWithLast',
    during: 'untilEnd',
  },
  holdEnded: {
    subject: 'booking', from: ['held'], to: 'expired',
    trail: () => [{ code: 'holdEnded', values: {} }],
    messages: [{ occasion: 'unpaid', to: ['client'], when: 'now' }],
    revises: [],
    room: 'withdrawWithLast',
    during: 'always',
  },
  paidLate: {
    subject: 'booking', from: ['cancelled', 'expired'], to: null,
    trail: ({ money, service }) => [{ code: 'paidLate', values: { ...money, service } }],
    messages: [],
    revises: [],
    room: null,
    during: 'always',
  },
  refunded: {
    subject: 'booking', from: ['awaitingApproval', 'confirmed', 'attended', 'missed', 'declined', 'cancelled', 'expired'], to: null,
    trail: ({ money, service }) => [{ code: 'refunded', values: { ...money, service } }],
    messages: [{ occasion: 'refunded', to: ['client'], when: 'now' }],
    revises: [],
    room: null,
    during: 'always',
  },
  paymentMarked: {
    subject: 'booking', from: ['confirmed', 'attended', 'missed'], to: null,
    trail: ({ by, money, isPaid }) => [{ code: 'paymentMarked', values: { ...money, member: by.name, isPaid } }],
    messages: [],
    revises: [],
    room: null,
    during: 'always',
  },
  approved: {
    subject: 'booking', from: ['awaitingApproval'], to: 'confirmed',
    trail: ({ by }) => [{ code: 'approved', values: { member: by.name } }],
    messages: [{ occasion: 'booked', to: everybody, when: 'withRoom' }],
    revises: ['client', 'hosts'],
    room: 'make',
    during: 'untilEnd',
  },
  declined: {
    subject: 'booking', from: ['awaitingApproval'], to: 'declined',
    trail: ({ by }) => [{ code: 'declined', values: { member: by.name } }],
    messages: [{ occasion: 'declined', to: everybody, when: 'now' }],
    revises: ['client'],
    room: 'withdrawWithLast',
    during: 'untilEnd',
  },
  cancelled: {
    subject: 'booking', from: ['awaitingApproval', 'confirmed'], to: 'cancelled',
    trail: ({ by, reason }) => [{ code: 'cancelled', values: { by: by.kind === 'client' ? 'client' : 'member', name: by.name, reason } }],
    messages: [{ occasion: 'cancelled', to: everybody, when: 'now' }],
    revises: ['client', 'hosts'],
    room: 'withdrawWithLast',
    during: 'untilEnd',
  },
  expired: {
    subject: 'booking', from: ['awaitingApproval'], to: 'expired',
    trail: () => [{ code: 'expired', values: {} }],
    messages: [{ occasion: 'expired', to: everybody, when: 'now' }],
    revises: ['client'],
    room: 'withdrawWithLast',
    during: 'always',
  },
  moved: {
    subject: 'session', from: [], to: null,
    trail: movedEntries,
    messages: [
      { occasion: 'moved', to: ['client', 'guests'], when: 'withRoom' },
      { occasion: 'moved', to: ['hosts'], when: 'withRoom', per: 'session' },
      { occasion: 'moved', to: everybody, when: 'now', per: 'request' },
      { occasion: 'movedAway', to: ['formerHosts'], when: 'now', per: 'sessionOrRequest' },
    ],
    revises: ['client', 'hosts'],
    room: 'moveWithHost',
    during: 'untilEnd',
  },
  left: {
    subject: 'booking', from: ['awaitingApproval', 'confirmed'], to: null,
    trail: ({ client, move }) => [{ code: 'left', values: { client, to: move.to.start } }],
    messages: [{ occasion: 'left', to: ['hosts'], when: 'now', isOfSession: true }],
    revises: ['hosts'],
    room: 'withdrawWithLast',
    during: 'untilEnd',
  },
  joined: {
    subject: 'booking', from: ['awaitingApproval', 'confirmed'], to: null,
    trail: movedEntries,
    messages: [{ occasion: 'moved', to: everybody, when: 'withRoom' }],
    revises: ['client', 'hosts'],
    room: 'make',
    during: 'untilEnd',
  },
  guestsChanged: {
    subject: 'booking', from: ['awaitingApproval', 'confirmed'], to: null,
    trail: ({ by, guests }) => [{
      code: 'guestsChanged',
      values: { by: by.kind === 'client' ? 'client' : 'member', name: by.name, added: guests.added.map(nameGuest), removed: guests.removed.map(nameGuest) },
    }],
    messages: [
      { occasion: 'guestAdded', to: ['newGuests'], when: 'withRoom' },
      { occasion: 'guestRemoved', to: ['formerGuests'], when: 'now' },
      { occasion: 'guestsChanged', to: ['client', 'hosts'], when: 'now' },
    ],
    revises: ['client', 'hosts'],
    room: 'keepInStep',
    during: 'untilEnd',
  },
  peopleChanged: {
    subject: 'booking', from: ['awaitingApproval', 'confirmed'], to: null,
    trail: ({ by, people }) => [{ code: 'peopleChanged', values: { by: by.kind === 'client' ? 'client' : 'member', name: by.name, ...people } }],
    messages: [{ occasion: 'peopleChanged', to: ['client', 'hosts'], when: 'now' }],
    revises: ['client', 'hosts'],
    room: null,
    during: 'untilEnd',
  },
  attended: {
    subject: 'booking', from: ['confirmed', 'missed'], to: 'attended',
    trail: ({ by }) => [{ code: 'attended', values: { member: by.name } }],
    messages: [],
    revises: [],
    room: null,
    during: 'fromStart',
  },
  missed: {
    subject: 'booking', from: ['confirmed', 'attended'], to: 'missed',
    trail: ({ by }) => [{ code: 'missed', values: { member: by.name } }],
    messages: [],
    revises: [],
    room: null,
    during: 'fromStart',
  },
  roomReady: {
    subject: 'session', from: [], to: null,
    trail: ({ way, service, number, attempt }) => [{ code: 'roomReady', values: { way, service, number, attempt } }],
    messages: [{ occasion: 'linkFollows', to: everybody, when: 'whereLinkIsMissing' }],
    revises: ['client', 'hosts'],
    room: null,
    during: 'untilEnd',
  },
  roomRenewed: {
    subject: 'session', from: [], to: null,
    trail: ({ by }) => [by.kind === 'system' ? { code: 'roomLost', values: { service: by.name } } : { code: 'roomRenewed', values: { member: by.name } }],
    messages: [
      { occasion: 'newLink', to: ['client', 'guests'], when: 'withRoom' },
      { occasion: 'newLink', to: ['hosts'], when: 'withRoom', per: 'session' },
    ],
    revises: ['client', 'hosts'],
    room: 'renew',
    during: 'untilEnd',
  },
  roomMissed: {
    subject: 'session', from: [], to: null,
    trail: () => [],
    messages: [],
    revises: [],
    room: 'make',
    during: 'untilEnd',
  },
  roomGiven: {
    subject: 'session', from: [], to: null,
    trail: ({ by }) => [{ code: 'roomReady', values: { way: 'byHand', service: by.name, number: null, attempt: 1 } }],
    messages: [
      { occasion: 'newLink', to: ['client', 'guests'], when: 'whereConfirmed' },
      { occasion: 'newLink', to: ['hosts'], when: 'whereConfirmed', per: 'session' },
    ],
    revises: ['client', 'hosts'],
    room: 'give',
    during: 'untilEnd',
  },
  roomRemoved: {
    subject: 'session', from: [], to: null,
    trail: ({ by }) => [{ code: 'roomRemoved', values: { member: by.name } }],
    messages: [
      { occasion: 'linkRemoved', to: ['client', 'guests'], when: 'whereConfirmed' },
      { occasion: 'linkRemoved', to: ['hosts'], when: 'whereConfirmed', per: 'session' },
    ],
    revises: ['client', 'hosts'],
    room: 'remove',
    during: 'untilEnd',
  },
  placeChanged: {
    subject: 'session', from: [], to: null,
    trail: ({ by, place }) => [{ code: 'placeChanged', values: { member: by.name, kind: place.kind, detail: place.detail } }],
    messages: [
      { occasion: 'placeChanged', to: ['client', 'guests'], when: 'withRoom' },
      { occasion: 'placeChanged', to: ['hosts'], when: 'withRoom', per: 'session' },
    ],
    revises: ['client', 'hosts'],
    room: 'followPlace',
    during: 'untilEnd',
  },
  linkMissing: {
    subject: 'session', from: [], to: null,
    trail: ({ hours }) => [{ code: 'linkMissing', values: { hours } }],
    messages: [{ occasion: 'linkMissing', to: ['hosts'], when: 'now', per: 'session' }],
    revises: [],
    room: null,
    during: 'untilEnd',
  },
  handedOver: {
    subject: 'session', from: [], to: null,
    trail: ({ by, from, to, chair, code, able }) => [{ code: 'handedOver', values: { member: by.name, from, to, chair, code, able } }],
    messages: [
      { occasion: 'handedOver', to: ['client', 'guests'], when: 'withRoom' },
      { occasion: 'handedOver', to: ['hosts'], when: 'withRoom', per: 'session' },
      { occasion: 'handedAway', to: ['formerHosts'], when: 'now', per: 'sessionOrRequest' },
      { occasion: 'awaitingApproval', to: ['newHosts'], when: 'now', per: 'request' },
    ],
    revises: ['client', 'hosts'],
    room: 'moveWithHost',
    during: 'untilEnd',
  },
}

/** What a message or a page tells of a change beyond what the booking is since, and whom, where that was chosen. */
export function tellingOf(change: Change): { move: Move | null, guests: GuestChange | null, told: readonly Tellable[] | null } {
  return {
    move: change.kind === 'moved' || change.kind === 'left' || change.kind === 'joined' ? change.move : null,
    guests: change.kind === 'guestsChanged' ? change.guests : null,
    told: change.kind === 'booked' ? change.told : null,
  }
}
