import { createHmac, randomUUID } from 'node:crypto'
import type { Fault } from '../shared/faults'
import type { Payment, TollgateStore } from './store'

/** Notifications of payments: signed as the Standard Webhooks specification has it, and sent again while nobody takes them. */

const TRIES = 4
const PAUSE_MS = 2000

/** `forgetting` sends none, `doubling` two of each, `garbled` signs them with another secret. */
export async function notify(store: TollgateStore, payment: Payment, secret: string, { kind }: Fault): Promise<void> {
  if (kind === 'forgetting') return
  const id = `msg_${randomUUID()}`
  const body = JSON.stringify({ type: 'payment.paid', reference: payment.reference, paid: payment.paid })
  const send = async (): Promise<number> => {
    const at = String(Math.floor(Date.now() / 1000))
    const signature = createHmac('sha256', kind === 'garbled' ? `not ${secret}` : secret).update(`${id}.${at}.${body}`).digest('base64')
    const status = await fetch(payment.notifyUrl, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'webhook-id': id, 'webhook-timestamp': at, 'webhook-signature': `v1,${signature}` },
      body, redirect: 'error', signal: AbortSignal.timeout(10_000),
    }).then(answer => answer.status, () => 0)
    store.change(payment, { notified: [...payment.notified, { at: new Date().toISOString(), status }] })
    return status
  }
  for (let tries = 1; tries <= TRIES; tries++) {
    const status = await send()
    if (kind === 'doubling') await send()
    if (status >= 200 && status < 300) return
    await new Promise(resolve => setTimeout(resolve, PAUSE_MS * tries))
  }
}
