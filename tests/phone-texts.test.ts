import { randomInt } from 'node:crypto'
import { and, eq } from 'drizzle-orm'
import { afterEach, beforeAll, describe, expect, it } from 'vitest'
import type { OwnMessage } from '../core/messages/own'
import type { QuietHours } from '../core/messages/quiet-hours'
import { deliveries, hosts, members, ownMessages, workspaces } from '../server/database/schema'
import { planOwnMessages } from '../server/messages'
import { useApplication } from './support/application'
import { call, phoneTexts, post, setFault, signIn } from './support/http'
import { attentionOf, type Booked, bookNext, shiftSession, trailOf } from './support/sessions'
import { addMember, makeWorkspace, type TestWorkspace } from './support/workspace'

/** Messages of a workspace's own that go to phones. */

const own = useApplication('phone_texts', { RETRY_PACE: '0.2', MAIL_TIMEOUT_SECONDS: '5' })
const HOUR = 3_600_000
const soon = { timeout: 30_000, interval: 100 }
let workspace: TestWorkspace
let headers: { cookie: string }
beforeAll(async () => {
  const settings = { places: [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }], reminders: [] }
  workspace = await makeWorkspace(own.context, { hosts: 1, zone: 'UTC', eventTypes: [{ slug: 'talk', settings }, { slug: 'silent', settings }] })
  headers = await signIn(own.url, workspace.owner)
  await setQuietHours(null)
  // The owner hosts too.
  const [owner] = await own.context.db.select({ id: members.id }).from(members).where(eq(members.email, workspace.owner.email))
  await own.context.db.update(hosts).set({ memberId: owner?.id ?? null }).where(eq(hosts.id, workspace.hosts[0]?.id ?? ''))
})
afterEach(async () => {
  await setFault('pigeonhole', 'none')
  await setQuietHours(null)
})

const path = () => `${own.url}/api/desk/own-messages`
const setQuietHours = (quietHours: QuietHours | null) =>
  own.context.db.update(workspaces).set({ quietHours }).where(eq(workspaces.id, workspace.id))
const newNumber = () => `+35191${randomInt(1_000_000, 9_999_999)}`
const clockIn = (minutes: number) => new Date(Date.now() + minutes * 60_000).toISOString().slice(11, 16)

/** Adds a message as if it had been there for a week. */
async function add(moment: OwnMessage['moment'], to: OwnMessage['to'] = ['client'], name = 'Note'): Promise<string> {
  const [talk] = (await call(`${own.url}/api/desk/messages`, { headers })).body.eventTypes
  const { status, body } = await post(path(), { eventType: talk.id, definition: { name, moment, by: 'phone', to } }, headers)
  expect(status, JSON.stringify(body)).toBe(200)
  await own.context.db.update(ownMessages).set({ since: new Date(Date.now() - 7 * 24 * HOUR) }).where(eq(ownMessages.id, body.id))
  return body.id
}
const remove = (id: string) => call(`${path()}/${id}`, { method: 'DELETE', headers })

let day = 2
const bookWith = (phone: string | undefined, more: Record<string, unknown> = {}): Promise<Booked> =>
  bookNext(own.url, own.context, workspace, 'talk', {
    timeZone: 'UTC', client: { name: 'Ana Reis', email: `ana${day}@${workspace.slug}.example`, ...phone === undefined ? {} : { phone } }, ...more,
  }, ++day)
const startsIn = ({ sessionId }: Booked, minutes: number) => {
  const start = Math.round(Date.now() / 60_000) * 60_000 + minutes * 60_000
  return shiftSession(own.context, sessionId, new Date(start), new Date(start + HOUR / 2))
}
const stateOf = async ({ bookingId }: Booked, ownId: string) => (await own.context.db.select().from(deliveries)
  .where(and(eq(deliveries.bookingId, bookingId), eq(deliveries.ownId, ownId)))).map(({ channel, address, state }) => `${channel} ${address} ${state}`)

