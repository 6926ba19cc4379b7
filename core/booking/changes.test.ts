import { describe, expect, it } from 'vitest'
import { occasionTable } from '../messages/occasions'
import { changeTable } from './change-table'
import type { Change, ChangeKind } from './changes'
import { type ChangeRefusal, changeRefusal, clientRefusal, type LaterChangeKind, requestExpiry } from './refusals'
import { type Effect, effectsOf, type Situation } from './effects'
import { bookingMayBecome, type BookingState, bookingStates } from './states'

const at = 1_800_000_000
const situation = (change: Partial<Situation> = {}): Situation => ({
  byVideo: true, roomState: 'none', isLast: false, hostsHaveEntry: false, isOver: false, roomMoves: false, isRequest: false, roomWait: 20, paymentWait: 120,
  countsCancelled: false, countsMissed: true, othersMissed: false, ...change,
})
const booked: Change = {
  kind: 'booked',
  by: { kind: 'client', name: 'Ana' },
  at, told: null,
  client: 'Ana',
  eventType: 'Talk',
  start: at + 3600,
  assigned: [],
}
const cancelled: Change = { kind: 'cancelled', by: { kind: 'client', name: 'Ana' }, at, reason: null }
const ready: Change = { kind: 'roomReady', way: 'own', by: { kind: 'system', name: 'Rooms' }, at, service: 'Rooms', number: null, attempt: 1 }
const kindsOf = (effects: Effect[]) => effects.map(effect => effect.kind)
const messages = (effects: Effect[]) => effects.flatMap(effect => (effect.kind === 'message' ? [[effect.occasion, effect.at - at]] : []))

describe('changes', () => {
  it('lead only where the states of bookings allow it', () => {
    for (const { from, to } of Object.values(changeTable)) {
      for (const state of from) if (state !== null && to !== null) expect(bookingMayBecome(state, to)).toBe(true)
    }
  })

  it.each<[LaterChangeKind, string[]]>([
    ['approved', ['awaitingApproval']], ['declined', ['awaitingApproval']], ['cancelled', ['awaitingApproval', 'confirmed']], ['holdReleased', ['held']],
  ])('%s is possible from %s until the session is over', (kind, from) => {
    for (const state of bookingStates) {
      expect(changeRefusal(kind, { state, start: at - 1, end: at + 1 }, at)).toBe(from.includes(state) ? null : 'wrongState')
      expect(changeRefusal(kind, { state, start: at - 1, end: at }, at)).toBe(from.includes(state) ? 'sessionOver' : 'wrongState')
    }
  })

  it.each<['attended' | 'missed', string[]]>([['attended', ['confirmed', 'missed']], ['missed', ['confirmed', 'attended']]])(
    '%s is possible from %s once the session has begun, however long ago', (kind, from) => {
      for (const state of bookingStates) {
        expect(changeRefusal(kind, { state, start: at + 1, end: at + 2 }, at)).toBe(from.includes(state) ? 'notBegun' : 'wrongState')
        expect(changeRefusal(kind, { state, start: at, end: at + 2 }, at + 1e6)).toBe(from.includes(state) ? null : 'wrongState')
      }
    },
  )

  it('give a turn back where the last one missed it and the workspace says so, and take it again', () => {
    const missed: Change = { kind: 'missed', by: { kind: 'member', name: 'Bo' }, at }
    expect(kindsOf(effectsOf(missed, situation({ othersMissed: true })))).toEqual(['trail'])
    expect(kindsOf(effectsOf(missed, situation({ countsMissed: false })))).toEqual(['trail'])
    expect(kindsOf(effectsOf(missed, situation({ countsMissed: false, othersMissed: true })))).toEqual(['returnTurns', 'trail'])
    expect(kindsOf(effectsOf({ ...missed, kind: 'attended' }, situation({ othersMissed: true })))).toEqual(['retakeTurns', 'trail'])
  })

  it('tell of the state that they lead to: no message is overtaken by its own change', () => {
    for (const kind of Object.keys(changeTable) as ChangeKind[]) {
      const { to, messages: told } = changeTable[kind]
      for (const { occasion } of told) if (to !== null) expect(occasionTable[occasion].states).toContain(to)
    }
  })
})

describe('clients', () => {
  const terms = { moveUntilMinutes: 120, cancelUntilMinutes: null }
  const booking = (state: BookingState, ahead: number) => ({ state, start: at + ahead * 60, end: at + (ahead + 30) * 60 })

  it.each<['moved' | 'cancelled', BookingState, number, ChangeRefusal | null]>([
    ['moved', 'confirmed', 120, null],
    ['moved', 'confirmed', 119, 'pastDeadline'],
    ['moved', 'confirmed', 0, 'hasBegun'],
    ['moved', 'confirmed', -30, 'sessionOver'],
    ['moved', 'awaitingApproval', 1, null],
    ['moved', 'cancelled', 500, 'wrongState'],
    ['cancelled', 'confirmed', 100_000, 'pastDeadline'],
    ['cancelled', 'awaitingApproval', 1, null],
    ['cancelled', 'attended', 100, 'wrongState'],
  ])('what would be %s, is %s and starts in %i minutes: %s', (kind, state, minutes, refusal) => {
    expect(clientRefusal(kind, booking(state, minutes), terms, at)).toBe(refusal)
  })

  it('may change it up to the start where the event type has no deadline', () => {
    const free = { moveUntilMinutes: 0, cancelUntilMinutes: 0 }
    for (const kind of ['moved', 'cancelled'] as const) expect(clientRefusal(kind, booking('confirmed', 1), free, at)).toBeNull()
  })

  it('wait for an answer as long as the event type says, but never beyond the start', () => {
    expect([requestExpiry(at + 7200, at, null), requestExpiry(at + 7200, at, 1), requestExpiry(at + 7200, at, 3)])
      .toEqual([at + 7200, at + 3600, at + 7200])
  })
})

