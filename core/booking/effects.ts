import type { Place } from '../event-type/settings'
import type { Occasion } from '../messages/occasions'
import { changeTable, type MessageConsequence, type Recipient } from './change-table'
import { type Change, type ChangeKind, type ChangeOf, tellingOf } from './changes'
import type { TrailEntry } from './trail'

/** What follows from a change, as effects that the executor (`server/changes`) writes as rows and jobs. */

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
  /** Whether another room is made where the session goes to other hosts or another time. */
  roomMoves: boolean
  /** Whether the booking is one that waits for approval. */
  isRequest: boolean
  /** Whether the session is over. */
  isOver: boolean
  /** How long confirmations wait for the room, and the request for a payment for the payment, in seconds. */
  roomWait: number
  paymentWait: number
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
  /** What was paid is paid back, by the terms where the client ends it; what is not paid yet no longer can be. */
  | { kind: 'endPayment', byClient: boolean, at: number }
  /** Confirmations that wait for the room go out now. */
  | { kind: 'releaseConfirmations', at: number }
  | {
    kind: 'message'
    occasion: Occasion
    to: readonly Recipient[]
    at: number
    among: 'everybody' | 'withoutLink' | 'confirmed'
    per: 'booking' | NonNullable<MessageConsequence['per']>
    isOfSession: boolean
  }

/** Changes after which nothing of the booking is to be paid. */
const endsPayment = new Set<ChangeKind>(['cancelled', 'declined', 'expired', 'holdReleased', 'holdEnded'])

/** What follows from a change, in the order in which it is written. Pure. */
export function effectsOf(change: Change, situation: Situation): Effect[] {
  const { revises, subject, messages, ...row } = changeTable[change.kind]
  const { at } = change
  // Rooms are for those who are confirmed.
  const room = row.room === 'make' && situation.isRequest ? null : row.room
  const effects: Effect[] = []
  for (const whose of revises) {
    if (whose === 'client' || situation.hostsHaveEntry) effects.push({ kind: 'reviseEntry', whose })
  }
  if (room === 'make' && situation.byVideo && situation.roomState === 'none') effects.push({ kind: 'makeRoom', at, waitsUntil: at + situation.roomWait })
  if (room === 'withdrawWithLast' && situation.isLast) {
    effects.push({ kind: 'endSession' })
    // Who moves is not lost: the turn goes with the client.
    if (!situation.countsCancelled || change.kind === 'left') effects.push({ kind: 'returnTurns', at })
    if (situation.roomState !== 'none') effects.push({ kind: 'withdrawRoom', at })
  }
  if (endsPayment.has(change.kind)) effects.push({ kind: 'endPayment', byClient: change.by.kind === 'client', at })
  if (change.kind === 'missed' && situation.othersMissed && !situation.countsMissed) effects.push({ kind: 'returnTurns', at })
  if (change.kind === 'attended' && situation.othersMissed) effects.push({ kind: 'retakeTurns', at })
  if (revises.includes('hosts') && !situation.isOver) effects.push({ kind: 'writeEntries', at })
  const roomMoves = room === 'moveWithHost' && situation.roomMoves
  const isRenewed = room === 'renew'
  const staysWithService = room === 'make' || room === 'keepInStep' || (room === 'withdrawWithLast' && !situation.isLast) || (room === 'moveWithHost' && !roomMoves)
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
  const { told } = tellingOf(change)
  for (const { occasion, to: all, when, per = 'booking', isOfSession = false } of messages) {
    const to = told === null ? all : told.filter(group => all.includes(group))
    if (to.length === 0) continue
    const byVideo = change.kind === 'placeChanged' ? change.place.kind === 'video' : situation.byVideo
    const waits = when === 'withRoom' && byVideo && !situation.isRequest && (roomMoves || isRenewed || situation.roomState !== 'ready')
    effects.push({
      kind: 'message',
      occasion,
      to,
      at: waits ? at + situation.roomWait : when === 'whileUnpaid' ? at + situation.paymentWait : at,
      among: when === 'whereLinkIsMissing' ? 'withoutLink' : when === 'whereConfirmed' ? 'confirmed' : 'everybody',
      per,
      isOfSession,
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
