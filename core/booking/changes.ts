import type { Place } from '../event-type/settings'
import type { Occasion } from '../messages/occasions'
import type { RoomWay } from '../rooms/ways'
import type { AssignmentCode } from '../rotation'
import type { BookingState } from './states'
import type { TrailEntry, TrailValues } from './trail'

/**
 * Everything that can happen to a booking or its session, and what follows from it. A new change is a row of this table,
 * and so is a new consequence; the executor (`server/changes`) writes them as rows and jobs in the change's transaction.
 */

export interface Actor {
  kind: 'client' | 'member' | 'system'
  name: string
}

interface ChangeFields {
  booked: { client: string, eventType: string, start: number, assigned: TrailValues<'assigned'>[] }
  requested: ChangeFields['booked']
  approved: object
  declined: { reason: string | null }
  cancelled: { reason: string | null }
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

/** `formerHost` and `newHost`: who handed a session over, and who took it. */
export type Recipient = 'client' | 'guests' | 'hosts' | 'formerHost' | 'newHost'
export const everybody: readonly Recipient[] = ['client', 'guests', 'hosts']

export interface MessageConsequence {
  occasion: Occasion
  to: readonly Recipient[]
  /**
   * `now`; or `withRoom`: as soon as the room is ready, and after a short wait without it; or `whereLinkIsMissing`: now, to
   * those whose confirmation went out without the link; or `whereConfirmed`: now, to those whose confirmation went out.
   */
  when: 'now' | 'withRoom' | 'whereLinkIsMissing' | 'whereConfirmed'
  /**
   * Of a change of a session, which bookings it is about where not each confirmed one: the first of these, the first of any,
   * or each that waits for approval.
   */
  per?: 'session' | 'sessionOrRequest' | 'request'
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
  /** What becomes of the session's room: made where the place is by video, or withdrawn with the last booking. */
  room: 'make' | 'withdrawWithLast' | 'moveWithHost' | 'renew' | 'give' | 'remove' | 'followPlace' | null
  /** When it can be made: until the session is over, or from its start on. */
  during: 'untilEnd' | 'fromStart'
}

const created = (code: 'booked' | 'requested', { client, eventType, start, assigned }: ChangeFields['booked']): TrailEntry[] => [
  { code, values: { client, eventType, start } },
  ...assigned.map(values => ({ code: 'assigned' as const, values })),
]

export const changeTable: { [Kind in ChangeKind]: ChangeRow<Kind> } = {
  booked: {
    subject: 'booking', from: [null], to: 'confirmed',
    trail: change => created('booked', change),
    messages: [{ occasion: 'booked', to: everybody, when: 'withRoom' }],
    revises: ['hosts'],
    room: 'make',
    during: 'untilEnd',
  },
  requested: {
    subject: 'booking', from: [null], to: 'awaitingApproval',
    trail: change => created('requested', change),
    messages: [{ occasion: 'awaitingApproval', to: everybody, when: 'now' }],
    revises: [],
    room: null,
    during: 'untilEnd',
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
    subject: 'booking', from: ['held', 'awaitingApproval', 'confirmed'], to: 'cancelled',
    trail: ({ by, reason }) => [{ code: 'cancelled', values: { by: by.kind === 'client' ? 'client' : 'member', name: by.name, reason } }],
    messages: [{ occasion: 'cancelled', to: everybody, when: 'now' }],
    revises: ['client', 'hosts'],
    room: 'withdrawWithLast',
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
      { occasion: 'handedAway', to: ['formerHost'], when: 'now', per: 'sessionOrRequest' },
      { occasion: 'awaitingApproval', to: ['newHost'], when: 'now', per: 'request' },
    ],
    revises: ['client', 'hosts'],
    room: 'moveWithHost',
    during: 'untilEnd',
  },
}

/** Changes of a booking that already exists. */
export type LaterChangeKind = 'approved' | 'declined' | 'cancelled' | 'attended' | 'missed'

/** Why a change is not possible: the booking's state does not allow it, its session is over, or has not begun. */
export type ChangeRefusal = 'wrongState' | 'sessionOver' | 'notBegun'

/**
 * Whether a change may be made to a booking as it stands; views, use cases and messages all ask here. Instants in seconds.
 */
export function changeRefusal(
  kind: LaterChangeKind, booking: { state: BookingState, start: number, end: number }, now: number,
): ChangeRefusal | null {
  const { from, during } = changeTable[kind]
  if (!from.includes(booking.state)) return 'wrongState'
  if (during === 'fromStart') return booking.start <= now ? null : 'notBegun'
  return booking.end > now ? null : 'sessionOver'
}

/** What a change is applied to, as far as its consequences depend on it. */
export interface Situation {
  byVideo: boolean
  roomState: 'none' | 'ready' | 'pending'
  /** Whether no other booking takes the session's time. */
  isLast: boolean
  /** Whether a cancelled session counts as its host's turn all the same. */
  countsCancelled: boolean
  /** Whether a session that all its clients missed counts as its host's turn. */
  countsMissed: boolean
  /** Whether every other booking of the session that stands was missed. */
  othersMissed: boolean
  /** Whether the session's hosts had its calendar entry before. */
  hostsHaveEntry: boolean
  /** Whether the session's room is under the account of the host who hands it over, or not ready yet. */
  roomMoves: boolean
  /** Whether the session is over. */
  isOver: boolean
  /** How long confirmations wait for the room, in seconds. */
  roomWait: number
}

