import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dateToDays, instantToSeconds } from '../time/civil'
import { layTimetable, otherClock } from '.'
import { countWithin, markStarts } from './marks'
import { suggestStarts } from './suggestions'

const at = (text: string) => ({ at: instantToSeconds(text), mark: undefined })

describe('the timetable', () => {
  it('has a row a day, a column an hour that has any departure, and the minutes in each cell', () => {
    const day = dateToDays('2027-03-09')
    const { hours, rows } = layTimetable(
      [at('2027-03-09T08:30:00Z'), at('2027-03-09T09:50:00Z'), at('2027-03-11T08:10:00Z')],
      'Asia/Kolkata',
      'Europe/Lisbon',
      day,
      day + 2,
    )
    expect(hours).toEqual([13, 14, 15])
    expect(rows.map(row => row.count)).toEqual([2, 0, 1])
    expect(rows[0]?.cells.map(cell => cell.departures.map(departure => departure.minute))).toEqual([[], [0], [20]])
    expect(rows[2]?.cells[0]?.departures.map(departure => departure.minute)).toEqual([40])
  })

  it('knows on each day how far the zones are apart', () => {
    const day = dateToDays('2027-03-27')
    const { rows } = layTimetable([at('2027-03-27T09:00:00Z'), at('2027-03-29T09:00:00Z')], 'Asia/Kolkata', 'Europe/Lisbon', day, day + 2)
    expect(rows.map(row => row.ahead)).toEqual([330, 270, 270])
    expect(otherClock(13, 330)).toEqual({ minutes: 450, dayShift: 0 })
    expect(otherClock(1, 330)).toEqual({ minutes: 1170, dayShift: -1 })
    expect(otherClock(20, -600)).toEqual({ minutes: 360, dayShift: 1 })
  })

  it('says of every start within a span whether a change leaves, adds or takes it', () => {
    const ascending = fc.uniqueArray(fc.integer({ min: 0, max: 60 }), { maxLength: 40 }).map(starts => starts.sort((a, b) => a - b))
    fc.assert(
      fc.property(
        ascending,
        ascending,
        fc.integer({ min: -5, max: 40 }),
        fc.integer({ min: 0, max: 40 }),
        (before, after, from, length) => {
          const marked = [...new Set([...before, ...after])]
            .sort((a, b) => a - b)
            .filter(at => at >= from && at < from + length)
            .map(at => ({ at, mark: !before.includes(at) ? 'new' : after.includes(at) ? 'stays' : 'gone' }))
          expect(markStarts(before, Float64Array.from(after), from, from + length)).toEqual(marked)
          expect(countWithin(after, from, from + length)).toBe(marked.filter(start => start.mark !== 'gone').length)
        },
      ),
    )
  })

  it('suggests the soonest, the next day, and the day of most choice', () => {
    const starts = [
      '2027-03-09T09:00:00Z',
      '2027-03-10T10:00:00Z',
      '2027-03-11T09:00:00Z',
      '2027-03-12T08:00:00Z',
      '2027-03-12T09:00:00Z',
    ].map(instantToSeconds)
    expect(suggestStarts(starts, 'UTC').map(start => [start.kind, start.count])).toEqual([
      ['soonest', 1],
      ['nextDay', 1],
      ['mostChoice', 2],
    ])
    expect(suggestStarts([], 'UTC')).toEqual([])
  })
})
