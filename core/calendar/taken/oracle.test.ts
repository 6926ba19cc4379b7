import fc from 'fast-check'
import { expect, it } from 'vitest'
import { plainTaken } from '../../../tests/oracle/calendar'
import { calendarCases, calendarFileOf } from '../../../tests/oracle/calendar-cases'
import { zoneOf } from '../../time/zone'
import { NotACalendar, readCalendar, takenTime } from '.'

const settings = { zone: null, hostZone: zoneOf('UTC'), addresses: new Set<string>(), countsAllDay: true, countsUnconfirmed: true }

/** The long run asks far more. */
const RUNS = process.env['TEMPORIA_LONG'] ? 5000 : 60

it(`agrees with recurrence worked out day by day, on ${RUNS} random entries`, () => {
  let found = 0
  fc.assert(fc.property(calendarCases, ({ entry, from, to }) => {
    const { busy, unread } = takenTime([readCalendar(calendarFileOf(entry))], { from, to }, settings)
    found += busy.length
    expect(unread).toEqual([])
    expect(busy).toEqual(plainTaken(entry, from, to))
  }), { numRuns: RUNS })
  expect(found, 'intervals met on the way').toBeGreaterThan(RUNS)
}, 1_800_000)

/** Ways in which a file can be spoiled, at a place from 0 to 1 of it. */
const harms: ((text: string, at: number, more: string) => string)[] = [
  (text, at) => text.slice(0, at * text.length),
  (text, at, more) => text.slice(0, at * text.length) + more + text.slice(at * text.length),
  (text, at, more) => text.slice(0, at * text.length) + text.slice(at * text.length + more.length),
  (text, at) => {
    const lines = text.split('\n')
    const index = Math.floor(at * (lines.length - 1))
    return [...lines.slice(0, index), lines[index + 1] ?? '', lines[index] ?? '', ...lines.slice(index + 2)].join('\n')
  },
  (text, at, more) => text.replace(/\d/g, digit => ((Number(digit) * 7 + more.length) % 10 < at * 10 ? digit : '9')),
]

it('neither throws nor hangs on files that were spoiled', () => {
  const more = fc.oneof(fc.string({ maxLength: 12 }), fc.constantFrom('\n', ':', ';', ',', '"', '=', '\u0000', 'BEGIN:VEVENT\n', 'T', '-', '99999999999'))
  const harm = fc.tuple(fc.nat(harms.length - 1), fc.double({ min: 0, max: 1, noNaN: true }), more)
  fc.assert(fc.property(calendarCases, fc.array(harm, { minLength: 1, maxLength: 6 }), ({ entry, from, to }, all) => {
    const text = all.reduce((spoiled, [which, at, more]) => harms[which]?.(spoiled, at, more) ?? spoiled, calendarFileOf(entry))
    try {
      const { busy } = takenTime([readCalendar(text)], { from, to }, settings)
      for (let index = 1; index < busy.length; index++) expect(busy[index]).toBeGreaterThan(busy[index - 1] ?? 0)
    } catch (error) {
      if (!(error instanceof NotACalendar)) throw error
    }
  }), { numRuns: RUNS })
}, 1_800_000)
