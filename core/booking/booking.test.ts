import { describe, expect, it } from 'vitest'
import { instantToSeconds } from '../time/civil'
import { bookingMayBecome, bookingStates, bookingStateWords, roomMayBecome, roomStates, roomStateWords, takingStates } from './states'
import { formatTrailEntry } from '../catalogue/trail'
import { readTrailEntry, type TrailCode } from './trail'

describe('states', () => {
  it('of bookings: what has ended stays ended, and what is confirmed cannot be asked for again', () => {
    for (const state of bookingStates) {
      for (const ended of ['declined', 'cancelled', 'expired'] as const) expect(bookingMayBecome(ended, state)).toBe(false)
      expect(bookingMayBecome(state, state)).toBe(false)
      expect(bookingMayBecome(state, 'held')).toBe(false)
      expect(bookingStateWords[state]).not.toMatch(/[A-Z]/)
    }
    expect(bookingStates.filter(state => bookingMayBecome('awaitingApproval', state))).toEqual([
      'confirmed',
      'declined',
      'cancelled',
      'expired',
    ])
    expect(bookingStates.filter(state => !takingStates.includes(state))).toEqual(['declined', 'cancelled', 'expired'])
  })

  it('of rooms: every way leads through making, and from withdrawn none leads on', () => {
    expect(roomStates.filter(state => roomMayBecome('planned', state))).toEqual(['making', 'withdrawn'])
    for (const state of roomStates) {
      expect(roomMayBecome('withdrawn', state)).toBe(false)
      expect(roomMayBecome(state, 'withdrawn')).toBe(state !== 'withdrawn')
      expect(roomStateWords[state]).not.toMatch(/[A-Z]/)
    }
  })
})

describe('the trail', () => {
  const at = instantToSeconds('2027-03-08T14:03:00Z')
  it.each<[TrailCode, object, string]>([
    [
      'booked',
      { client: 'Vila Chã Archive', eventType: 'Damage triage call', start: at },
      'Vila Chã Archive booked Damage triage call for Monday 8 March 2027, 19:33 Kolkata time.',
    ],
    [
      'assigned',
      { host: 'Teodor Vass', chair: 'Host', code: 'soonest', able: ['Ottoline Marsh', 'Teodor Vass'] },
      'Teodor Vass hosts it: next in turn by fair share (Ottoline Marsh and Teodor Vass were free).',
    ],
    [
      'assigned',
      { host: 'Teodor Vass', chair: 'Host', code: 'onlyOne', able: ['Teodor Vass'] },
      'Teodor Vass hosts it: nobody else was free.',
    ],
    ['cancelled', { by: 'client', name: 'Ana', reason: null }, 'Ana cancelled.'],
    ['cancelled', { by: 'member', name: 'Ana', reason: 'Flood' }, 'Ana cancelled: “Flood”'],
    [
      'roomFailed',
      { service: 'Lantern Rooms', attempt: 1, fault: 'did not answer for 10 s', nextAt: at },
      'Lantern Rooms did not answer for 10 s; trying again at 19:33.',
    ],
    [
      'roomFailed',
      { service: 'Lantern Rooms', attempt: 9, fault: 'refused', nextAt: null },
      'Lantern Rooms refused; no further try is planned.',
    ],
    [
      'messageSent',
      { occasion: 'booked', address: 'a@client.example', link: false },
      'Mailed the confirmation to a@client.example, saying that the video link follows.',
    ],
    [
      'messageUnknown',
      { occasion: 'booked', address: 'a@client.example', fault: 'connection lost' },
      'Sending the confirmation to a@client.example broke off (connection lost). It may or may not have arrived, and is not sent again by itself.',
    ],
  ])('says %s', (code, values, words) => {
    expect(formatTrailEntry(readTrailEntry(code, JSON.parse(JSON.stringify(values))), 'Asia/Kolkata', 'en-GB')).toBe(words)
  })

  it('speaks to the member who reads, and never takes a client for them', () => {
    const say = (code: string, values: object) => formatTrailEntry(readTrailEntry(code, values), 'Asia/Kolkata', 'en-GB', 'Ana')
    expect(say('approved', { member: 'Ana' })).toBe('You approved it.')
    expect(say('approved', { member: 'Bo' })).toBe('Bo approved it.')
    expect(say('assigned', { host: 'Ana', chair: 'Host', code: 'soonest', able: ['Bo', 'Ana'] }))
      .toBe('You host it: next in turn by fair share (Bo and you were free).')
    expect(say('cancelled', { by: 'client', name: 'Ana', reason: null })).toBe('Ana cancelled.')
  })

  it('refuses kept values that do not belong to their code', () => {
    expect(() => readTrailEntry('approved', { by: 'x' })).toThrow()
    expect(() => readTrailEntry('vanished', {})).toThrow()
  })
})
