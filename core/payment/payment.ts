import { z } from 'zod'

/** The payment of a booking: what was paid of it and what was paid back. */

/** `wanted`: to be paid now; `atSession`: to be paid there; `ended`: it was not paid while the booking was held. */
export const paymentStates = ['wanted', 'atSession', 'paid', 'ended'] as const
export type PaymentState = (typeof paymentStates)[number]

export interface PaymentAmounts {
  state: PaymentState
  paidAmount: number
  /** To be paid back in all, and how much of that has been. */
  refundAmount: number
  refundedAmount: number
}

/** How a payment is spoken of. */
export const paymentStandings = ['due', 'atSession', 'paid', 'refunding', 'partlyRefunded', 'refunded', 'ended'] as const
export type PaymentStanding = (typeof paymentStandings)[number]

export function standingOf({ state, paidAmount, refundAmount, refundedAmount }: PaymentAmounts): PaymentStanding {
  if (state === 'wanted') return 'due'
  if (state !== 'paid') return state
  if (refundedAmount < refundAmount) return 'refunding'
  return refundAmount === 0 ? 'paid' : refundAmount < paidAmount ? 'partlyRefunded' : 'refunded'
}

export const standingWords: Record<PaymentStanding, string> = {
  due: 'not paid yet', atSession: 'to be paid at the session', paid: 'paid', refunding: 'being refunded', partlyRefunded: 'partly refunded',
  refunded: 'refunded', ended: 'not paid',
}

/** What the clients' calls say of it. */
export const paymentViewSchema = z.strictObject({
  state: z.enum(paymentStandings),
  /** In minor units. */
  amount: z.int(),
  currency: z.string(),
  refunded: z.int().optional(),
  /** Where it is paid, and until when the time is held for it. */
  payUrl: z.string().optional(),
  expiresAt: z.iso.datetime().optional(),
})
export type PaymentView = z.infer<typeof paymentViewSchema>
