import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { instantToSeconds } from '../time/civil'
import { zoneOf } from '../time/zone'
import { countParts, fitPhoneText, MOST_CHARACTERS } from './phone-text'
import { outsideQuietHours, quietHoursSchema, quietUntil } from './quiet-hours'

describe('a phone text', () => {
  it('has no empty lines, and never half a link', () => {
    expect(fitPhoneText('  Hello  Ana \n\n\n When: today\n')).toBe('Hello Ana\nWhen: today')
    const link = `https://book.example/${'x'.repeat(60)}`
    const long = fitPhoneText(`${'word '.repeat(118)}${link} end`)
    expect(long).toBe(`${'word '.repeat(118).trimEnd()}…`)
    expect(fitPhoneText('x'.repeat(2000))).toHaveLength(MOST_CHARACTERS)
  })

  it.each([
    ['a'.repeat(160), 1], ['a'.repeat(161), 2], ['a'.repeat(306), 2], ['a'.repeat(307), 3], [`${'a'.repeat(159)}€`, 2], [`${'a'.repeat(158)}€`, 1],
    ['ã'.repeat(70), 1], ['ã'.repeat(71), 2], ['😀'.repeat(35), 1], ['😀'.repeat(36), 2], ['', 1],
  ])('is counted in the parts that a network carries', (text, parts) => expect(countParts(text)).toBe(parts))
})

describe('quiet hours', () => {
  const night = { from: '21:00', to: '08:00' }
  const at = (text: string) => instantToSeconds(text)

  it.each([
    ['2026-12-01T20:59:00Z', 'Europe/Lisbon', null], ['2026-12-01T21:00:00Z', 'Europe/Lisbon', '2026-12-02T08:00:00Z'],
    ['2026-12-02T07:59:59Z', 'Europe/Lisbon', '2026-12-02T08:00:00Z'], ['2026-12-02T08:00:00Z', 'Europe/Lisbon', null],
    ['2026-12-01T15:30:00Z', 'Asia/Kolkata', '2026-12-02T02:30:00Z'],
    // Clocks go forward at one: the night is an hour shorter.
    ['2027-03-27T22:00:00Z', 'Europe/Lisbon', '2027-03-28T07:00:00Z'],
  ])('hold by the clock of the reader: %s in %s', (instant, zone, until) => {
    expect(quietUntil(at(instant), night, zone)).toBe(until === null ? null : at(until))
  })

  it('send what would come too late after them before they begin', () => {
    const send = (due: string, start: string) => outsideQuietHours(at(due), at(start), night, 'UTC')
    expect(send('2026-12-02T07:00:00Z', '2026-12-02T09:00:00Z')).toBe(at('2026-12-02T08:00:00Z'))
    expect(send('2026-12-02T06:00:00Z', '2026-12-02T07:00:00Z')).toBe(at('2026-12-01T20:50:00Z'))
    expect(send('2026-12-02T12:00:00Z', '2026-12-02T13:00:00Z')).toBe(at('2026-12-02T12:00:00Z'))
  })

  it('are never broken, whatever they are and wherever', () => {
    const clock = fc.integer({ min: 0, max: 1439 }).map(minute => `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`)
    const zones = fc.constantFrom('UTC', 'Europe/Lisbon', 'Australia/Adelaide', 'America/Halifax', 'Pacific/Apia')
    const instants = fc.integer({ min: at('2026-01-01T00:00:00Z'), max: at('2028-01-01T00:00:00Z') })
    fc.assert(fc.property(clock, clock, zones, instants, fc.integer({ min: 0, max: 172_800 }), (from, to, zone, due, ahead) => {
      fc.pre(from !== to)
      const quiet = { from, to }
      const until = quietUntil(due, quiet, zone)
      const minute = zoneOf(zone).toLocal(due) % 86_400
      const [start, end] = [from, to].map(text => Number(text.slice(0, 2)) * 3600 + Number(text.slice(3)) * 60) as [number, number]
      const isQuiet = start < end ? start <= minute && minute < end : minute >= start || minute < end
      const changesNear = zoneOf(zone).toLocal(due - 86_400) - zoneOf(zone).toLocal(due + 86_400) !== -172_800
      if (!changesNear) expect(until !== null).toBe(isQuiet)
      if (until !== null) expect(quietUntil(until, quiet, zone)).toBeNull()
      const sent = outsideQuietHours(due, due + ahead, quiet, zone)
      // Between two quiet times of less than ten minutes there is no room before them.
      if (sent > due || sent === due) expect(quietUntil(sent, quiet, zone)).toBeNull()
      else expect(until).toBeGreaterThanOrEqual(due + ahead)
    }))
  })

  it('need two different times of day', () => {
    expect(quietHoursSchema.safeParse(night).success).toBe(true)
    for (const wrong of [{ from: '08:00', to: '08:00' }, { from: '25:00', to: '08:00' }, { from: 'night', to: '08:00' }])
      expect(quietHoursSchema.safeParse(wrong).success).toBe(false)
  })
})
