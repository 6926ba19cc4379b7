import { createHmac } from 'node:crypto'
import { eq } from 'drizzle-orm'
import { afterEach, beforeAll, describe, expect, it } from 'vitest'
import { bookings, payments } from '../server/database/schema'
import { endHolds } from '../server/payments'
import { useApplication } from './support/application'
import { book, call, mailText, inbox, post, request, setFault, signIn, startsOf } from './support/http'
import { connectTollgate, followPay, type Merchant, payAt, paymentsAt, price } from './support/payments'
import { attentionOf, type Booked, bookedOf, deliveriesOf, heldAtService, shiftSession, subjects, tokenOf, trailOf } from './support/sessions'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/** Bookings that are paid, and what is paid back, whatever the service does. */

const own = useApplication('payments', { RETRY_PACE: '0.05', VIDEO_TIMEOUT_SECONDS: '3' })
const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]
const soon = { timeout: 30_000, interval: 100 }
let workspace: TestWorkspace
let merchant: Merchant
let headers: { cookie: string }
beforeAll(async () => {
  workspace = await makeWorkspace(own.context, {
    hosts: 2, zone: 'UTC',
    eventTypes: [
      { slug: 'paid', settings: { places, price: price() } }, { slug: 'asked', settings: { places, price: price(), approval: true } },
      { slug: 'there', settings: { places, price: price({ when: 'session', per: 'person' }), seats: 4, mostPeople: 4 } },
      { slug: 'group', settings: { places, price: price({ per: 'person' }), seats: 6, mostPeople: 6 } },
    ],
  })
  merchant = await connectTollgate(own.context, workspace)
  headers = await signIn(own.url, workspace.owner)
})
afterEach(() => setFault('tollgate', 'none'))

interface Held extends Booked { payUrl: string }
let day = 2
async function hold(slug = 'paid', more: Record<string, unknown> = {}): Promise<Held> {
  const [start = ''] = await startsOf(own.url, `${workspace.slug}/${slug}`, ++day)
  const answer = await book(own.url, `${workspace.slug}/${slug}`, request(start, { client: { name: 'Ana Reis', email: `ana${day}@${workspace.slug}.example` }, ...more }))
  expect(answer.status, JSON.stringify(answer.body)).toBe(201)
  return { ...await bookedOf(own.context, answer.body), payUrl: answer.body.booking.payment?.payUrl ?? '' }
}
const viewOf = async (booked: Booked) => (await call(`${own.url}/api/public/bookings/${tokenOf(booked)}`)).body.booking
const stateOf = async (booked: Booked) => (await viewOf(booked)).state
const paymentOf = async ({ bookingId }: Booked) =>
  (await own.context.db.select().from(payments).where(eq(payments.bookingId, bookingId)))[0]
const thereOf = async (booked: Booked) => {
  const reference = (await paymentOf(booked))?.id
  return (await paymentsAt(merchant)).find(payment => payment.reference === reference)
}
async function pay(held: Held): Promise<void> {
  await payAt((await followPay(held.payUrl)).url)
}
async function paid(slug = 'paid', more: Record<string, unknown> = {}): Promise<Held> {
  const held = await hold(slug, more)
  await pay(held)
  await expect.poll(() => stateOf(held), soon).toBe(slug === 'asked' ? 'awaitingApproval' : 'confirmed')
  return held
}
const timeOut = ({ bookingId }: Booked) =>
  own.context.db.update(bookings).set({ expiresAt: new Date(Date.now() - 1000) }).where(eq(bookings.id, bookingId))
const cancel = (booked: Booked) => post(`${own.url}/api/public/bookings/${tokenOf(booked)}/cancel`, {})
const close = ({ bookingId }: Booked, state: 'cancelled' | 'declined') => post(`${own.url}/api/desk/bookings/${bookingId}/close`, { state }, headers)
const startsInHours = ({ sessionId }: Booked, hours: number) => {
  const start = Math.round(Date.now() / 60_000) * 60_000 + hours * 3_600_000
  return shiftSession(own.context, sessionId, new Date(start), new Date(start + 1_800_000))
}

