import fc from 'fast-check'
import OpeningHours from 'opening_hours'
import { describe, expect, it } from 'vitest'
import { thrown } from '../../tests/support/thrown'
import { formatHoursTextError } from '../catalogue/hours'
import { isOpenAt, paintDay } from '../hours/week'
import { formatHours, HoursTextError, parseHours, describeWeek, type WeeklyWindow } from './hours-text'

const quarter = fc.integer({ min: 0, max: 95 })
const strokes = fc.array(fc.record({ day: fc.integer({ min: 0, max: 6 }), from: quarter, length: fc.integer({ min: 1, max: 30 }) }), {
  maxLength: 10,
})
/** A Monday, without a clock change in its week. */
const MONDAY = new Date(2027, 5, 7)

describe('typed hours', () => {
  it('mean the same to another reader of the notation', () => {
    fc.assert(fc.property(strokes, (painted) => {
      const windows = painted.reduce<WeeklyWindow[]>(
        (week, { day, from, length }) => paintDay(week, day, from * 15, Math.min(1440, (from + length) * 15), true),
        [],
      )
      const text = formatHours(windows)
      expect(parseHours(text)).toEqual(windows)
      if (text === '') return
      const other = new OpeningHours(text)
      for (let day = 0; day < 7; day++) {
        for (let slot = 0; slot < 96; slot++) {
          const at = new Date(MONDAY.getFullYear(), MONDAY.getMonth(), MONDAY.getDate() + day, 0, slot * 15 + 1)
          expect(other.getState(at), `${text} on day ${day} at ${slot * 15}`).toBe(isOpenAt(windows, day, slot * 15))
        }
      }
    }), { numRuns: 25 })
  })

  it.each([
    ['Mo-Th 09:00-12:30,13:30-17:00; Fr 10:00-13:00', 'Monday to Thursday 9:00–12:30 and 13:30–17:00; Friday 10:00–13:00'],
    ['Tu-Th 09:00-16:00', 'Tuesday to Thursday 9:00–16:00'],
    ['Mo,We 08:15-24:00', 'Monday and Wednesday 8:15–24:00'],
  ])('reads, writes and says %s', (text, said) => {
    const windows = parseHours(text)
    expect(formatHours(windows)).toBe(text)
    expect(describeWeek(windows, 'en-GB')).toBe(said)
  })

  it('takes sloppy typing, days across the week’s end, and a later rule over an earlier one', () => {
    expect(formatHours(parseHours('sa-mo 9:00 - 10:00; mo off'))).toBe('Sa-Su 09:00-10:00')
    expect(parseHours('')).toEqual([])
    expect(formatHours(parseHours('24/7'))).toBe('Mo-Su 00:00-24:00')
    expect(formatHours(parseHours('10:00-12:00; Su closed'))).toBe('Mo-Sa 10:00-12:00')
  })

  it.each([
    ['Mo 25:00-26:00', 'not a time of day'],
    ['Mo 17:00-09:00', 'ends before it starts'],
    ['Mo 09:00-12:00,11:00-13:00', 'overlap'],
    ['Xx 09:00-12:00', 'not a day'],
    ['weekdays 09:00-12:00', 'not days followed by hours'],
    ['Mo-Fr 09:00-17:00; PH off', 'holidays, single dates'],
    ['Mo[1] 09:00-12:00', 'recurring windows are chosen separately'],
    ['Mo 9-12', 'not hours'],
  ])('refuses %s in words', (text, words) => {
    expect(formatHoursTextError(thrown(HoursTextError, () => parseHours(text)))).toContain(words)
  })

  it('are read or refused in words whatever is typed, and what was read is written back meaning the same', () => {
    const piece = fc.constantFrom(
      'Mo',
      'Tu',
      'Su',
      'mo',
      'PH',
      '09:00',
      '9:00',
      '24:00',
      '00:00',
      '13:30',
      '25:99',
      '-',
      '–',
      ',',
      ';',
      ' ',
      '  ',
      'off',
      'closed',
      '24/7',
      '[1]',
      '😀',
      '\n',
      '0',
      ':',
    )
    let read = 0
    fc.assert(fc.property(fc.array(piece, { maxLength: 9 }), (pieces) => {
      try {
        const windows = parseHours(pieces.join(''))
        expect(parseHours(formatHours(windows))).toEqual(windows)
        read++
      } catch (error) {
        expect(error).toBeInstanceOf(HoursTextError)
      }
    }), { numRuns: 5000 })
    expect(read).toBeGreaterThan(50)
  })
})
