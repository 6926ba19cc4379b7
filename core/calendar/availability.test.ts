import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type StoredPlan, storedPlanSchema, plainPlan } from '../hours/plan'
import { planHours } from '../openings/windows'
import { instantToSeconds, weekdays } from '../time/civil'
import { parseHours } from '../time/hours-text'
import { thrown } from '../../tests/support/thrown'
import { formatAvailabilityFault } from '../catalogue/hours'
import { AvailabilityError, readAvailability, writeAvailability } from './availability'

const STAMP = '2027-03-08T09:00:00Z'
const [from, to] = [instantToSeconds('2027-01-01T00:00:00Z'), instantToSeconds('2027-12-31T00:00:00Z')]
const hours = (plan: StoredPlan) => planHours(plan, from, to).filter(bound => bound > from + 86_400 && bound < to - 86_400)

const clock = fc
  .integer({ min: 0, max: 23 * 4 })
  .map(quarter => `${String(Math.floor(quarter / 4)).padStart(2, '0')}:${String((quarter % 4) * 15).padStart(2, '0')}`)
const window = fc.tuple(clock, clock).filter(([a, b]) => a !== b).map(([a, b]) => (a < b ? { from: a, to: b } : { from: b, to: a }))
const date = fc.integer({ min: 0, max: 360 }).map(day => new Date(Date.UTC(2027, 0, 1 + day)).toISOString().slice(0, 10))
const plans: fc.Arbitrary<StoredPlan> = fc.record({
  timeZone: fc.constantFrom('Europe/Lisbon', 'Australia/Adelaide', 'America/Halifax'),
  weekly: fc.array(
    fc.tuple(fc.uniqueArray(fc.constantFrom(...weekdays), { minLength: 1 }), window).map(([days, one]) => ({ days, ...one })),
    { maxLength: 4 },
  ),
  recurring: fc.array(
    fc
      .tuple(fc.constantFrom('FREQ=WEEKLY;INTERVAL=2;BYDAY=TH', 'FREQ=MONTHLY;BYDAY=1MO', 'FREQ=DAILY;INTERVAL=9'), date, window)
      .map(([rrule, start, one]) => ({ rrule, start, ...one })),
    { maxLength: 2 },
  ),
  exceptions: fc.uniqueArray(
    fc.tuple(date, fc.array(window, { maxLength: 2 })).map(([day, windows]) => ({ date: day, windows })),
    { selector: item => item.date, maxLength: 5 },
  ),
  valid: fc.constantFrom({ from: null, to: null }, { from: '2027-02-01', to: null }, { from: null, to: '2027-10-31' }),
  holidays: fc.constant([]),
})