describe('a booking that is paid for', () => {
  it('is held while it is paid, tells nobody else, and is confirmed by the notification', async () => {
    const held = await hold()
    expect(await viewOf(held)).toMatchObject({ state: 'held', payment: { state: 'due', amount: 12_000, currency: 'EUR', payUrl: `${held.manage}/pay` } })
    expect((await startsOf(own.url, `${workspace.slug}/paid`, day)).filter(start => start === held.start), 'one of two hosts is free').toHaveLength(1)
    await expect.poll(() => subjects(held.email), soon).toEqual(['To pay'])
    const { url, cookie } = await followPay(held.payUrl)
    const back = await payAt(url)
    expect(back).not.toContain(tokenOf(held))
    await expect.poll(() => stateOf(held), soon).toBe('confirmed')
    expect((await fetch(back, { redirect: 'manual', headers: { cookie } })).headers.get('location')).toBe(`${held.manage}?paid`)
    expect((await fetch(back, { redirect: 'manual' })).headers.get('location'), 'another browser').toBe(`${own.url}/${workspace.slug}`)
    await expect.poll(() => subjects(held.email), soon).toEqual(['To pay', 'Talk'])
    const [mail] = await inbox(held.email)
    expect(await mailText(mail?.id ?? '')).toContain('Paid: €120.00')
    const hosts = (await deliveriesOf(own.context, held.bookingId)).filter(({ audience }) => audience === 'host').map(({ occasion }) => occasion)
    expect(hosts).toEqual(['booked'])
    expect(await trailOf(own.context, workspace, held.sessionId)).toContainEqual('€120.00 came in through Tollgate.')
    // The page to pay at leads back to the booking from now on.
    expect((await followPay(held.payUrl)).url).toBe(held.manage)
  })

  it.each([['lost', 'forgetting'], ['sent twice', 'doubling'], ['signed by somebody else', 'garbled']] as const)('is confirmed where the notification is %s', async (_, fault) => {
    const held = await hold()
    const { url } = await followPay(held.payUrl)
    await setFault('tollgate', fault)
    await payAt(url)
    if (fault !== 'doubling') {
      await setFault('tollgate', 'none')
      await new Promise(resolve => setTimeout(resolve, 500))
      expect(await stateOf(held)).toBe('held')
      expect((await post(`${own.url}/api/public/bookings/${tokenOf(held)}/payment`, {})).body.booking.state).toBe('confirmed')
    }
    await expect.poll(() => stateOf(held), soon).toBe('confirmed')
    expect((await deliveriesOf(own.context, held.bookingId)).filter(({ occasion, audience }) => occasion === 'booked' && audience === 'client')).toHaveLength(1)
    expect(await paymentOf(held)).toMatchObject({ paidAmount: 12_000, refundAmount: 0 })
  })

  it('is free again where it is not paid in time, and what comes later goes back by itself', async () => {
    const held = await hold()
    const { url } = await followPay(held.payUrl)
    // The service cannot be asked to close its page.
    await setFault('tollgate', 'failing')
    await timeOut(held)
    await endHolds(own.context)
    expect(await viewOf(held)).toMatchObject({ state: 'expired', payment: { state: 'ended' } })
    expect((await startsOf(own.url, `${workspace.slug}/paid`, day)).includes(held.start)).toBe(true)
    const heard = async () => (await subjects(held.email)).filter(subject => subject !== 'To pay')
    await expect.poll(heard, soon).toEqual(['No longer held'])
    await payAt(url)
    await setFault('tollgate', 'none')
    await expect.poll(async () => (await thereOf(held))?.refunded, soon).toBe(12_000)
    await expect.poll(heard, soon).toEqual(['No longer held', 'Paid back'])
    const [mail] = await inbox(held.email)
    expect(await mailText(mail?.id ?? '')).toContain('came when the time was no longer held')
    expect(await viewOf(held)).toMatchObject({ state: 'expired', payment: { state: 'refunded', refunded: 12_000 } })
  })

  it('is confirmed at the end of the hold where only the service knows that it was paid, and cannot be paid after it', async () => {
    const [late, never] = [await hold(), await hold()]
    const pages = await Promise.all([late, never].map(held => followPay(held.payUrl)))
    await setFault('tollgate', 'forgetting', 1)
    await payAt(pages[0]?.url ?? '')
    for (const held of [late, never]) await timeOut(held)
    await Promise.all([1, 2, 3].map(() => endHolds(own.context)))
    expect([await stateOf(late), await stateOf(never)]).toEqual(['confirmed', 'expired'])
    await payAt(pages[1]?.url ?? '')
    expect(await thereOf(never)).toMatchObject({ state: 'closed', paid: null })
  })

  it('is not confirmed by another amount, which waits for a person', async () => {
    const held = await hold()
    await payAt((await followPay(held.payUrl)).url, 100)
    await expect.poll(async () => (await paymentOf(held))?.fault, soon).toEqual({ code: 'paymentDiffers', amount: 100, currency: 'EUR' })
    expect(await stateOf(held)).toBe('held')
    expect((await attentionOf(own.url, workspace)).map(({ kind }) => kind)).toContain('payment')
    await timeOut(held)
    await endHolds(own.context)
    expect(await stateOf(held)).toBe('expired')
  })

  it('is given up by its client, and nobody else hears of it', async () => {
    const held = await hold()
    await followPay(held.payUrl)
    expect((await cancel(held)).body.booking.state).toBe('cancelled')
    await expect.poll(async () => (await thereOf(held))?.state, soon).toBe('closed')
    expect((await deliveriesOf(own.context, held.bookingId)).filter(({ occasion }) => occasion !== 'paymentWanted')).toEqual([])
    expect((await followPay(held.payUrl)).url).toBe(held.manage)
  })

  it('says so where the service cannot be reached', async () => {
    const held = await hold()
    await setFault('tollgate', 'failing')
    expect((await followPay(held.payUrl)).url).toBe(`${held.manage}?unpayable`)
    expect(await stateOf(held)).toBe('held')
  })
})

