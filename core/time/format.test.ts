import { describe, expect, it } from 'vitest'
import { instantToSeconds } from './civil'
import {
  nextClockChange,
  formatCount,
  formatDay,
  formatZoneDifference,
  formatRepeatInterval,
  formatHour,
  formatHourCount,
  formatList,
  formatDuration,
  formatRelativeDay,
  formatTime,
  formatZone,
} from './format'

const at = instantToSeconds

describe('times as people say them', () => {
  const moment = at('2027-03-10T09:05:00Z')

  it('follow the reader’s locale and zone', () => {
    expect(formatTime(moment, 'Europe/Lisbon', 'en-GB')).toBe('9:05')
    expect(formatTime(moment, 'Asia/Kolkata', 'en-US')).toBe('2:35 pm')
    expect(formatHour(9, 'en-GB')).toBe('9')
    expect(formatHour(0, 'en-US')).toBe('12 am')
    expect(formatDay(moment, 'Europe/Lisbon', 'en-GB', moment)).toBe('Wednesday 10 March')
    expect(formatDay(moment, 'Europe/Lisbon', 'en-US')).toBe('Wednesday, March 10, 2027')
    expect(formatDay(at('2026-12-31T20:00:00Z'), 'Asia/Kolkata', 'en-GB', at('2026-12-31T10:00:00Z'))).toBe('Friday 1 January 2027')
  })

  it('are near or far from now', () => {
    expect(formatRelativeDay(at('2027-03-10T23:00:00Z'), 'UTC', 'en-GB', moment)).toBe('Today')
    expect(formatRelativeDay(at('2027-03-10T23:00:00Z'), 'Asia/Kolkata', 'en-GB', moment)).toBe('Tomorrow')
    expect(formatRelativeDay(at('2027-03-13T10:00:00Z'), 'UTC', 'en-GB', moment)).toBe('Saturday')
    expect(formatRelativeDay(at('2027-03-30T10:00:00Z'), 'UTC', 'en-GB', moment)).toBe('Tuesday 30 March')
  })

  it('compare zones, and find the next clock change', () => {
    expect(formatZoneDifference('Asia/Kolkata', 'Europe/Lisbon', moment)).toBe('5½ hours ahead')
    expect(formatZoneDifference('Europe/Lisbon', 'Asia/Kathmandu', moment)).toBe('5¾ hours behind')
    expect(formatZoneDifference('Europe/London', 'Europe/Lisbon', moment)).toBeNull()
    expect(nextClockChange('Europe/Lisbon', moment, moment + 30 * 86_400)).toEqual({ at: at('2027-03-28T01:00:00Z'), minutes: 60 })
    expect(nextClockChange('Australia/Lord_Howe', moment, moment + 30 * 86_400)).toEqual({ at: at('2027-04-03T15:00:00Z'), minutes: -30 })
    expect(nextClockChange('Asia/Kolkata', moment, moment + 30 * 86_400)).toBeNull()
  })

  it('use plain words for lengths, places and lists', () => {
    expect([1, 20, 60, 120].map(formatRepeatInterval)).toEqual(['every minute', 'every 20 minutes', 'every hour', 'every 2 hours'])
    expect([20, 60, 90, 1440, 2880].map(formatDuration)).toEqual(['20 minutes', '1 hour', '90 minutes', '1 day', '2 days'])
    expect([60, 90, 50].map(formatHourCount)).toEqual(['1 hour', '1½ hours', '50 minutes'])
    expect(['America/Argentina/Buenos_Aires', 'Asia/Calcutta'].map(formatZone)).toEqual(['Buenos Aires', 'Kolkata'])
    expect([formatList(['a']), formatList(['a', 'b', 'c']), formatCount(4), formatCount(40)]).toEqual(['a', 'a, b and c', 'four', '40'])
  })
})
