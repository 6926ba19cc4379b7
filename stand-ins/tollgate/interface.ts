import { createHmac } from 'node:crypto'
import { createRouter, getHeader, getRouterParam, type H3Event, readBody, type Router, setResponseStatus } from 'h3'
import { z } from 'zod'
import { defineCall, type Handler, parse, Refusal } from '../shared/calls'
import type { Merchant, Payment, TollgateStore } from './store'

/** The HTTP interface of Tollgate, as docs/stand-ins.md describes it. */

const paymentRequest = z.object({
  title: z.string().min(1).max(500),
  amount: z.int().min(1),
  currency: z.string().length(3),
  expires_at: z.int(),
  return_url: z.url(),
  notify_url: z.url(),
})
const refundRequest = z.object({ total: z.int().min(0) })

const AT_ONCE = 20

export function tollgateInterface(store: TollgateStore, origin: () => string): Router {
  const router = createRouter()

  router.get('/v1/merchant', call(async (event) => {
    const { name, secret } = requireMerchant(event)
    return { name, proof: createHmac('sha256', secret).update(name).digest('base64') }
  }))

  router.put('/v1/payments/:reference', call(async (event) => {
    const merchant = requireMerchant(event)
    const { expires_at: expiresAt, return_url: returnUrl, notify_url: notifyUrl, ...rest } = parse(paymentRequest, await readBody(event))
    const reference = getRouterParam(event, 'reference') ?? ''
    const existing = find(merchant, reference)
    if (existing) return show(existing)
    setResponseStatus(event, 201)
    return show(store.addPayment({ ...rest, reference, merchant: merchant.key, expiresAt, returnUrl, notifyUrl }))
  }))

  router.get('/v1/payments/:reference', call(async event => show(requirePayment(event))))

  router.post('/v1/payments/:reference/close', call(async (event) => {
    const payment = requirePayment(event)
    if (payment.state === 'open') store.change(payment, { state: 'closed' })
    return show(payment)
  }))

  router.put('/v1/payments/:reference/refund', call(async (event) => {
    const payment = requirePayment(event)
    const { total } = parse(refundRequest, await readBody(event))
    if (payment.state !== 'paid' || total > (payment.paid?.amount ?? 0)) throw new Refusal(422, 'too_much', 'so much was not paid')
    if (total > payment.refunded) store.change(payment, { refunded: total })
    return show(payment)
  }))

  return router

  function call(handler: Handler) {
    return defineCall({ name: 'Tollgate', log: store.log, atOnce: AT_ONCE, refusalBody: (error, detail) => ({ error, detail }) }, handler)
  }

  function requireMerchant(event: H3Event): Merchant {
    const key = /^Bearer (.+)$/.exec(getHeader(event, 'authorization') ?? '')?.[1]
    const merchant = store.merchants.find(candidate => candidate.key === key)
    if (!merchant) throw new Refusal(401, 'unauthorized', 'the key is not known')
    return merchant
  }

  function find(merchant: Merchant, reference: string): Payment | null {
    return store.paymentsOf(merchant.key).find(payment => payment.reference === reference) ?? null
  }

  function requirePayment(event: H3Event): Payment {
    const payment = find(requireMerchant(event), getRouterParam(event, 'reference') ?? '')
    if (!payment) throw new Refusal(404, 'no_payment', 'there is no such payment')
    return payment
  }

  function show({ reference, title, amount, currency, state, paid, refunded, pageKey, expiresAt }: Payment) {
    return { reference, title, amount, currency, state, paid, refunded, expires_at: expiresAt, pay_url: `${origin()}/pay/${pageKey}` }
  }
}
