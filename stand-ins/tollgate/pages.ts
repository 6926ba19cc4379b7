import { createRouter, defineEventHandler, type EventHandlerRequest, getRouterParam, type H3Event, type Router, sendRedirect, setResponseStatus } from 'h3'
import { z } from 'zod'
import { addCallPage } from '../shared/calls'
import { addFaultPages } from '../shared/fault-pages'
import { type FaultKind, takeFault } from '../shared/faults'
import { callTable, html, page } from '../shared/html'
import { readMembers, sendPage } from '../shared/serve'
import { notify } from './notifications'
import type { Payment, TollgateStore } from './store'

/** What people see of Tollgate: the page where they pay, and a look inside. */

const service = 'Tollgate'
const links: [string, string][] = [['/', 'Payments'], ['/faults', 'Faults']]

export const merchantSchema = z.object({ key: z.string().min(1), secret: z.string().min(16), name: z.string().min(1) })

const kinds: readonly FaultKind[] = ['none', 'slow', 'holding', 'silent', 'failing', 'refusing', 'losing', 'garbled', 'doubling', 'forgetting']

export function tollgatePages(store: TollgateStore): Router {
  const router = createRouter()

  router.get('/', defineEventHandler(event => sendPage(event, page({ service, title: 'Payments', links }, html`${store.merchants.map(merchant => html`
    <div class="card"><strong>${merchant.name}</strong><p class="quiet">Key ${merchant.key} · secret ${merchant.secret}</p>
      ${store.paymentsOf(merchant.key).length === 0 ? html`<p>No payments yet.</p>` : html`<table>
        <tr><th>For</th><th>Amount</th><th>State</th><th>Paid back</th><th>Notified</th><th></th></tr>
        ${[...store.paymentsOf(merchant.key)].reverse().map(payment => html`<tr>
          <td>${payment.title}</td><td>${money(payment.amount, payment.currency)}</td><td>${stateOf(payment)}</td>
          <td>${payment.refunded > 0 ? money(payment.refunded, payment.currency) : ''}</td>
          <td>${payment.notified.map(({ status }) => status || 'no answer').join(', ')}</td>
          <td>${stateOf(payment) === 'open' && html`<a href="/pay/${payment.pageKey}">Pay</a>`}</td></tr>`)}
      </table>`}</div>`)} ${callTable(store.log.calls)}`))))

  /** Creates a merchant, or puts another in the place of the one with its key. */
  router.post('/merchants', defineEventHandler(async (event) => {
    const merchant = merchantSchema.safeParse(await readMembers(event))
    if (!merchant.success) {
      setResponseStatus(event, 422)
      return { error: 'invalid', detail: z.prettifyError(merchant.error) }
    }
    store.addMerchant(merchant.data)
    return { key: merchant.data.key }
  }))

  router.get('/payments.json', defineEventHandler(() => ({ payments: store.merchants.flatMap(({ key }) => store.paymentsOf(key)) })))

  router.get('/pay/:page', defineEventHandler((event) => {
    const payment = paymentOf(event)
    if (!payment) return missing(event)
    const state = stateOf(payment)
    return sendPage(event, page({ service, title: payment.title, links }, html`<div class="card">
      <p style="font-size: 30px; margin: 0 0 4px">${money(payment.amount, payment.currency)}</p>
      <p class="quiet">to ${merchantOf(payment)?.name ?? ''}</p>
      ${state === 'open' ? html`<form method="post">
          <label><span>Name on the card</span><input name="name" value="A made-up card" autocomplete="off" /></label>
          <p class="quiet">No real card is asked for: nothing is charged anywhere.</p>
          <button name="do" value="pay">Pay ${money(payment.amount, payment.currency)}</button>
          <button class="plain" name="do" value="leave">Do not pay</button></form>`
        : html`<p>${state === 'paid' ? 'This is paid.' : 'This can no longer be paid.'} <a href="${payment.returnUrl}">Back to ${merchantOf(payment)?.name ?? ''}</a></p>`}
    </div>`))
  }))

  router.post('/pay/:page', defineEventHandler(async (event) => {
    const payment = paymentOf(event)
    if (!payment) return missing(event)
    const { do: what, amount } = await readMembers(event)
    if (what === 'pay' && stateOf(payment) === 'open') {
      // Tests may pay something else than was asked for.
      const paid = { amount: amount === undefined ? payment.amount : Number(amount), currency: payment.currency }
      store.change(payment, { state: 'paid', paid })
      void notify(store, payment, merchantOf(payment)?.secret ?? '', takeFault(store.log))
    }
    return sendRedirect(event, payment.returnUrl, 303)
  }))

  addFaultPages(router, store.log, { service, links }, kinds)
  addCallPage(router, store.log)
  return router

  function paymentOf(event: H3Event<EventHandlerRequest>): Payment | null {
    return store.paymentByPage(getRouterParam(event, 'page') ?? '')
  }

  function merchantOf({ merchant }: Payment) {
    return store.merchants.find(({ key }) => key === merchant)
  }
}

function stateOf({ state, expiresAt }: Payment): Payment['state'] {
  return state === 'open' && expiresAt * 1000 < Date.now() ? 'closed' : state
}

function missing(event: H3Event): string {
  setResponseStatus(event, 404)
  return sendPage(event, page({ service, title: 'Not found', links }, html`<p>There is no such payment.</p>`))
}

function money(amount: number, currency: string): string {
  const digits = new Intl.NumberFormat('en', { style: 'currency', currency }).resolvedOptions().maximumFractionDigits ?? 2
  return new Intl.NumberFormat('en-GB', { style: 'currency', currency }).format(amount / 10 ** digits)
}