describe('hours as VAVAILABILITY', () => {
  it('come back meaning the same', () => {
    fc.assert(fc.property(plans, (plan) => {
      expect(hours(readAvailability(writeAvailability('Hours', plan, {}, 'u1', STAMP), 'UTC').plan)).toEqual(hours(plan))
    }), { numRuns: 150 })
  })

  it('are written as RFC 7953 says', () => {
    const plan = {
      ...plainPlan('Europe/Lisbon', parseHours('Mo-Th 09:00-12:30')),
      exceptions: [{ date: '2027-03-09', windows: [] }],
      valid: { from: '2027-01-01', to: '2027-06-30' },
    }
    const text = writeAvailability('Usual, hours', plan, {}, 'u1', STAMP)
    for (const line of [
      'BEGIN:VAVAILABILITY',
      'SUMMARY:Usual\\, hours',
      'DTSTART;TZID=Europe/Lisbon:20270101T000000',
      'DTEND;TZID=Europe/Lisbon:20270701T000000',
      'BEGIN:AVAILABLE',
      'DTSTART;TZID=Europe/Lisbon:20240101T090000',
      'DTEND;TZID=Europe/Lisbon:20240101T123000',
      'RRULE:FREQ=WEEKLY;BYDAY=MO,TU,WE,TH',
      'EXDATE;TZID=Europe/Lisbon:20270309T090000',
    ])
      expect(text.split('\r\n')).toContain(line)
  })

  it('write holidays out as the days they close', () => {
    const plan = { ...plainPlan('Europe/Lisbon', parseHours('Mo-Fr 09:00-17:00')), holidays: [{ country: 'PT', region: null }] }
    const read = readAvailability(
      writeAvailability('Hours', plan, { PT: [{ date: '2027-03-26', name: 'Good Friday' }] }, 'u1', STAMP),
      'UTC',
    ).plan
    expect(read.exceptions).toEqual([{ date: '2027-03-26', windows: [] }])
  })

  it('of others are read: durations, UTC, a single date', () => {
    const text = [
      'BEGIN:VCALENDAR',
      'VERSION:2.0',
      'BEGIN:VAVAILABILITY',
      'UID:1',
      'BEGIN:AVAILABLE',
      'UID:2',
      'DTSTART:20270308T090000Z',
      'DURATION:PT2H30M',
      'RRULE:FREQ=WEEKLY',
      'END:AVAILABLE',
      'BEGIN:AVAILABLE',
      'UID:3',
      'DTSTART:20270310T100000Z',
      'DTEND:20270310T110000Z',
      'END:AVAILABLE',
      'END:VAVAILABILITY',
      'END:VCALENDAR',
    ].join('\r\n')
    expect(readAvailability(text, 'Europe/Lisbon')).toEqual({
      name: 'Imported hours',
      plan: {
        ...plainPlan('UTC', []),
        recurring: [{ rrule: 'FREQ=WEEKLY;BYDAY=MO', start: '2027-03-08', from: '09:00', to: '11:30' }],
        exceptions: [{ date: '2027-03-10', windows: [{ from: '10:00', to: '11:00' }] }],
      },
    })
  })

  it('that cannot be told as a plan are refused in words', () => {
    const wrap = (...lines: string[]) =>
      ['BEGIN:VCALENDAR', 'BEGIN:VAVAILABILITY', ...lines, 'END:VAVAILABILITY', 'END:VCALENDAR'].join('\r\n')
    const refusals: [string, RegExp][] = [
      ['hello', /not an iCalendar file/],
      ['BEGIN:VCALENDAR\r\nEND:VCALENDAR', /no availability/],
      [wrap('BEGIN:AVAILABLE', 'DTSTART:20270308T090000Z', 'END:AVAILABLE'), /without an end/],
      [wrap('BEGIN:AVAILABLE', 'DTSTART:20270308T220000Z', 'DURATION:PT4H', 'END:AVAILABLE'), /across midnight/],
      [wrap('BEGIN:AVAILABLE', 'DTSTART;TZID=Nowhere/Land:20270308T090000', 'DURATION:PT1H', 'END:AVAILABLE'), /not a known time zone/],
      [
        wrap(
          'BEGIN:AVAILABLE',
          'DTSTART;TZID=Europe/Oslo:20270308T090000',
          'DURATION:PT1H',
          'END:AVAILABLE',
          'BEGIN:AVAILABLE',
          'DTSTART:20270309T090000Z',
          'DURATION:PT1H',
          'END:AVAILABLE',
        ),
        /several time zones/,
      ],
      [wrap('BEGIN:AVAILABLE', 'DTSTART:20270308T090000Z', 'DURATION:PT1H', 'RRULE:FREQ=HOURLY', 'END:AVAILABLE'), /FREQ/],
    ]
    for (const [text, words] of refusals) {
      expect(formatAvailabilityFault(thrown(AvailabilityError, () => readAvailability(text, 'UTC')).fault)).toMatch(words)
    }
  })

  it('spoilt in any way are read as a plan or refused in words', () => {
    const line = fc.constantFrom(
      'BEGIN:AVAILABLE',
      'END:AVAILABLE',
      'END:VAVAILABILITY',
      'DTSTART:',
      'DTSTART:20271332T250000Z',
      'DTSTART;VALUE=DATE:20270308',
      'DTEND:soon',
      'DTEND;TZID=Mars/Base:20270308T100000',
      'DURATION:PT',
      'DURATION:-P1D',
      'DURATION:P99999D',
      'RRULE:FREQ=',
      'RRULE:FREQ=SECONDLY',
      'RRULE:FREQ=WEEKLY;UNTIL=20270401T000000Z',
      'RRULE:FREQ=WEEKLY;INTERVAL=0',
      'RRULE:X',
      'EXDATE:never',
      'EXDATE;TZID=Europe/Lisbon:20270309T090000',
      ';',
      ' folded',
      '\u0000',
    )
    fc.assert(fc.property(plans, fc.nat(), fc.integer({ min: 0, max: 2 }), line, (plan, where, taken, put) => {
      const lines = writeAvailability('Hours', plan, {}, 'u1', STAMP).split('\r\n')
      lines.splice(where % lines.length, taken, put)
      try {
        expect(storedPlanSchema.safeParse(readAvailability(lines.join('\r\n'), 'UTC').plan).success).toBe(true)
      } catch (error) {
        expect(error, lines.join('\n')).toBeInstanceOf(AvailabilityError)
        expect(formatAvailabilityFault((error as AvailabilityError).fault)).toMatch(/^[A-Z“].*\w/)
      }
    }), { numRuns: 1500 })
  })
})
