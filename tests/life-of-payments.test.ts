import { eq, sql } from 'drizzle-orm'
import fc from 'fast-check'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import { DAY, formatInstant, MINUTE } from '../core/time/civil'
import { audit } from '../server/audit'
import { bookings, payments, sessions } from '../server/database/schema'
import { endHolds } from '../server/payments'
import { freePort } from '../scripts/run/ports'
import type { Started } from '../scripts/run/processes'
import { startApp } from '../scripts/run/services'
import { useApplication } from './support/application'
import { campaign } from './support/campaign'
import { checkLedger, overlapsOf } from './support/fairness'
import { book, inbox, mailText, post, request, setFault, signIn } from './support/http'
import { connectTollgate, followPay, type Merchant, payAt, paymentsAt, price } from './support/payments'
import { untilQuiet } from './support/queue'
import { deliveriesOf } from './support/sessions'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/**
 * Bookings that are paid, moved, counted, approved, cancelled and timed out in any order, several at once and at two processes,
 * while the service loses notifications and answers. What must be so in the end is worked out from states alone.
 */

const own = useApplication('life_of_payments', { RETRY_PACE: '0.05', VIDEO_TIMEOUT_SECONDS: '3' })
const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]
const terms = { allUntilMinutes: 60, afterPercent: 0 }
const eventTypes = [
  { slug: 'paid', settings: { places, startEveryMinutes: 30, price: price({ refund: terms }) } },
  { slug: 'asked', settings: { places, startEveryMinutes: 30, approval: true, price: price({ refund: terms }) } },
  { slug: 'group', settings: { places, startEveryMinutes: 30, seats: 3, mostPeople: 2, price: price({ per: 'person', refund: terms }) } },
]
const AFTER_DAYS = 3
const [OPENS, SLOTS] = [9 * 3600, 5]

let second: Started
let urls: string[]
let workspace: TestWorkspace
let merchant: Merchant
let headers: { cookie: string }[]
beforeAll(async () => {
  const port = await freePort(inject('serverPort') + 90, new Set())
  second = await startApp({ folder: own.folder, appPort: port }, { ...own.environment, PORT: String(port) })
  urls = [own.url, `http://127.0.0.1:${port}`]
  workspace = await makeWorkspace(own.context, { hosts: 2, hours: 'Mo-Su 09:00-12:00', zone: 'UTC', eventTypes })
  merchant = await connectTollgate(own.context, workspace)
  headers = await Promise.all(urls.map(url => signIn(url, workspace.owner)))
})
afterAll(() => second?.stop())

interface Made { id: string, token: string, payUrl: string, email: string }

const which = fc.nat({ max: 20 })
const at = fc.nat({ max: 1 })
const step = fc.oneof(
  { weight: 6, arbitrary: fc.record({ kind: fc.constant('book' as const), at, slug: fc.constantFrom(...eventTypes.map(({ slug }) => slug)), slot: fc.nat({ max: SLOTS }), people: fc.integer({ min: 1, max: 2 }) }) },
  { weight: 7, arbitrary: fc.record({ kind: fc.constant('pay' as const), at, which }) },
  { weight: 2, arbitrary: fc.record({ kind: fc.constantFrom('cancel' as const, 'close' as const, 'decline' as const, 'timeOut' as const), at, which }) },
  { weight: 4, arbitrary: fc.record({ kind: fc.constant('payLate' as const), at, which }) },
  { weight: 2, arbitrary: fc.record({ kind: fc.constant('approve' as const), at, which }) },
  { weight: 2, arbitrary: fc.record({ kind: fc.constant('move' as const), at, which, slot: fc.nat({ max: SLOTS }) }) },
  { weight: 2, arbitrary: fc.record({ kind: fc.constant('count' as const), at, which, people: fc.integer({ min: 1, max: 3 }) }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('fault' as const), fault: fc.constantFrom('none', 'forgetting', 'doubling', 'garbled', 'losing', 'failing') }) },
)
type Step = typeof step extends fc.Arbitrary<infer Value> ? Value : never

async function act(item: Step, made: Made[], start: (slot: number) => string): Promise<void> {
  if (item.kind === 'fault') return setFault('tollgate', item.fault, item.fault === 'none' ? undefined : 2)
  const url = urls[item.at] ?? own.url
  if (item.kind === 'book') {
    const email = `client${Math.random().toString(36).slice(2)}@${workspace.slug}.example`
    const people = item.slug === 'group' ? item.people : 1
    const answer = await book(url, `${workspace.slug}/${item.slug}`, request(start(item.slot), { people, client: { name: 'Ana Reis', email } }))
    expect([201, 409], JSON.stringify(answer.body)).toContain(answer.status)
    if (answer.status !== 201) return
    const { booking, manage } = answer.body
    made.push({ id: booking.id, token: new URL(manage).pathname.split('/').at(-1) ?? '', payUrl: booking.payment.payUrl, email })
    return
  }
  const chosen = made[item.which % Math.max(1, made.length)]
  if (!chosen) return
  const publicly = (what: string, body: object = {}) => post(`${url}/api/public/bookings/${chosen.token}/${what}`, body)
  const desk = (what: string, body: object = {}) => post(`${url}/api/desk/bookings/${chosen.id}/${what}`, body, headers[item.at])
  const outcome = await (async () => {
    switch (item.kind) {
      case 'pay': {
        const page = (await followPay(chosen.payUrl)).url
        if (page.includes('/pay/')) await payAt(page)
        return publicly('payment')
      }
      case 'cancel': return publicly('cancel')
      case 'close': return desk('close', { state: 'cancelled' })
      case 'decline': return desk('close', { state: 'declined' })
      case 'approve': return desk('approve')
      case 'move': return publicly('move', { start: start(item.slot) })
      case 'count': return publicly('people', { people: item.people })
      case 'timeOut':
        await timeOut(chosen)
        return { status: 200 }
      case 'payLate': {
        // On a page opened before; the service could not be told to close it.
        const page = (await followPay(chosen.payUrl)).url
        await setFault('tollgate', 'failing')
        await timeOut(chosen)
        if (page.includes('/pay/')) await payAt(page)
        await setFault('tollgate', 'none')
        return publicly('payment')
      }
    }
  })()
  expect([200, 409, 422], `${item.kind}: ${JSON.stringify(outcome)}`).toContain(outcome.status)
}

