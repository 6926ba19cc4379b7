import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleDefinition } from '../../tests/support/samples'
import { definitionSchema } from '../event-type/definition'
import { inputFaults } from '../validation'
import { currencies, formatMoney, MOST_AMOUNT, parseAmount, typedAmount } from './money'
import { standingOf } from './payment'
import { costOf, describePrice, describeRefund, type Price, priceSchema, refundOf } from './price'

const price = (change: Partial<Price> = {}): Price => ({
  amount: 12_000, currency: 'EUR', per: 'booking', when: 'booking', refund: { allUntilMinutes: 2880, afterPercent: 50 }, ...change,
})

describe('amounts', () => {
  it.each([
    [12_000, 'EUR', 'en-GB', '€120.00'], [12_050, 'EUR', 'en-GB', '€120.50'], [500, 'JPY', 'en-GB', 'JP¥500'], [1234, 'KWD', 'en-GB', 'KWD 1.234'],
  ])('are shown with the digits of their currency', (amount, currency, locale, text) => {
    expect(formatMoney({ amount, currency }, locale).replace(/\u00a0/g, ' ')).toBe(text)
  })

  it('are read as they are typed', () => {
    fc.assert(fc.property(fc.integer({ min: 1, max: MOST_AMOUNT }), fc.constantFrom(...currencies), (amount, currency) => {
      expect(parseAmount(typedAmount(amount, currency), currency)).toBe(amount)
    }))
    expect(parseAmount('120,5', 'EUR')).toBe(12_050)
    for (const wrong of ['', '-1', '1.234', '1e3', '12 euros', '٣']) expect(parseAmount(wrong, 'EUR'), wrong).toBeNull()
  })

  it('belong to a currency that there is', () => {
    expect(priceSchema.safeParse(price()).success).toBe(true)
    for (const wrong of [{ currency: 'XYZ' }, { currency: 'eur' }, { amount: 0 }, { amount: 1.5 }, { refund: { allUntilMinutes: -1, afterPercent: 0 } }, { refund: { allUntilMinutes: 0, afterPercent: 101 } }])
      expect(priceSchema.safeParse({ ...price(), ...wrong }).success, JSON.stringify(wrong)).toBe(false)
  })
})

describe('a price', () => {
  it('is for a booking, or for each person', () => {
    expect([costOf(price(), 3), costOf(price({ per: 'person' }), 3)]).toEqual([12_000, 36_000])
    expect(describePrice(price({ per: 'person', when: 'session' }), 'en-GB')).toBe('€120 a person, paid at the session')
  })

  it('is bounded for as many people as may come', () => {
    const faultsOf = (amount: number, mostPeople: number) => {
      const definition = sampleDefinition({ seats: 1000, mostPeople, price: price({ per: 'person', amount }) }, { chairs: [] })
      return inputFaults(definitionSchema.safeParse(definition).error, definition).map(({ path, code }) => `${path} ${code}`)
    }
    expect(faultsOf(MOST_AMOUNT, 10)).not.toContain('settings.price.amount costTooHigh')
    expect(faultsOf(MOST_AMOUNT, 11)).toContain('settings.price.amount costTooHigh')
  })

  it('is paid back by its terms to a client who cancels, and in full where the team does', () => {
    const start = 1_800_000_000
    const back = (hoursBefore: number, byClient = true, change: Partial<Price> = {}) =>
      refundOf(price(change), 12_001, { byClient, start, at: start - hoursBefore * 3600 })
    expect([back(49), back(48), back(47.99), back(0, false)]).toEqual([12_001, 12_001, 6000, 12_001])
    expect(back(1000, true, { refund: { allUntilMinutes: null, afterPercent: 0 } })).toBe(0)
    const percents = fc.integer({ min: 0, max: 100 })
    fc.assert(fc.property(percents, fc.nat({ max: MOST_AMOUNT }), fc.integer({ min: -500, max: 500 }), (afterPercent, paid, hours) => {
      const terms = price({ refund: { allUntilMinutes: 60, afterPercent } })
      const refund = refundOf(terms, paid, { byClient: true, start, at: start - hours * 3600 })
      expect(Number.isInteger(refund) && refund >= 0 && refund <= paid).toBe(true)
    }))
  })

  it.each([
    [{ allUntilMinutes: 2880, afterPercent: 50 }, 'Whoever cancels gets all of it back until 2 days before, and 50 % after that.'],
    [{ allUntilMinutes: 0, afterPercent: 0 }, 'Whoever cancels gets all of it back until the start.'],
    [{ allUntilMinutes: null, afterPercent: 0 }, 'Whoever cancels gets nothing back.'],
    [{ allUntilMinutes: 60, afterPercent: 100 }, 'Whoever cancels gets all of it back.'],
  ])('says what is paid back', (refund, text) => expect(describeRefund({ refund })).toBe(text))
})

it('stands where its amounts say', () => {
  const amounts = (refundAmount: number, refundedAmount: number) =>
    standingOf({ state: 'paid', paidAmount: 100, refundAmount, refundedAmount })
  expect([amounts(0, 0), amounts(50, 0), amounts(50, 50), amounts(100, 50), amounts(100, 100)])
    .toEqual(['paid', 'refunding', 'partlyRefunded', 'refunding', 'refunded'])
})
