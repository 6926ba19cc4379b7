import fc from 'fast-check'
import { Temporal } from 'temporal-polyfill'
import { describe, expect, it } from 'vitest'
import {
  DAY,
  dateToDays,
  formatDate,
  formatInstant,
  instantToSeconds,
  isoWeekOf,
  parseClock,
  parseDate,
  parseInstant,
  weekdayIndex,
} from './civil'
import { isZoneName, zoneOf } from './zone'

const zones = [
  'Europe/Lisbon',
  'Asia/Kolkata',
  'Australia/Adelaide',
  'Australia/Lord_Howe',
  'America/Halifax',
  'America/St_Johns',
  'Asia/Kathmandu',
  'Africa/Casablanca',
  'America/Sao_Paulo',
  'Pacific/Apia',
  'Asia/Beirut',
  'UTC',
]
const zone = fc.constantFrom(...zones)
const instant = fc.integer({ min: instantToSeconds('2000-01-01T00:00:00Z'), max: instantToSeconds('2040-01-01T00:00:00Z') })
const at = (seconds: number, name: string) => Temporal.Instant.fromEpochMilliseconds(seconds * 1000).toZonedDateTimeISO(name)

describe('civil dates', () => {
  it('counts days as Temporal does, both ways', () => {
    fc.assert(fc.property(fc.integer({ min: -200_000, max: 200_000 }), (days) => {
      const date = Temporal.PlainDate.from('1970-01-01').add({ days })
      fc.pre(date.year >= 0 && date.year <= 9999)
      expect(formatDate(days)).toBe(date.toString())
      expect(dateToDays(date.toString())).toBe(days)
      expect(weekdayIndex(days)).toBe(date.dayOfWeek - 1)
      expect(isoWeekOf(days)).toBe(days - date.dayOfWeek + 1)
    }))
  })

  it.each(['2027-02-29', '2027-13-01', '2027-1-1', 'tomorrow', '2027-04-31'])('refuses the date %s', text =>
    expect(parseDate(text)).toBeNull(),
  )
  it.each(['2027-03-08T09:12:00', '2027-03-08T09:12:00.5Z', '2027-03-08T24:00:00Z', '2027-03-08 09:12:00Z'])(
    'refuses the instant %s',
    text => expect(parseInstant(text)).toBeNull(),
  )

  it('takes 24:00 only as an end', () => {
    expect(parseClock('24:00')).toBeNull()
    expect(parseClock('24:00', true)).toBe(1440)
    expect(parseClock('9:00')).toBeNull()
  })
})

describe('zones', () => {
  it('agrees with Temporal on what clocks show', () => {
    fc.assert(fc.property(zone, instant, (name, seconds) => {
      expect(zoneOf(name).offsetAt(seconds)).toBe(at(seconds, name).offsetNanoseconds / 1e9)
    }), { numRuns: 2000 })
  })

  it('agrees with Temporal on which instant a wall clock means, in gaps and overlaps too', () => {
    fc.assert(fc.property(zone, instant, (name, local) => {
      const plain = Temporal.Instant.fromEpochMilliseconds(local * 1000).toZonedDateTimeISO('UTC').toPlainDateTime()
      expect(formatInstant(zoneOf(name).toInstant(local))).toBe(
        formatInstant(plain.toZonedDateTime(name, { disambiguation: 'compatible' }).epochMilliseconds / 1000),
      )
    }), { numRuns: 2000 })
  })

  it('moves a skipped time forward and takes the first of two', () => {
    const lisbon = zoneOf('Europe/Lisbon')
    const local = (text: string) => instantToSeconds(text)
    expect(formatInstant(lisbon.toInstant(local('2027-03-28T01:30:00Z')))).toBe('2027-03-28T01:30:00Z')
    expect(lisbon.toLocal(lisbon.toInstant(local('2027-03-28T01:30:00Z')))).toBe(local('2027-03-28T02:30:00Z'))
    expect(formatInstant(lisbon.toInstant(local('2027-10-31T01:30:00Z')))).toBe('2027-10-31T00:30:00Z')
  })

  it('knows the date that Pacific/Apia skipped', () => {
    const apia = zoneOf('Pacific/Apia')
    const skipped = dateToDays('2011-12-30')
    expect(apia.hasDay(skipped)).toBe(false)
    expect(apia.startOfDay(skipped)).toBe(apia.startOfDay(skipped + 1))
    expect(apia.hasDay(skipped - 1)).toBe(true)
  })

  it('starts a day where the clock first shows it, even when midnight is skipped', () => {
    const paulo = zoneOf('America/Sao_Paulo')
    const day = dateToDays('2018-11-04')
    expect(formatInstant(paulo.startOfDay(day))).toBe('2018-11-04T03:00:00Z')
    expect(paulo.toLocal(paulo.startOfDay(day)) - day * DAY).toBe(3600)
  })

  it.each(['Europe/Atlantis', '+01:00', '', 'Europe/Lisbon '])('refuses %j as a name', name => expect(isZoneName(name)).toBe(false))
})