describe('a phone text', () => {
  it('goes to a client who gave a number, for which their page asks, and can be ended by its link', async () => {
    const asks = async (slug: string) => (await call(`${own.url}/api/public/${workspace.slug}/${slug}`)).body.eventType.texts
    expect(await asks('talk')).toBe(false)
    const id = await add({ kind: 'before', minutes: 60 })
    expect([await asks('talk'), await asks('silent')]).toEqual([true, false])
    const number = newNumber()
    const [booked, without] = [await bookWith(number), await bookWith(undefined)]
    for (const each of [booked, without]) await startsIn(each, 45)
    await Promise.all([1, 2, 3].map(() => planOwnMessages(own.context)))
    await expect.poll(() => phoneTexts(number), soon).toHaveLength(1)
    const [{ text = '', from = '' } = {}] = await phoneTexts(number)
    expect(from).toBe('Fernhollow')
    expect(text).toMatch(/Move or cancel: http\S+\/bookings\/\S+\nNo more texts: http/)
    expect(await stateOf(without, id)).toEqual([])
    await expect.poll(() => trailOf(own.context, workspace, booked.sessionId), soon).toContainEqual(`Texted “Note” to ${number}.`)

    const token = /\/bookings\/reminders\/([\w-]+)/.exec(text)?.[1] ?? ''
    expect((await post(`${own.url}/api/public/bookings/reminders/${token}`, { wanted: false })).body).toMatchObject({ address: number, wanted: false })
    const again = await bookWith(number)
    await startsIn(again, 30)
    await planOwnMessages(own.context)
    expect(await stateOf(again, id)).toEqual([])
    await remove(id)
    expect(await asks('talk')).toBe(false)
  })

  it('goes to the host whose number is known', async () => {
    const number = newNumber()
    const [host] = workspace.hosts
    await own.context.db.update(hosts).set({ phone: number }).where(eq(hosts.id, host?.id ?? ''))
    const id = await add({ kind: 'on', occasion: 'booked' }, ['hosts'])
    const booked = await bookWith(undefined)
    await planOwnMessages(own.context)
    // Those that were booked before get it too, since the message has been there for a week.
    await expect.poll(async () => (await phoneTexts(number)).filter(({ text }) => text.includes(`/desk/sessions/${booked.sessionId}`)), soon)
      .toHaveLength(1)
    await remove(id)
  })

  it('goes to coordinators by the number that they give, also to one who hosts, and to nobody else', async () => {
    const [number, other] = [newNumber(), newNumber()]
    const coordinator = await addMember(own.context, workspace, 'coordinator')
    const signedIn = await signIn(own.url, coordinator)
    const saved = await call(`${own.url}/api/desk/me`, {
      method: 'PUT', headers: { ...signedIn, 'content-type': 'application/json' },
      body: JSON.stringify({ timeZone: 'Asia/Kolkata', clock: null, phone: number.replace('+351', '+351 ') }),
    })
    expect(saved.body).toMatchObject({ phone: number })
    await own.context.db.update(hosts).set({ phone: other }).where(eq(hosts.id, workspace.hosts[0]?.id ?? ''))
    const id = await add({ kind: 'on', occasion: 'booked' }, ['coordinators'])
    const booked = await bookWith(undefined)
    await planOwnMessages(own.context)
    await expect.poll(() => stateOf(booked, id), soon).toEqual([`phone ${number} sent`])
    // It is read in the coordinator's own zone.
    expect((await phoneTexts(number)).find(({ text }) => text.includes(`/desk/sessions/${booked.sessionId}`))?.text).toMatch(/:30/)
    // One who sits in the session is told as a coordinator, too.
    const [member] = await own.context.db.select({ id: members.id }).from(members).where(eq(members.email, coordinator.email))
    const [before] = await own.context.db.select().from(hosts).where(eq(hosts.id, workspace.hosts[0]?.id ?? ''))
    await own.context.db.update(hosts).set({ memberId: member?.id ?? null, email: coordinator.email }).where(eq(hosts.id, before?.id ?? ''))
    const hosted = await bookWith(undefined)
    await planOwnMessages(own.context)
    await expect.poll(() => stateOf(hosted, id), soon).toEqual([`phone ${number} sent`])
    await own.context.db.update(hosts).set({ memberId: before?.memberId ?? null, email: before?.email ?? '' }).where(eq(hosts.id, before?.id ?? ''))
    await remove(id)
  })

  it('is given up at once for a number that nobody has, and shown to a person', async () => {
    const id = await add({ kind: 'on', occasion: 'booked' })
    const booked = await bookWith('+351912300000')
    await planOwnMessages(own.context)
    await expect.poll(() => stateOf(booked, id), soon).toEqual(['phone +351912300000 failed'])
    expect(await trailOf(own.context, workspace, booked.sessionId)).toContainEqual(
      'Could not text “Note” to +351912300000: no phone has that number (No phone has this number); no further try is planned.',
    )
    expect((await attentionOf(own.url, workspace)).map(({ kind }) => kind)).toContain('message')
    await remove(id)
  })

  it('is sent again after a refusal for a while, and once more under the same key where nobody knows', async () => {
    const id = await add({ kind: 'on', occasion: 'booked' })
    const [busy, lost] = [newNumber(), newNumber()]
    await setFault('pigeonhole', 'failing', 3)
    const first = await bookWith(busy)
    await planOwnMessages(own.context)
    await expect.poll(() => stateOf(first, id), soon).toEqual([`phone ${busy} sent`])
    await setFault('pigeonhole', 'losing')
    const second = await bookWith(lost)
    await planOwnMessages(own.context)
    await expect.poll(() => stateOf(second, id), soon).toEqual([`phone ${lost} unknown`])
    expect(await phoneTexts(lost)).toHaveLength(1)
    expect(await phoneTexts(busy)).toHaveLength(1)
    await remove(id)
  })
})