describe('money is paid back', () => {
  it.each([
    ['all of it to a client who cancels early', 48, 12_000], ['half of it to one who cancels late', 3, 6000],
  ])('%s', async (_, hours, refund) => {
    const booked = await paid()
    await startsInHours(booked, hours)
    await cancel(booked)
    await expect.poll(async () => (await thereOf(booked))?.refunded, soon).toBe(refund)
    await expect.poll(() => subjects(booked.email), soon).toContain('Paid back')
    expect((await viewOf(booked)).payment).toMatchObject({ state: refund === 12_000 ? 'refunded' : 'partlyRefunded', refunded: refund })
  })

  it('all of it where the team cancels or declines', async () => {
    const [cancelled, declined] = [await paid(), await paid('asked')]
    await startsInHours(cancelled, 3)
    expect((await close(cancelled, 'cancelled')).status).toBe(200)
    expect((await close(declined, 'declined')).status).toBe(200)
    for (const booked of [cancelled, declined]) await expect.poll(async () => (await thereOf(booked))?.refunded, soon).toBe(12_000)
  })

  it('once, where the service loses its answers, and by a person where it goes on refusing', async () => {
    const [lost, refused] = [await paid(), await paid()]
    await setFault('tollgate', 'losing', 3)
    await cancel(lost)
    await expect.poll(async () => (await paymentOf(lost))?.refundedAmount, soon).toBe(12_000)
    expect((await thereOf(lost))?.refunded).toBe(12_000)
    await expect.poll(() => subjects(lost.email), soon).toContain('Paid back')
    expect((await subjects(lost.email)).filter(subject => subject === 'Paid back')).toHaveLength(1)

    await setFault('tollgate', 'refusing')
    await cancel(refused)
    await expect.poll(async () => (await attentionOf(own.url, workspace)).some(({ kind }) => kind === 'payment'), soon).toBe(true)
    expect(await trailOf(own.context, workspace, refused.sessionId)).toContainEqual(expect.stringMatching(/^€120\.00 could not be paid back: Tollgate/))
    await setFault('tollgate', 'none')
    expect((await post(`${own.url}/api/desk/bookings/${refused.bookingId}/refund`, {}, headers)).status).toBe(200)
    await expect.poll(async () => (await thereOf(refused))?.refunded, soon).toBe(12_000)
  })

  it('for each person who no longer comes, and no more people are added to what is paid', async () => {
    const booked = await paid('group', { people: 3 })
    expect((await thereOf(booked))?.paid?.amount).toBe(36_000)
    const change = (people: number) => post(`${own.url}/api/public/bookings/${tokenOf(booked)}/people`, { people })
    expect((await change(4)).body.errors[0].message).toBe('So many are paid for. Book the others separately')
    expect((await change(2)).status).toBe(200)
    await expect.poll(async () => (await thereOf(booked))?.refunded, soon).toBe(12_000)
    await cancel(booked)
    await expect.poll(async () => (await thereOf(booked))?.refunded, soon).toBe(36_000)
  })

  it('also after the application was killed while it asked', async () => {
    const booked = await paid()
    await setFault('tollgate', 'holding', 1)
    await cancel(booked)
    await expect.poll(() => heldAtService('tollgate'), soon).toBe(1)
    await own.process.stop('SIGKILL')
    await setFault('tollgate', 'none')
    await own.start()
    await expect.poll(async () => (await paymentOf(booked))?.refundedAmount, { ...soon, timeout: 60_000 }).toBe(12_000)
    expect((await thereOf(booked))?.refunded).toBe(12_000)
    await expect.poll(() => subjects(booked.email), soon).toContain('Paid back')
    expect((await subjects(booked.email)).filter(subject => subject === 'Paid back')).toHaveLength(1)
  })
})

