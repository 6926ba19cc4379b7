import type { Money } from '../../../core/payment/money'

/** The way out to services that take payments. */

export interface PaymentRequest extends Money {
  /** The same reference always leads to the same payment, however often it is asked for. */
  reference: string
  /** What the payer reads. */
  title: string
  /** Until when it can be paid, in seconds since the epoch. */
  expiresAt: number
  /** Where the payer is sent back to, and where the service says that it was paid. */
  returnUrl: string
  notifyUrl: string
}

export interface PaymentAtService {
  state: 'open' | 'paid' | 'closed'
  /** What was paid, where it was. */
  paid: Money | null
  /** What was paid back, in minor units. */
  refunded: number
}

/** What a service is reached with under one account, sealed where it is stored. */
export type PaymentCredentials = string

export interface PaymentService {
  name: string
  /** What is asked for to connect an account, in this order; `isSecret` is never shown again. */
  fields: readonly { key: string, label: string, isSecret: boolean }[]
  /** Asks the service whether they are right. Throws ServiceFault. */
  tryCredentials: (fields: Readonly<Record<string, string>>) => Promise<{ credentials: PaymentCredentials, label: string }>
  /** Gives the address at which it is paid. Throws ServiceFault. */
  open: (credentials: PaymentCredentials, request: PaymentRequest) => Promise<{ payUrl: string }>
  /** Null where the service knows none of this reference. Throws ServiceFault. */
  find: (credentials: PaymentCredentials, reference: string) => Promise<PaymentAtService | null>
  /** Sees to it that it can no longer be paid, and says whether it was. Throws ServiceFault. */
  close: (credentials: PaymentCredentials, reference: string) => Promise<PaymentAtService | null>
  /** Pays back until `total` is paid back in all; asked for again it changes nothing. Throws ServiceFault. */
  refund: (credentials: PaymentCredentials, reference: string, total: number) => Promise<void>
  /** The payment that a notification tells of, and what was paid of it; null where its signature is not the service's. */
  readNotification: (
    credentials: PaymentCredentials, notification: Notification, now: number,
  ) => { reference: string, paid: Money | null } | null
}

export interface Notification {
  header: (name: string) => string | undefined
  body: string
}

/** The services of this installation by the key that accounts are stored with. */
export type PaymentServices = ReadonlyMap<string, PaymentService>
