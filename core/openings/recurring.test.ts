import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { rule } from '../../tests/oracle/cases'
import { ruleDates } from '../../tests/oracle/rule'
import { dateToDays, formatDate, instantToSeconds } from '../time/civil'
import { recurringDays } from './recurring'

const at = instantToSeconds('2027-03-01T00:00:00Z')
const yields = (text: string, start: string, first: string, last: string) =>
  recurringDays(text, dateToDays(start), dateToDays(first), dateToDays(last)).map(formatDate)

describe('recurring dates', () => {
  it('are those that the rule yields date by date', () => {
    const today = at / 86_400
    fc.assert(
      fc.property(
        rule(at),
        fc.integer({ min: -500, max: 100 }),
        fc.integer({ min: -100, max: 400 }),
        fc.integer({ min: 0, max: 60 }),
        (text, start, first, length) => {
          const [from, to] = [formatDate(today + first), formatDate(today + first + length)]
          const expected = [...ruleDates(text, formatDate(today + start), to)].filter(date => date >= from && date <= to)
          expect(yields(text, formatDate(today + start), from, to)).toEqual(expected)
        },
      ),
      { numRuns: 1500 },
    )
  }, 60_000)

  it.each<[string, string, string[]]>([
    ['FREQ=MONTHLY;BYDAY=MO,WE;BYSETPOS=2', '2027-01-20', ['2027-02-03', '2027-03-03']],
    ['FREQ=WEEKLY;BYDAY=MO;COUNT=2', '2027-01-06', ['2027-01-11', '2027-01-18']],
    ['FREQ=MONTHLY', '2027-01-31', ['2027-01-31', '2027-03-31']],
    ['FREQ=YEARLY;BYDAY=FR,-52TU;COUNT=3', '2027-01-01', ['2027-01-01', '2027-01-05', '2027-01-08']],
    [
      'FREQ=YEARLY;BYMONTH=3;BYDAY=WE,1MO',
      '2027-01-01',
      ['2027-03-01', '2027-03-03', '2027-03-10', '2027-03-17', '2027-03-24', '2027-03-31'],
    ],
    ['FREQ=YEARLY;BYDAY=SA,-1SU;COUNT=1', '2027-01-01', ['2027-01-02']],
    ['FREQ=YEARLY;BYDAY=MO,-2SA;BYSETPOS=-1;COUNT=1', '2026-12-31', []],
    ['FREQ=YEARLY;BYDAY=53MO', '2025-01-01', []],
    ['FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30', '2027-01-01', []],
  ])('%s from %s on', (text, start, dates) => expect(yields(text, start, '2027-01-01', '2027-03-31')).toEqual(dates))
})