describe('what is paid at the session', () => {
  it('is confirmed at once, follows the number of people, and is marked by its host', async () => {
    const booked = await hold('there', { people: 2 })
    expect(await viewOf(booked)).toMatchObject({ state: 'confirmed', payment: { state: 'atSession', amount: 24_000 } })
    await post(`${own.url}/api/public/bookings/${tokenOf(booked)}/people`, { people: 3 })
    expect((await viewOf(booked)).payment.amount).toBe(36_000)
    const mark = (isPaid: boolean) => post(`${own.url}/api/desk/bookings/${booked.bookingId}/payment`, { paid: isPaid }, headers)
    expect((await mark(true)).status).toBe(200)
    expect((await viewOf(booked)).payment.state).toBe('paid')
    expect(await trailOf(own.context, workspace, booked.sessionId)).toContainEqual('Test Owner marked €360.00 as paid.')
    expect((await mark(false)).status).toBe(200)
    expect((await viewOf(booked)).payment.state).toBe('atSession')
    await cancel(booked)
    expect((await mark(true)).status).toBe(409)
    const other = await paid()
    expect((await post(`${own.url}/api/desk/bookings/${other.bookingId}/payment`, { paid: true }, headers)).status).toBe(409)
  })
})

describe('notifications', () => {
  const id = 'msg_test'
  const send = (url: string, body: string, { secret, at = Math.floor(Date.now() / 1000) }: { secret: string, at?: number }) => fetch(url, {
    method: 'POST', body,
    headers: {
      'webhook-id': id, 'webhook-timestamp': String(at),
      'webhook-signature': `v1,${createHmac('sha256', secret).update(`${id}.${at}.${body}`).digest('base64')}`,
    },
  })

  it('count only with the signature of the account that the payment goes to', async () => {
    const held = await hold()
    await followPay(held.payUrl)
    const there = await thereOf(held)
    const url = there?.notifyUrl ?? ''
    const body = JSON.stringify({ type: 'payment.paid', reference: there?.reference, paid: { amount: 12_000, currency: 'EUR' } })
    const old = Math.floor(Date.now() / 1000) - 3600
    for (const wrong of [{ secret: 'guess' }, { secret: merchant.secret, at: old }]) expect((await send(url, body, wrong)).status).toBe(404)
    expect((await fetch(url, { method: 'POST', body })).status).toBe(404)
    // Another workspace's account, with its own right signature.
    const stranger = await makeWorkspace(own.context, { hosts: 1, zone: 'UTC', eventTypes: [{ slug: 'paid', settings: { places, price: price() } }] })
    const other = await connectTollgate(own.context, stranger)
    const [start = ''] = await startsOf(own.url, `${stranger.slug}/paid`, 3)
    const theirs = (await book(own.url, `${stranger.slug}/paid`, request(start))).body.booking.payment.payUrl
    await followPay(theirs)
    const [payment] = await paymentsAt(other)
    expect((await send(payment?.notifyUrl ?? '', body, { secret: other.secret })).status).toBe(204)
    expect(await stateOf(held)).toBe('held')
    for (const garbage of ['', '{}', 'null', '[]', JSON.stringify({ reference: 7 }), JSON.stringify({ reference: there?.reference, paid: { amount: -1, currency: 'EUR' } })])
      expect((await send(url, garbage, { secret: merchant.secret })).status).toBe(404)
    expect((await send(url, body, { secret: merchant.secret })).status).toBe(204)
    expect(await stateOf(held)).toBe('confirmed')
  })
})

it('cannot be booked without an account to pay to, and an account is tried before it is saved', async () => {
  const other = await makeWorkspace(own.context, { hosts: 1, zone: 'UTC', eventTypes: [{ slug: 'paid', settings: { places, price: price() } }] })
  const theirs = await signIn(own.url, other.owner)
  const page = () => call(`${own.url}/api/public/${other.slug}/paid`)
  expect((await page()).status).toBe(404)
  const connect = (fields: Record<string, string>) => post(`${own.url}/api/desk/payments/tollgate/connect`, { fields }, theirs)
  expect((await connect({ key: 'nobody', secret: 'x' })).status).toBe(502)
  expect((await connect({ key: merchant.key, secret: 'wrong' })).status).toBe(502)
  expect((await connect({ key: merchant.key })).status).toBe(400)
  expect((await page()).status).toBe(404)
  await connectTollgate(own.context, other)
  expect((await page()).body.eventType.price).toMatchObject({ amount: 12_000, currency: 'EUR', when: 'booking' })
  expect((await post(`${own.url}/api/desk/payments/disconnect`, {}, theirs)).status).toBe(200)
  expect((await page()).status).toBe(404)
})
