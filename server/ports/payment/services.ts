import type { z } from 'zod'
import type { PaymentServices } from '.'
import { tollgate, tollgateEnvironment } from './tollgate'

/** Every payment service that this application can speak to: a row each, and its settings in the environment. */

export const paymentEnvironment = { ...tollgateEnvironment }

export type PaymentEnvironment = z.output<z.ZodObject<typeof paymentEnvironment>>

/** The services whose settings are given. */
export function createPaymentServices({ TOLLGATE_URL: url }: PaymentEnvironment, timeoutSeconds: number): PaymentServices {
  return new Map(url === undefined ? [] : [['tollgate', tollgate(url.replace(/\/$/, ''), timeoutSeconds)]])
}
