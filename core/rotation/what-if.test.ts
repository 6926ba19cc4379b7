import { describe, expect, it } from 'vitest'
import { parseHours } from '../time/hours-text'
import { instantToSeconds } from '../time/civil'
import { sampleSettings, sampleTime } from '../../tests/support/samples'
import { type PastBooking, playWhatIf, type WhatIfData } from './what-if'

/** Monday to Thursday, 9:00 and 13:00 in Lisbon: eight sessions, each booked the week before. */
const bookings = [8, 9, 10, 11].flatMap(date => ['09', '13'].map((hour): PastBooking => {
  const start = instantToSeconds(`2027-03-${String(date).padStart(2, '0')}T${hour}:00:00Z`)
  return { eventTypeId: 'talk', at: start - 7 * 86_400, start, minutes: 30, bufferBeforeMinutes: 0, bufferAfterMinutes: 0, chosen: null, host: 'ana' }
}))
const data: WhatIfData = {
  now: instantToSeconds('2027-03-15T00:00:00Z'),
  from: instantToSeconds('2027-03-01T00:00:00Z'),
  days: 14,
  policy: 'fairShare',
  pool: [{ id: 'ana', weight: 1 }, { id: 'bo', weight: 1 }],
  hosts: [],
  time: sampleTime(),
  eventTypes: [{ id: 'talk', settings: sampleSettings({ durations: [30], leadTimeMinutes: 0, horizon: { kind: 'open' } }), holidays: {} }],
  bookings,
}
const hosts = (...weights: number[]) => weights.map((weight, index) => ({ id: index === 0 ? 'ana' : 'bo', weight }))
const had = (tried: Parameters<typeof playWhatIf>[1]) => playWhatIf(data, tried).had

describe('what if', () => {
  it('shares by weight among those who were able', () => {
    expect(had(hosts(1, 1))).toEqual({ ana: 4, bo: 4 })
    expect(had(hosts(3, 1))).toEqual({ ana: 6, bo: 2 })
    expect(had(hosts(1))).toEqual({ ana: 8 })
  })

  it('tries other hours of one host, and leaves them alone for the others', () => {
    const mornings = { id: 'bo', weight: 1, weekly: parseHours('Mo-Fr 09:00-12:00') }
    const result = playWhatIf(data, [{ id: 'ana', weight: 1 }, mornings])
    expect(result.had).toEqual({ ana: 6, bo: 2 })
    expect(result.impossible).toBe(0)
    const never = playWhatIf(data, [{ id: 'ana', weight: 1, weekly: parseHours('Sa 09:00-10:00') }, mornings])
    expect(never.had).toEqual({ ana: 0, bo: 4 })
    expect(never.impossible, 'afternoons that nobody could have taken').toBe(4)
    expect(never.openingsAWeek ?? 0).toBeLessThan(result.openingsAWeek ?? 0)
  })

  it('keeps whom a client picked, where they could take it', () => {
    const picked = { ...data, bookings: bookings.map(booking => ({ ...booking, chosen: 'bo' })) }
    expect(playWhatIf(picked, hosts(1, 1)).had).toEqual({ ana: 0, bo: 8 })
    expect(playWhatIf(picked, hosts(1)).had).toEqual({ ana: 8 })
  })
})
