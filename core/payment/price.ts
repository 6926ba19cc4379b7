import { z } from 'zod'
import { MINUTE } from '../time/civil'
import { formatDuration } from '../time/format'
import { amountSchema, currencySchema, formatMoney, type Money, MOST_AMOUNT } from './money'

/** What a booking costs, when it is paid, and what is paid back. */

/** The longest term, as for moving and cancelling: 60 days. */
const MOST_TERM_MINUTES = 86_400

export const priceSchema = z.strictObject({
  amount: amountSchema,
  currency: currencySchema,
  /** Whether each booking costs so much, or each person of it. */
  per: z.enum(['booking', 'person']),
  /** Before the booking is confirmed, or at the session, where its host marks it. */
  when: z.enum(['booking', 'session']),
  /** What a client gets back who cancels: all of it until so long before the start (null: never), and so many hundredths after that. */
  refund: z.strictObject({
    allUntilMinutes: z.int().min(0).max(MOST_TERM_MINUTES).nullable(),
    afterPercent: z.int().min(0).max(100),
  }),
})
export type Price = z.infer<typeof priceSchema>

/** How long an opening is held for whoever pays. Seconds. */
export const HOLD_SECONDS = 15 * MINUTE

/** The most that a booking can cost, of however many people. */
export const MOST_COST = 10 * MOST_AMOUNT

export function costOf({ amount, per }: Price, people: number): number {
  return per === 'person' ? amount * people : amount
}

/**
 * What is paid back of an amount. Clients have the terms; what the team ends, or never confirms, is paid back in full. Instants in
 * seconds.
 */
export function refundOf(
  { refund }: Price, paid: number, { byClient, start, at }: { byClient: boolean, start: number, at: number },
): number {
  const { allUntilMinutes, afterPercent } = refund
  if (!byClient || (allUntilMinutes !== null && at <= start - allUntilMinutes * MINUTE)) return paid
  return Math.floor((paid * afterPercent) / 100)
}

/** "€120 a person, paid when booking" */
export function describePrice(price: Price, locale: string): string {
  const { per, when } = price
  return `${formatPrice(price, locale)}${per === 'person' ? ' a person' : ''}, paid ${when === 'booking' ? 'when booking' : 'at the session'}`
}

/** The amount of a price, without cents where there are none. */
export function formatPrice(money: Money, locale: string): string {
  return formatMoney(money, locale).replace(/[.,]0+(?=\D*$)/, '')
}

/** "Whoever cancels gets all of it back until 2 days before, and 50 % after that."; clients are spoken to. */
export function describeRefund({ refund: { allUntilMinutes, afterPercent } }: Pick<Price, 'refund'>, reader: 'client' | 'team' = 'team'): string {
  const who = reader === 'client' ? 'If you cancel, you get' : 'Whoever cancels gets'
  const after = afterPercent === 0 ? 'nothing' : afterPercent === 100 ? 'all of it' : `${afterPercent} %`
  if (allUntilMinutes === null || afterPercent === 100) return `${who} ${after} back.`
  if (allUntilMinutes === 0) return `${who} all of it back until the start.`
  return `${who} all of it back until ${formatDuration(allUntilMinutes)} before, and ${after} after that.`
}