describe('what follows', () => {
  const move = { from: { start: at, end: at + 60 }, to: { start: at + 3600, end: at + 3660 }, hasOtherHosts: false }
  const by = { kind: 'client' as const, name: 'Ana' }

  it('from a move of a session is its room brought up to date, or made anew for another host', () => {
    const moved: Change = { kind: 'moved', by, at, move, hosts: null, assigned: [] }
    const stays = effectsOf(moved, situation({ roomState: 'ready', hostsHaveEntry: true }))
    expect(kindsOf(stays).filter(kind => kind !== 'message'))
      .toEqual(['reviseEntry', 'reviseEntry', 'writeEntries', 'changeRoom', 'trail'])
    expect(messages(stays)).toEqual([['moved', 0], ['moved', 0], ['moved', 0], ['movedAway', 0]])
    const goes = effectsOf(moved, situation({ roomState: 'ready', hostsHaveEntry: true, roomMoves: true }))
    expect(kindsOf(goes)).toContain('replaceRoom')
    expect(messages(goes), 'those who stay wait for the new room').toEqual([['moved', 20], ['moved', 20], ['moved', 0], ['movedAway', 0]])
  })

  it('from leaving a session is its end with the last one, whose turn is given back whatever the workspace counts', () => {
    const left: Change = { kind: 'left', by, at, client: 'Ana', move }
    expect(kindsOf(effectsOf(left, situation({ roomState: 'ready' })))).not.toContain('endSession')
    expect(kindsOf(effectsOf(left, situation({ roomState: 'ready', isLast: true, countsCancelled: true }))))
      .toEqual(expect.arrayContaining(['endSession', 'returnTurns', 'withdrawRoom']))
  })

  it('from joining one with a request is no room, and word at once', () => {
    const joined: Change = { kind: 'joined', by, at, move, hosts: null, assigned: [] }
    expect(kindsOf(effectsOf(joined, situation()))).toContain('makeRoom')
    const request = effectsOf(joined, situation({ isRequest: true }))
    expect(kindsOf(request)).not.toContain('makeRoom')
    expect(messages(request)).toEqual([['moved', 0]])
  })

  it('from a booking by video is its room, and a confirmation that waits for it', () => {
    expect(kindsOf(effectsOf(booked, situation()))).toEqual(['makeRoom', 'writeEntries', 'trail', 'message'])
    expect(messages(effectsOf(booked, situation()))).toEqual([['booked', 20]])
    expect(messages(effectsOf(booked, situation({ roomState: 'ready' })))).toEqual([['booked', 0]])
    expect(kindsOf(effectsOf(booked, situation({ byVideo: false })))).toEqual(['writeEntries', 'trail', 'message'])
    expect(messages(effectsOf(booked, situation({ byVideo: false })))).toEqual([['booked', 0]])
  })

  it('from joining a session is a newer entry for its hosts, and no second room', () => {
    expect(kindsOf(effectsOf(booked, situation({ roomState: 'pending', hostsHaveEntry: true })))).toEqual([
      'reviseEntry',
      'writeEntries',
      'trail',
      'message',
    ])
  })

  it('from a cancellation is the end of the session and its room with the last booking only', () => {
    expect(kindsOf(effectsOf(cancelled, situation({ roomState: 'ready', hostsHaveEntry: true })))).toEqual([
      'reviseEntry',
      'reviseEntry',
      'endPayment',
      'writeEntries',
      'changeRoom',
      'trail',
      'message',
    ])
    const last = kindsOf(effectsOf(cancelled, situation({ roomState: 'ready', hostsHaveEntry: true, isLast: true })))
    expect(last).toEqual(['reviseEntry', 'reviseEntry', 'endSession', 'returnTurns', 'withdrawRoom', 'endPayment', 'writeEntries', 'trail', 'message'])
    expect(kindsOf(effectsOf(cancelled, situation({ isLast: true, countsCancelled: true })))).not.toContain('returnTurns')
    expect(kindsOf(effectsOf(cancelled, situation({ byVideo: false, isLast: true })))).not.toContain('withdrawRoom')
  })

  it('from a room that is ready is the link for those who lack it, and nothing more once the session is over', () => {
    expect(kindsOf(effectsOf(ready, situation({ roomState: 'ready', hostsHaveEntry: true })))).toEqual([
      'reviseEntry',
      'reviseEntry',
      'writeEntries',
      'trail',
      'releaseConfirmations',
      'message',
    ])
    expect(kindsOf(effectsOf(ready, situation({ roomState: 'ready', hostsHaveEntry: true, isOver: true })))).toEqual([
      'reviseEntry',
      'reviseEntry',
      'trail',
    ])
  })
})
