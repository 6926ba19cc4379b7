import { describe, expect, it } from 'vitest'
import { instantToSeconds } from './civil'
import { nextClockChange, sayCount, sayDay, sayDifference, sayEvery, sayHour, sayHours, sayList, sayMinutes, sayNearDay, sayTime, sayZone } from './say'

const at = instantToSeconds

describe('times as people say them', () => {
  const moment = at('2027-03-10T09:05:00Z')

  it('follow the reader’s locale and zone', () => {
    expect(sayTime(moment, 'Europe/Lisbon', 'en-GB')).toBe('9:05')
    expect(sayTime(moment, 'Asia/Kolkata', 'en-US')).toBe('2:35 pm')
    expect(sayHour(9, 'en-GB')).toBe('9')
    expect(sayHour(0, 'en-US')).toBe('12 am')
    expect(sayDay(moment, 'Europe/Lisbon', 'en-GB', moment)).toBe('Wednesday 10 March')
    expect(sayDay(moment, 'Europe/Lisbon', 'en-US')).toBe('Wednesday, March 10, 2027')
    expect(sayDay(at('2026-12-31T20:00:00Z'), 'Asia/Kolkata', 'en-GB', at('2026-12-31T10:00:00Z'))).toBe('Friday 1 January 2027')
  })

  it('are near or far from now', () => {
    expect(sayNearDay(at('2027-03-10T23:00:00Z'), 'UTC', 'en-GB', moment)).toBe('Today')
    expect(sayNearDay(at('2027-03-10T23:00:00Z'), 'Asia/Kolkata', 'en-GB', moment)).toBe('Tomorrow')
    expect(sayNearDay(at('2027-03-13T10:00:00Z'), 'UTC', 'en-GB', moment)).toBe('Saturday')
    expect(sayNearDay(at('2027-03-30T10:00:00Z'), 'UTC', 'en-GB', moment)).toBe('Tuesday 30 March')
  })

  it('compare zones, and find the next clock change', () => {
    expect(sayDifference('Asia/Kolkata', 'Europe/Lisbon', moment)).toBe('5½ hours ahead')
    expect(sayDifference('Europe/Lisbon', 'Asia/Kathmandu', moment)).toBe('5¾ hours behind')
    expect(sayDifference('Europe/London', 'Europe/Lisbon', moment)).toBeNull()
    expect(nextClockChange('Europe/Lisbon', moment, moment + 30 * 86_400)).toEqual({ at: at('2027-03-28T01:00:00Z'), minutes: 60 })
    expect(nextClockChange('Australia/Lord_Howe', moment, moment + 30 * 86_400)).toEqual({ at: at('2027-04-03T15:00:00Z'), minutes: -30 })
    expect(nextClockChange('Asia/Kolkata', moment, moment + 30 * 86_400)).toBeNull()
  })

  it('use plain words for lengths, places and lists', () => {
    expect([1, 20, 60, 120].map(sayEvery)).toEqual(['every minute', 'every 20 minutes', 'every hour', 'every 2 hours'])
    expect([20, 60, 90, 1440, 2880].map(sayMinutes)).toEqual(['20 minutes', '1 hour', '90 minutes', '1 day', '2 days'])
    expect([60, 90, 50].map(sayHours)).toEqual(['1 hour', '1½ hours', '50 minutes'])
    expect(['America/Argentina/Buenos_Aires', 'Asia/Calcutta'].map(sayZone)).toEqual(['Buenos Aires', 'Kolkata'])
    expect([sayList(['a']), sayList(['a', 'b', 'c']), sayCount(4), sayCount(40)]).toEqual(['a', 'a, b and c', 'four', '40'])
  })
})