export type Effect =
  | { kind: 'trail', entry: TrailEntry }
  | { kind: 'reviseEntry', whose: 'client' | 'hosts' }
  | { kind: 'makeRoom', at: number, waitsUntil: number }
  | { kind: 'withdrawRoom', at: number }
  /** What its service knows of the room is brought up to date. */
  | { kind: 'changeRoom', at: number }
  /** Another room takes the place of the one there is, by the way of a key where one was chosen. */
  | { kind: 'replaceRoom', at: number, waitsUntil: number, way: string | null }
  | { kind: 'changePlace', place: Place }
  /** A link that a person gave takes the place of the room there is. */
  | { kind: 'giveRoom', at: number, link: string }
  | { kind: 'endSession' }
  /** The session's entries in its hosts' calendars are brought up to date. */
  | { kind: 'writeEntries', at: number }
  /** Rotation goes on as if the session had never been. */
  | { kind: 'returnTurns', at: number }
  /** Turns that were given back, if any, are taken again. */
  | { kind: 'retakeTurns', at: number }
  /** Confirmations that wait for the room go out now. */
  | { kind: 'releaseConfirmations', at: number }
  | { kind: 'message', occasion: Occasion, to: readonly Recipient[], at: number, among: 'everybody' | 'withoutLink' | 'confirmed', per: 'booking' | NonNullable<MessageConsequence['per']> }

/** What follows from a change, in the order in which it is written. Pure. */
export function effectsOf(change: Change, situation: Situation): Effect[] {
  const { revises, room, subject, messages } = changeTable[change.kind]
  const { at } = change
  const effects: Effect[] = []
  for (const whose of revises) {
    if (whose === 'client' || situation.hostsHaveEntry) effects.push({ kind: 'reviseEntry', whose })
  }
  if (room === 'make' && situation.byVideo && situation.roomState === 'none') effects.push({ kind: 'makeRoom', at, waitsUntil: at + situation.roomWait })
  if (room === 'withdrawWithLast' && situation.isLast) {
    effects.push({ kind: 'endSession' })
    if (!situation.countsCancelled) effects.push({ kind: 'returnTurns', at })
    if (situation.roomState !== 'none') effects.push({ kind: 'withdrawRoom', at })
  }
  if (change.kind === 'missed' && situation.othersMissed && !situation.countsMissed) effects.push({ kind: 'returnTurns', at })
  if (change.kind === 'attended' && situation.othersMissed) effects.push({ kind: 'retakeTurns', at })
  if (revises.includes('hosts') && !situation.isOver) effects.push({ kind: 'writeEntries', at })
  const roomMoves = room === 'moveWithHost' && situation.roomMoves
  const isRenewed = room === 'renew'
  const staysWithService = room === 'make' || (room === 'withdrawWithLast' && !situation.isLast) || (room === 'moveWithHost' && !roomMoves)
  if (staysWithService && revises.includes('hosts') && situation.roomState === 'ready' && !situation.isOver) effects.push({ kind: 'changeRoom', at })
  if (change.kind === 'roomGiven') effects.push({ kind: 'giveRoom', at, link: change.link })
  if (roomMoves || isRenewed) {
    effects.push({ kind: 'replaceRoom', at, waitsUntil: at + situation.roomWait, way: change.kind === 'roomRenewed' ? change.way : null })
  }
  if (room === 'remove') effects.push({ kind: 'withdrawRoom', at })
  if (change.kind === 'placeChanged') effects.push(...roomAfterMove(change, situation))
  effects.push(...trailOf(change).map(entry => ({ kind: 'trail' as const, entry })))
  // After the end nobody needs word any more.
  if (subject === 'session' && situation.isOver) return effects
  if (change.kind === 'roomReady' || change.kind === 'roomGiven') effects.push({ kind: 'releaseConfirmations', at })
  for (const { occasion, to, when, per = 'booking' } of messages) {
    const byVideo = change.kind === 'placeChanged' ? change.place.kind === 'video' : situation.byVideo
    const waits = when === 'withRoom' && byVideo && (roomMoves || isRenewed || situation.roomState !== 'ready')
    effects.push({
      kind: 'message',
      occasion,
      to,
      at: waits ? at + situation.roomWait : at,
      among: when === 'whereLinkIsMissing' ? 'withoutLink' : when === 'whereConfirmed' ? 'confirmed' : 'everybody',
      per,
    })
  }
  return effects
}

/** A session that moves to video gets a room; one that leaves it loses the one it had. */
function roomAfterMove({ place, fromVideo, at }: ChangeOf<'placeChanged'>, { roomState, roomWait }: Situation): Effect[] {
  const waitsUntil = at + roomWait
  if (place.kind !== 'video') return [{ kind: 'changePlace', place }, ...(fromVideo && roomState !== 'none' ? [{ kind: 'withdrawRoom' as const, at }] : [])]
  if (fromVideo) return [{ kind: 'changePlace', place }]
  return [
    { kind: 'changePlace', place },
    roomState === 'none' ? { kind: 'makeRoom', at, waitsUntil } : { kind: 'replaceRoom', at, waitsUntil, way: null },
  ]
}

function trailOf<Kind extends ChangeKind>(change: ChangeOf<Kind>): TrailEntry[] {
  return changeTable[change.kind].trail(change)
}
