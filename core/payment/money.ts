import { z } from 'zod'
import { fault } from '../validation'

/** Amounts of money: integers of a currency's minor unit (cents), as the platform's currency data has it (ISO 4217). */

export interface Money {
  /** In minor units. */
  amount: number
  currency: string
}

const known = new Set(Intl.supportedValuesOf('currency'))

export const currencies: readonly string[] = [...known]

export const currencySchema = z.string().refine(code => known.has(code), fault('currency'))

/** The most that anything costs; far below what a double holds exactly. */
export const MOST_AMOUNT = 100_000_000

export const amountSchema = z.int().min(1).max(MOST_AMOUNT)

/** How many digits of a currency are its minor unit: 2 for EUR, 0 for JPY. */
export function minorDigits(currency: string): number {
  return new Intl.NumberFormat('en', { style: 'currency', currency }).resolvedOptions().maximumFractionDigits ?? 2
}

/** "€120.00" */
export function formatMoney({ amount, currency }: Money, locale: string): string {
  return new Intl.NumberFormat(locale, { style: 'currency', currency }).format(amount / 10 ** minorDigits(currency))
}

/** What somebody typed as an amount, "120" or "120.50", in minor units; null for what is none. A comma is a point. */
export function parseAmount(text: string, currency: string): number | null {
  const digits = minorDigits(currency)
  const match = /^(\d{1,9})(?:[.,](\d+))?$/.exec(text.trim())
  if (!match || (match[2]?.length ?? 0) > digits) return null
  return Number(match[1]) * 10 ** digits + Number((match[2] ?? '').padEnd(digits, '0') || 0)
}

/** An amount as it is typed: "120.50", and "120" where there are no cents. */
export function typedAmount(amount: number, currency: string): string {
  const digits = minorDigits(currency)
  const text = (amount / 10 ** digits).toFixed(digits)
  return digits > 0 && amount % 10 ** digits === 0 ? text.slice(0, -digits - 1) : text
}
