import fc from 'fast-check'
import { expect, it } from 'vitest'
import { daysOf } from './civil'
import { dateOfText, formatNumericDate, readDate } from './date-text'

it.each([
  ['14/12/2026', 'en-GB', '2026-12-14'],
  ['12/14/2026', 'en-US', '2026-12-14'],
  ['4.1.27', 'en-GB', '2027-01-04'],
  ['2026-12-14', 'en-US', '2026-12-14'],
  ['14/12/2026', 'en-US', null],
  ['31/02/2027', 'en-GB', null],
  ['soon', 'en-GB', null],
  [' ', 'en-GB', ''],
])('%j is read by %s as %j', (text, locale, date) => {
  expect(dateOfText(text, locale)).toBe(date)
})

it('what is written is read back in every order of the locales', () => {
  fc.assert(fc.property(
    fc.integer({ min: daysOf(1900, 1, 1), max: daysOf(2199, 12, 31) }),
    fc.constantFrom('en-GB', 'en-US', 'en-CA', 'en-ZA', 'en-IN-u-hc-h12'),
    (day, locale) => {
      expect(readDate(formatNumericDate(day, locale), locale)).toBe(day)
    },
  ))
})
