import { randomBytes } from 'node:crypto'
import { newCallLog } from '../shared/calls'
import { StoredValue } from '../shared/stored-value'

/** What Tollgate remembers: merchants, and payments that they have asked for. */

export interface Merchant {
  key: string
  secret: string
  name: string
}

export interface Payment {
  reference: string
  /** The merchant's key. */
  merchant: string
  title: string
  /** In minor units. */
  amount: number
  currency: string
  /** Seconds since the epoch. */
  expiresAt: number
  returnUrl: string
  notifyUrl: string
  /** What the page ends with at which it is paid. */
  pageKey: string
  state: 'open' | 'paid' | 'closed'
  paid: { amount: number, currency: string } | null
  refunded: number
  /** What the merchant's server has answered to notifications. */
  notified: { at: string, status: number }[]
}

export class TollgateStore {
  private readonly stored: StoredValue<{ merchants: Merchant[], payments: Payment[] }>
  readonly log = newCallLog()

  constructor(folder: string, merchants: readonly Merchant[]) {
    this.stored = new StoredValue(`${folder}/tollgate.json`, { merchants: [...merchants], payments: [] as Payment[] })
  }

  get merchants(): readonly Merchant[] {
    return this.stored.value.merchants
  }

  addMerchant(merchant: Merchant): void {
    this.stored.value.merchants = [...this.merchants.filter(({ key }) => key !== merchant.key), merchant]
    this.stored.save()
  }

  paymentsOf(merchant: string): Payment[] {
    return this.stored.value.payments.filter(payment => payment.merchant === merchant)
  }

  paymentByPage(pageKey: string): Payment | null {
    return this.stored.value.payments.find(payment => payment.pageKey === pageKey) ?? null
  }

  addPayment(payment: Pick<Payment, 'reference' | 'merchant' | 'title' | 'amount' | 'currency' | 'expiresAt' | 'returnUrl' | 'notifyUrl'>): Payment {
    const added: Payment = { ...payment, pageKey: randomBytes(16).toString('hex'), state: 'open', paid: null, refunded: 0, notified: [] }
    this.stored.value.payments.push(added)
    this.stored.save()
    return added
  }

  change(payment: Payment, change: Partial<Payment>): void {
    Object.assign(payment, change)
    this.stored.save()
  }
}
