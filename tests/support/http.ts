import { randomUUID } from 'node:crypto'
import { inject } from 'vitest'
import { DAY, formatDate } from '../../core/time/civil'

/** The clients' HTTP interface as a test speaks it. */

export interface Answer {
  status: number
  type: string
  body: any // eslint-disable-line @typescript-eslint/no-explicit-any -- answers are compared, not used
}

export async function call(url: string, options: RequestInit = {}): Promise<Answer> {
  const response = await fetch(url, options)
  const text = await response.text()
  const type = response.headers.get('content-type') ?? ''
  return { status: response.status, type, body: type.includes('json') ? JSON.parse(text) : text }
}

export function post(url: string, body: unknown, headers: Record<string, string> = {}): Promise<Answer> {
  return call(url, {
    method: 'POST',
    headers: { 'content-type': 'application/json', ...headers },
    body: typeof body === 'string' ? body : JSON.stringify(body),
  })
}

/** Signs a member in; gives the header that proves it. */
export async function signIn(app: string, who: { email: string, password: string }): Promise<{ cookie: string }> {
  const response = await fetch(`${app}/api/desk/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(who),
  })
  return { cookie: sessionCookie(response) }
}

/** The cookie that an answer sets last: signing in first ends the session before. */
export function sessionCookie(response: Response): string {
  return response.headers.getSetCookie().findLast(cookie => /^temporia=[^;]/.test(cookie))?.split(';')[0] ?? ''
}

export function book(app: string, path: string, body: unknown, key: string = randomUUID()): Promise<Answer> {
  return post(`${app}/api/public/${path}/bookings`, body, { 'idempotency-key': key })
}

export function request(start: string, change: Record<string, unknown> = {}): Record<string, unknown> {
  return {
    start,
    timeZone: 'Asia/Kolkata',
    client: { name: 'Nandini Bhowmik', email: `${randomUUID()}@client.example` },
    answers: {},
    ...change,
  }
}

/** Starts on offer from some days after today on. */
export async function startsOf(app: string, path: string, afterDays = 2, days = 5, more: Record<string, string> = {}): Promise<string[]> {
  const today = Math.floor(Date.now() / 1000 / DAY)
  const query = new URLSearchParams({ from: formatDate(today + afterDays), to: formatDate(today + afterDays + days), timeZone: 'UTC', ...more })
  const { body } = await call(`${app}/api/public/${path}/openings?${query}`)
  return body.openings.map((opening: { start: string }) => opening.start)
}

export interface CaughtMail {
  id: string
  subject: string
  messageId: string
}

export async function inbox(address: string): Promise<CaughtMail[]> {
  const { body } = await call(`${inject('pigeonhole')}/api/inbox/${encodeURIComponent(address)}`)
  return body.messages
}

/** What a phone has received, newest first. */
export async function phoneTexts(number: string): Promise<{ id: string, from: string, text: string }[]> {
  const { body } = await call(`${inject('pigeonhole')}/api/texts/${encodeURIComponent(number)}`)
  return body.texts
}

export async function rawMail(id: string): Promise<string> {
  return (await fetch(`${inject('pigeonhole')}/message/${id}/raw.eml`)).text()
}

/** Switches a fault of a stand-in on, or off with `none`. */
export async function setFault(service: 'lantern' | 'quayside' | 'pigeonhole' | 'tollgate', kind: string, left?: number, seconds?: number): Promise<void> {
  const response = await fetch(`${inject(service)}/faults`, {
    method: 'POST', redirect: 'manual', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ kind, left, seconds }),
  })
  if (response.status !== 303) throw new Error(`The fault was not set: ${await response.text()}`)
}

/** A mail as plain text: parts joined, with what mail servers escape in them written out. */
export async function mailText(id: string): Promise<string> {
  const raw = (await rawMail(id)).replace(/=\r?\n/g, '')
  return Buffer.from(raw.replace(/=([0-9A-F]{2})/g, (_, hex: string) => String.fromCharCode(parseInt(hex, 16))), 'latin1').toString('utf8')
}

/** Waits for the mail that asks to confirm an address; gives the link in it. */
export async function confirmationLink(address: string): Promise<string> {
  for (let tries = 0; tries < 200; tries++) {
    const mail = (await inbox(address)).find(candidate => candidate.subject.startsWith('Confirm your address'))
    const link = mail && /https?:\/\/\S+\/desk\/confirm\?token=[\w-]+/.exec(await mailText(mail.id))?.[0]
    if (link) return link
    await new Promise(resolve => setTimeout(resolve, 100))
  }
  throw new Error(`No confirmation was mailed to ${address}`)
}