async function timeOut({ id }: Made): Promise<void> {
  await own.context.db.update(bookings).set({ expiresAt: new Date(Date.now() - 1000) }).where(sql`${bookings.id} = ${id} and ${bookings.state} = 'held'`)
  await Promise.all([endHolds(own.context), endHolds(own.context)])
}

const seen = { standing: 0, refunded: 0, ended: 0, late: 0 }

/** Everything has come to rest. */
async function settle(): Promise<void> {
  await setFault('tollgate', 'none')
  await own.context.db.update(bookings).set({ expiresAt: new Date(Date.now() - 1000) }).where(eq(bookings.state, 'held'))
  await endHolds(own.context)
  await expect.poll(async () => (await own.context.pool.query(
    'select 1 from graphile_worker.jobs where key like \'%Payment:%\' and task_identifier <> \'checkPayment\'')).rows.length, { timeout: 60_000 }).toBe(0)
  await untilQuiet(own.context)
}

async function holds(made: readonly Made[]): Promise<void> {
  const found = await own.context.db.select({ booking: bookings, payment: payments, session: sessions }).from(bookings)
    .innerJoin(payments, eq(payments.bookingId, bookings.id)).innerJoin(sessions, eq(sessions.id, bookings.sessionId))
    .where(eq(bookings.workspaceId, workspace.id))
  const there = new Map((await paymentsAt(merchant)).map(payment => [payment.reference, payment]))
  for (const { booking, payment, session } of found.filter(row => made.some(({ id }) => id === row.booking.id))) {
    const atService = there.get(payment.id)
    const about = `${booking.id}, ${booking.state}, ${payment.state}`
    expect([atService?.paid?.amount ?? 0, atService?.refunded ?? 0], `what the service has of ${about}`).toEqual([payment.paidAmount, payment.refundedAmount])
    const stands = ['confirmed', 'awaitingApproval'].includes(booking.state)
    expect(payment.paidAmount - payment.refundedAmount, `kept of ${about}`).toBe(stands ? (payment.price.per === 'person' ? 12_000 * booking.people : 12_000) : 0)
    seen[stands ? 'standing' : payment.paidAmount > 0 ? (payment.isLate ? 'late' : 'refunded') : 'ended'] += 1

    const email = made.find(({ id }) => id === booking.id)?.email ?? ''
    const sent = await deliveriesOf(own.context, booking.id)
    expect(sent.filter(({ state }) => state !== 'sent' && state !== 'overtaken').map(({ occasion, state }) => `${occasion} ${state}`), about).toEqual([])
    expect(sent.filter(({ audience, occasion }) => audience === 'client' && occasion === 'booked').length, `confirmations of ${about}`).toBeLessThan(2)
    // The last entry that the client got is the booking as it stands.
    let entry = ''
    for (const mail of await inbox(email)) {
      const text = (await mailText(mail.id)).replace(/\r?\n /g, '')
      if (!text.includes('BEGIN:VCALENDAR')) continue
      entry = text
      break
    }
    if (booking.state === 'confirmed') {
      expect(entry, `the calendar entry of ${about}`).toContain(`DTSTART:${session.startsAt.toISOString().replace(/[-:]|\.\d+/g, '')}`)
      expect(entry).toContain('METHOD:REQUEST')
    } else if (entry) expect(entry, `the calendar entry of ${about}`).toContain('METHOD:CANCEL')
  }
}

it('leaves money, seats, turns and calendars as the states say, whatever comes in between', async () => {
  const day = Math.floor(own.context.now() / DAY) + AFTER_DAYS
  const start = (slot: number) => formatInstant(day * DAY + OPENS + slot * 30 * MINUTE)
  await fc.assert(fc.asyncProperty(fc.array(step, { minLength: 30, maxLength: 60 }), async (steps) => {
    const made: Made[] = []
    // Three at once.
    for (let index = 0; index < steps.length; index += 3)
      await Promise.all(steps.slice(index, index + 3).map(item => act(item, made, start)))
    await settle()
    await holds(made)
    for (const { token } of made) await post(`${own.url}/api/public/bookings/${token}/cancel`, {})
    await settle()
    await holds(made)
  }), { numRuns: campaign(3, 15), endOnFailure: true })
  expect((await audit(own.context)).broken.filter(({ workspaceId }) => workspaceId === workspace.id)).toEqual([])
  expect(await overlapsOf(own.context, workspace.id)).toBe(0)
  await checkLedger(own.context, workspace.id)
  expect(Math.min(...Object.values(seen)), JSON.stringify(seen)).toBeGreaterThan(0)
})
