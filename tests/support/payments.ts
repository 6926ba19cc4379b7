import { randomBytes } from 'node:crypto'
import type { Price } from '../../core/payment/price'
import type { Context } from '../../server/context'
import { connectPayments } from '../../server/payments'
import type { TestWorkspace } from './workspace'

/** Payments as clients make them, and as Tollgate has them. */

export const price = (change: Partial<Price> = {}): Price => ({
  amount: 12_000, currency: 'EUR', per: 'booking', when: 'booking', refund: { allUntilMinutes: 24 * 60, afterPercent: 50 }, ...change,
})

export interface Merchant {
  /** Where Tollgate is. */
  url: string
  key: string
  secret: string
}

/** A merchant of the workspace's own, connected as its owner does it. */
export async function connectTollgate(context: Context, workspace: TestWorkspace): Promise<Merchant> {
  const merchant = { url: context.settings.paymentEnvironment.TOLLGATE_URL ?? '', key: `till-${randomBytes(6).toString('hex')}`, secret: randomBytes(16).toString('hex') }
  const made = await fetch(`${merchant.url}/merchants`, {
    method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ key: merchant.key, secret: merchant.secret, name: workspace.slug }),
  })
  const service = context.payments.get('tollgate')
  if (!made.ok || !service) throw new Error('Tollgate is not there')
  await connectPayments(context, workspace.id, 'tollgate', service, { key: merchant.key, secret: merchant.secret })
  return merchant
}

export interface PaymentThere {
  reference: string
  merchant: string
  state: 'open' | 'paid' | 'closed'
  paid: { amount: number, currency: string } | null
  refunded: number
  notifyUrl: string
  notified: { status: number }[]
}

export async function paymentsAt({ url, key }: Merchant): Promise<PaymentThere[]> {
  const { payments } = await (await fetch(`${url}/payments.json`)).json() as { payments: PaymentThere[] }
  return payments.filter(({ merchant }) => merchant === key)
}

/** Where a client is sent to when they press *Pay*: the page at the service, or somewhere else. */
export async function followPay(payUrl: string): Promise<{ url: string, cookie: string }> {
  const answer = await fetch(payUrl, { redirect: 'manual' })
  return { url: answer.headers.get('location') ?? '', cookie: answer.headers.get('set-cookie')?.split(';')[0] ?? '' }
}

/** Pays at the service's page, be it something else than was asked for; where the client is sent back to. */
export async function payAt(url: string, amount?: number): Promise<string> {
  const body = new URLSearchParams({ do: 'pay', ...amount === undefined ? {} : { amount: String(amount) } })
  return (await fetch(url, { method: 'POST', redirect: 'manual', body })).headers.get('location') ?? ''
}
