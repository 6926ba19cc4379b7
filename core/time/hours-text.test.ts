import { describe, expect, it } from 'vitest'
import { formatHours, HoursTextError, parseHours, sayHoursOfWeek } from './hours-text'

describe('typed hours', () => {
  it.each([
    ['Mo-Th 09:00-12:30,13:30-17:00; Fr 10:00-13:00', 'Monday to Thursday 9:00–12:30 and 13:30–17:00; Friday 10:00–13:00'],
    ['Tu-Th 09:00-16:00', 'Tuesday to Thursday 9:00–16:00'],
    ['Mo,We 08:15-24:00', 'Monday and Wednesday 8:15–24:00'],
  ])('reads, writes and says %s', (text, said) => {
    const windows = parseHours(text)
    expect(formatHours(windows)).toBe(text)
    expect(sayHoursOfWeek(windows)).toBe(said)
  })

  it('takes sloppy typing, days across the week’s end, and a later rule over an earlier one', () => {
    expect(formatHours(parseHours('sa-mo 9:00 - 10:00; mo off'))).toBe('Sa-Su 09:00-10:00')
    expect(parseHours('')).toEqual([])
  })

  it.each([
    ['Mo 25:00-26:00', 'not a time of day'],
    ['Mo 17:00-09:00', 'ends before it starts'],
    ['Mo 09:00-12:00,11:00-13:00', 'overlap'],
    ['Xx 09:00-12:00', 'not a day'],
    ['09:00-12:00', 'not days followed by hours'],
    ['Mo 9-12', 'not hours'],
  ])('refuses %s in words', (text, words) => {
    expect(() => parseHours(text)).toThrow(HoursTextError)
    expect(() => parseHours(text)).toThrow(words)
  })
})
