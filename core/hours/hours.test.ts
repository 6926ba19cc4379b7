import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dateToDays, weekdays } from '../time/civil'
import { minutesPerDay, parseHours } from '../time/hours-text'
import { enginePlan, plainPlan } from './plan'
import { type CommonRule, readRule, describeRule, writeRule } from './rule'
import { copyDay, isOpenAt, paintDay } from './week'
import { exceptionRuns, plannedDays, setExceptions } from './year'

const quarter = fc.integer({ min: 0, max: 95 }).map(value => value * 15)
const stroke = fc.record({
  day: fc.integer({ min: 0, max: 6 }),
  from: quarter,
  length: fc.integer({ min: 1, max: 20 }),
  open: fc.boolean(),
})
const plan = plainPlan('Europe/Lisbon', parseHours('Mo-Fr 09:00-17:00'))

describe('painting on a week', () => {
  it('opens and closes exactly the quarters it goes over', () => {
    fc.assert(fc.property(fc.array(stroke, { maxLength: 12 }), (strokes) => {
      let windows = parseHours('Mo-We 09:00-12:00')
      const open = minutesPerDay(windows).map(pairs =>
        Array.from({ length: 96 }, (_, i) => pairs.some(([from, to]) => from <= i * 15 && i * 15 < to)),
      )
      for (const { day, from, length, open: opens } of strokes) {
        const to = Math.min(1440, from + length * 15)
        windows = paintDay(windows, day, from, to, opens)
        for (let i = from / 15; i < to / 15; i++) open[day]?.splice(i, 1, opens)
      }
      expect(weekdays.map((_, day) => Array.from({ length: 96 }, (_unused, i) => isOpenAt(windows, day, i * 15)))).toEqual(open)
    }))
  })

  it('copies a day to others and leaves the rest', () => {
    expect(copyDay(parseHours('Mo 09:00-12:00,13:00-15:00; Tu,Sa 10:00-11:00'), 0, [1, 2])).toEqual(
      parseHours('Mo-We 09:00-12:00,13:00-15:00; Sa 10:00-11:00'),
    )
  })
})

describe('exceptions over a year', () => {
  it('are set for a stretch, replace what was there, and are told as stretches', () => {
    const [first, last] = [dateToDays('2027-12-24'), dateToDays('2028-01-06')]
    const closed = setExceptions(plan, first, last, [])
    expect(exceptionRuns(closed)).toEqual([{ first, last, windows: [] }])
    const half = setExceptions(closed, last, last, [{ from: '10:00', to: '13:00' }])
    expect(exceptionRuns(half)).toEqual([
      { first, last: last - 1, windows: [] },
      { first: last, last, windows: [{ from: '10:00', to: '13:00' }] },
    ])
    expect(setExceptions(half, first, last, null)).toEqual(plan)
  })

  it('stand beside holidays, weekdays, the plan’s own dates and clock changes', () => {
    const stored = setExceptions(
      { ...plan, holidays: [{ country: 'PT', region: null }], valid: { from: null, to: '2027-04-05' } },
      dateToDays('2027-03-30'),
      dateToDays('2027-03-30'),
      [{ from: '10:00', to: '11:00' }],
    )
    const days = plannedDays(
      stored,
      { PT: [{ date: '2027-03-26', name: 'Good Friday' }] },
      dateToDays('2027-03-25'),
      dateToDays('2027-04-06'),
    )
    expect(days.map(day => day.kind)).toEqual([
      'open',
      'holiday',
      'closed',
      'closed',
      'open',
      'exceptionOpen',
      'open',
      'open',
      'open',
      'closed',
      'closed',
      'open',
      'outside',
    ])
    expect(days.find(day => day.holiday)?.holiday).toBe('Good Friday')
    expect(days.filter(day => day.clockChange).map(day => day.day)).toEqual([dateToDays('2027-03-28')])
  })

  it('win over holidays, which close their day in what the engine is given', () => {
    const holidays = { 'CA-NS': [{ date: '2027-02-15', name: 'Heritage Day' }, { date: '2027-03-26', name: 'Good Friday' }] }
    const stored = {
      ...plan,
      holidays: [{ country: 'CA', region: 'NS' }],
      exceptions: [{ date: '2027-03-26', windows: [{ from: '09:00', to: '10:00' }] }],
    }
    expect(enginePlan(stored, holidays)).not.toHaveProperty('holidays')
    expect(enginePlan(stored, holidays).exceptions).toEqual([
      { date: '2027-03-26', windows: [{ from: '09:00', to: '10:00' }] },
      { date: '2027-02-15', windows: [] },
    ])
  })
})

describe('rules for people', () => {
  const day = fc.constantFrom(...weekdays)
  const rule = fc.oneof<fc.Arbitrary<CommonRule>[]>(
    fc.record({
      kind: fc.constant('weeks' as const),
      every: fc.integer({ min: 1, max: 8 }),
      days: fc.uniqueArray(day, { minLength: 1 }).map(days => weekdays.filter(weekday => days.includes(weekday))),
    }),
    fc.record({ kind: fc.constant('monthWeekday' as const), nth: fc.constantFrom(1, 2, 3, 4, -1), day }),
    fc.record({ kind: fc.constant('monthDay' as const), day: fc.integer({ min: 1, max: 31 }) }),
    fc.record({ kind: fc.constant('days' as const), every: fc.integer({ min: 1, max: 30 }) }),
  )

  it('are read back as they were written', () => {
    fc.assert(fc.property(rule, (item) => {
      expect(readRule(writeRule(item))).toEqual(item)
    }))
  })

  it('are said as people say them', () => {
    expect(describeRule('FREQ=WEEKLY;INTERVAL=2;BYDAY=TH')).toBe('every other Thursday')
    expect(describeRule('FREQ=MONTHLY;BYDAY=1MO')).toBe('the first Monday of the month')
    expect(describeRule('FREQ=MONTHLY;BYDAY=-1FR')).toBe('the last Friday of the month')
    expect(describeRule('FREQ=YEARLY;BYDAY=20MO')).toBe('by a rule of its own')
    expect(describeRule('FREQ=WEEKLY;BYDAY=TH;COUNT=3')).toBe('by a rule of its own')
  })
})