describe('quiet hours', () => {
  it('hold a text until they end, by the clock of its reader', async () => {
    const id = await add({ kind: 'on', occasion: 'booked' })
    const until = clockIn(90)
    const shown = until.replace(/^0/, '')
    await setQuietHours({ from: clockIn(-60), to: until })
    const [here, there] = [newNumber(), newNumber()]
    const held = await bookWith(here)
    const free = await bookWith(there, { timeZone: 'Asia/Kolkata' })
    await planOwnMessages(own.context)
    await expect.poll(() => stateOf(free, id), soon).toEqual([`phone ${there} sent`])
    await expect.poll(() => trailOf(own.context, workspace, held.sessionId), soon).toContainEqual(`Holding “Note” to ${here} until the quiet hours end at ${shown}.`)
    expect(await stateOf(held, id)).toEqual([`phone ${here} planned`])
    await remove(id)
  })

  it('send what comes before a session ahead of them, and say of what is too late that it was not sent', async () => {
    const id = await add({ kind: 'before', minutes: 60 })
    const [ahead, late] = [newNumber(), newNumber()]
    const [early, missed] = [await bookWith(ahead), await bookWith(late)]
    // An hour before falls into the quiet hours, which have not begun.
    await startsIn(early, 150)
    await setQuietHours({ from: clockIn(5), to: clockIn(240) })
    await planOwnMessages(own.context)
    await expect.poll(() => stateOf(early, id), soon).toEqual([`phone ${ahead} sent`])
    await setQuietHours({ from: clockIn(-60), to: clockIn(240) })
    await startsIn(missed, 90)
    await planOwnMessages(own.context)
    await expect.poll(() => stateOf(missed, id), soon).toEqual([`phone ${late} overtaken`])
    expect(await trailOf(own.context, workspace, missed.sessionId)).toContainEqual(
      `Did not text “Note” to ${late}: it would have come too late after the quiet hours.`,
    )
    expect(await phoneTexts(late)).toEqual([])
    await remove(id)
  })
})

it('is worded without a subject, tried on one’s own phone, and stays a phone text', async () => {
  const id = await add({ kind: 'after', minutes: 0, if: 'notMissed' })
  const worded = `${own.url}/api/desk/messages/own/${id}`
  const put = (url: string, body: unknown) => call(url, { method: 'PUT', headers: { ...headers, 'content-type': 'application/json' }, body: JSON.stringify(body) })
  const eventType = (await call(`${own.url}/api/desk/messages`, { headers })).body.eventTypes[0].id
  const draft = { eventType, booking: 0, variation: null, wording: { subject: '', text: 'Bom dia, {{ client.firstName }} – até já!' } }
  expect((await post(`${worded}/preview`, draft, headers)).body).toMatchObject({ faults: [], size: { parts: 1 }, plain: expect.stringMatching(/^Bom dia, \w+/) })
  expect((await put(worded, { eventType, basedOn: 1, wording: { ...draft.wording, text: '{{ nope }}' } })).status).toBe(422)
  expect((await put(worded, { eventType, basedOn: 1, wording: draft.wording })).status).toBe(200)

  const number = newNumber()
  const setOwn = (phone: string | null) => own.context.db.update(hosts).set({ phone }).where(eq(hosts.id, workspace.hosts[0]?.id ?? ''))
  await setOwn(null)
  expect((await post(`${worded}/test`, draft, headers)).status).toBe(409)
  await setOwn(number)
  expect(await post(`${worded}/test`, draft, headers)).toMatchObject({ status: 200, body: { to: number } })
  expect((await phoneTexts(number))[0]?.text).toMatch(/^Bom dia/)

  const definition = { name: 'Note', moment: { kind: 'after', minutes: 0, if: 'notMissed' }, by: 'phone', to: ['client'] }
  expect((await put(`${path()}/${id}`, { basedOn: 1, definition: { ...definition, by: 'mail' } })).status).toBe(422)
  expect((await post(path(), { eventType: null, definition: { ...definition, to: ['client', 'guests'] } }, headers)).status).toBe(400)
  await remove(id)
})
