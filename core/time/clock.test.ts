import { expect, it } from 'vitest'
import { formatClock } from './civil'
import { readClock } from './clock'
import { formatTimeOfDay } from './format'

it.each([
  ['9', '09:00'],
  ['9:30', '09:30'],
  ['9.30', '09:30'],
  ['09h05', '09:05'],
  ['17h', '17:00'],
  ['0930', '09:30'],
  ['930', '09:30'],
  [' 5 pm ', '17:00'],
  ['5:15 p.m.', '17:15'],
  ['12 am', '00:00'],
  ['12:45pm', '12:45'],
  ['0:00', '00:00'],
])('%s is a time of day', (typed, clock) => {
  expect(formatClock(readClock(typed) ?? -1)).toBe(clock)
})

it.each(['', 'noon', '25', '9:60', '24:00', '13 pm', '0 am', '9:3', '-9', '9:30:00', '12345'])('“%s” is none', (typed) => {
  expect(readClock(typed)).toBeNull()
})

it('ends a day with 24:00', () => {
  expect(readClock('24:00', true)).toBe(1440)
  expect(readClock('24:30', true)).toBeNull()
})

it.each(['en-GB', 'en-US'])('reads every minute of the day as said in %s', (locale) => {
  for (let minute = 0; minute < 1440; minute++)
    expect(readClock(formatTimeOfDay(minute, locale)), formatTimeOfDay(minute, locale)).toBe(minute)
})
