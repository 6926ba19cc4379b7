import type { Occasion } from '../messages/occasions'
import { nameGuest } from './guests'
import type { Actor, ChangeKind, ChangeOf, Created, Moved } from './changes'
import type { BookingState } from './states'
import { tellable } from './told'
import type { TrailEntry } from './trail'

/**
 * What follows from each change of a booking or its session. A new change is a row of this table, and so is a new
 * consequence; the executor (`server/changes`) writes them as rows and jobs in the change's transaction.
 */

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
