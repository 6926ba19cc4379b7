import { createHmac, timingSafeEqual } from 'node:crypto'
import { z } from 'zod'
import type { Notification, PaymentAtService, PaymentCredentials, PaymentService } from '..'
import { ServiceFault, type ServiceFaultKind } from '../../service'
import { callService, read, readCredentials, type ServiceRequest, webAddress } from '../../service/requests'

/** Tollgate over its HTTP interface (docs/stand-ins.md). */

export const tollgateEnvironment = { TOLLGATE_URL: z.url().optional() }

const storedSchema = z.object({ key: z.string(), secret: z.string() })
const moneySchema = z.object({ amount: z.int().min(1), currency: z.string().length(3) })
const paymentSchema = z.object({
  state: z.enum(['open', 'paid', 'closed']),
  pay_url: webAddress,
  paid: moneySchema.nullable(),
  refunded: z.int().min(0),
})
const missingSchema = z.object({ error: z.literal('no_payment') })
const refusalSchema = z.object({ error: z.string(), detail: z.string() })
const notificationSchema = z.object({ reference: z.uuid(), paid: moneySchema.nullable() })

/** A notification that is older, or younger, may be one that somebody has kept. */
const TOLERANCE_SECONDS = 300

export function tollgate(url: string, timeoutSeconds: number): PaymentService {
  return {
    name: 'Tollgate',
    fields: [{ key: 'key', label: 'Key', isSecret: false }, { key: 'secret', label: 'Secret', isSecret: true }],
    tryCredentials: async (fields) => {
      const credentials = JSON.stringify(storedSchema.parse(fields))
      // What it answers is signed with the secret, so a wrong one shows at once.
      const { name, proof } = read(z.object({ name: z.string(), proof: z.string() }), await call(credentials, { method: 'GET', path: '/v1/merchant' }))
      if (!matches(proof, sign(storedSchema.parse(fields).secret, name))) throw wrongSecret()
      return { credentials, label: name }
    },
    open: async (credentials, { reference, title, amount, currency, expiresAt, returnUrl, notifyUrl }) => {
      const answer = await call(credentials, {
        method: 'PUT', path: pathOf(reference),
        body: { title, amount, currency, expires_at: expiresAt, return_url: returnUrl, notify_url: notifyUrl },
      })
      return { payUrl: read(paymentSchema, answer).pay_url }
    },
    find: async (credentials, reference) => paymentFrom(await call(credentials, { method: 'GET', path: pathOf(reference), accepted: [404] })),
    close: async (credentials, reference) =>
      paymentFrom(await call(credentials, { method: 'POST', path: `${pathOf(reference)}/close`, accepted: [404] })),
    refund: async (credentials, reference, total) => {
      const { refunded } = read(paymentSchema, await call(credentials, { method: 'PUT', path: `${pathOf(reference)}/refund`, body: { total } }))
      if (refunded < total) throw new ServiceFault({ code: 'unreadable' })
    },
    readNotification: (credentials, notification, now) => {
      const { secret } = readCredentials(storedSchema, credentials)
      if (!isSigned(secret, notification, now)) return null
      return notificationSchema.safeParse(parse(notification.body)).data ?? null
    },
  }

  function call(credentials: PaymentCredentials, request: ServiceRequest): Promise<unknown> {
    const { key } = readCredentials(storedSchema, credentials)
    return callService({ url, timeoutSeconds, readRefusal, faultKinds }, { ...request, headers: { authorization: `Bearer ${key.replace(/[^\x21-\x7e]/g, '')}` } })
  }
}

const pathOf = (reference: string) => `/v1/payments/${encodeURIComponent(reference)}`

const wrongSecret = () => new ServiceFault({ code: 'answered', status: 401, reason: 'the secret is not the one of this key' }, 'accessLost')

function paymentFrom(answer: unknown): PaymentAtService | null {
  if (missingSchema.safeParse(answer).success) return null
  const { state, paid, refunded } = read(paymentSchema, answer)
  return { state, paid, refunded }
}

/** As the Standard Webhooks specification has it: over the id, the time and the body, by any of the signatures in the header. */
function isSigned(secret: string, { header, body }: Notification, now: number): boolean {
  const [id, at, signatures] = [header('webhook-id'), header('webhook-timestamp'), header('webhook-signature')]
  if (!id || !at || !signatures || !/^\d{1,12}$/.test(at) || Math.abs(now - Number(at)) > TOLERANCE_SECONDS) return false
  const expected = sign(secret, `${id}.${at}.${body}`)
  return signatures.split(' ').some(signature => matches(signature, `v1,${expected}`))
}

const sign = (secret: string, text: string) => createHmac('sha256', secret).update(text).digest('base64')

function matches(given: string, expected: string): boolean {
  const [a, b] = [Buffer.from(given), Buffer.from(expected)]
  return a.length === b.length && timingSafeEqual(a, b)
}

function parse(body: string): unknown {
  try {
    return JSON.parse(body)
  } catch {
    return null
  }
}

function readRefusal(body: unknown): { code: string, message: string } {
  const refusal = refusalSchema.safeParse(body).data
  return { code: refusal?.error ?? '', message: refusal?.detail ?? '' }
}

const faultKinds: Record<string, ServiceFaultKind> = { unauthorized: 'accessLost', refused: 'accountRefused' }
