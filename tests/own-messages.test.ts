import { and, eq } from 'drizzle-orm'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import type { z } from 'zod'
import type { ownMessageSchema } from '../core/messages/own'
import type { Context } from '../server/context'
import { deliveries, ownMessages } from '../server/database/schema'
import { planOwnMessages } from '../server/messages'
import { closeContext, makeContext } from '../server/start'
import { book, call, inbox, mailText, post, rawMail, request, signIn } from './support/http'
import { type Booked, bookedOf, bookNext, shiftSession, tokenOf } from './support/sessions'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/** Messages that a workspace adds: before and after sessions, and once something has happened. */

const app = inject('app')
const settings = { places: [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }], reminders: [] }
let context: Context
let workspace: TestWorkspace
let headers: { cookie: string }
beforeAll(async () => {
  context = await makeContext(inject('environment'))
  workspace = await makeWorkspace(context, { hosts: 1, zone: 'UTC', eventTypes: [{ slug: 'talk', settings }, { slug: 'shared', settings: { ...settings, seats: 3 } }] })
  headers = await signIn(app, workspace.owner)
})
afterAll(() => closeContext(context))

const soon = { timeout: 30_000, interval: 100 }
const HOUR = 3_600_000
const path = `${app}/api/desk/own-messages`
const send = (method: string, url: string, body?: unknown) =>
  call(url, { method, headers: { ...headers, 'content-type': 'application/json' }, ...body === undefined ? {} : { body: JSON.stringify(body) } })

type Definition = z.input<typeof ownMessageSchema>

/** Adds a message as if it had been there for a week, and says its name in its words. */
async function add(definition: Definition, weekOld = true): Promise<string> {
  const { status, body: { id } } = await post(path, { eventType: null, definition }, headers)
  expect(status).toBe(200)
  if (weekOld) await context.db.update(ownMessages).set({ since: new Date(Date.now() - 7 * 24 * HOUR) }).where(eq(ownMessages.id, id))
  return id
}

/** Each on a day of its own. */
let day = 2
async function bookedAs(name: string, more: Record<string, unknown> = {}, slug = 'talk'): Promise<Booked> {
  return bookNext(app, context, workspace, slug, { client: { name: 'Ana Reis', email: `${name}@${workspace.slug}.example` }, ...more }, ++day)
}
const endedAgo = ({ sessionId }: Booked, hours: number) => {
  const end = Math.round(Date.now() / 60_000) * 60_000 - hours * HOUR
  return shiftSession(context, sessionId, new Date(end - HOUR / 2), new Date(end))
}
const mark = ({ bookingId }: Booked, state: 'attended' | 'missed') => send('POST', `${app}/api/desk/bookings/${bookingId}/attendance`, { state })
const sentOf = async ({ bookingId }: Booked, ownId: string) => (await context.db.select().from(deliveries)
  .where(and(eq(deliveries.bookingId, bookingId), eq(deliveries.ownId, ownId)))).map(({ audience, state }) => `${audience} ${state}`).sort()

it('go out after a session to those that they are for, once by however many workers, and can be ended', async () => {
  const thanks = await add({ name: 'Care advice', moment: { kind: 'after', minutes: 120, if: 'attended' }, to: ['client'] })
  const sorry = await add({ name: 'Sorry', moment: { kind: 'after', minutes: 120, if: 'missed' }, to: ['client'] })
  const [came, missed, unmarked, early] = [await bookedAs('came'), await bookedAs('missed'), await bookedAs('unmarked'), await bookedAs('early')]
  for (const booked of [came, missed, unmarked]) await endedAgo(booked, 3)
  await endedAgo(early, 1)
  for (const [booked, state] of [[came, 'attended'], [missed, 'missed'], [early, 'attended']] as const) expect((await mark(booked, state)).status).toBe(200)
  await Promise.all([1, 2, 3].map(() => planOwnMessages(context)))
  await expect.poll(() => sentOf(came, thanks), soon).toEqual(['client sent'])
  await expect.poll(() => sentOf(missed, sorry), soon).toEqual(['client sent'])
  const others = [[came, sorry], [missed, thanks], [unmarked, thanks], [early, thanks]] as const
  for (const [booked, id] of others) expect(await sentOf(booked, id)).toEqual([])

  const mail = (await inbox(came.email)).find(({ subject }) => subject.startsWith('Thank you'))
  const text = await mailText(mail?.id ?? '')
  expect(text).toContain('Thank you for coming')
  expect(await rawMail(mail?.id ?? '')).toMatch(/^List-Unsubscribe-Post: /m)
  // Ended by the link of the one, the other is not sent either.
  const token = /\/bookings\/reminders\/([\w-]+)/.exec(text)?.[1] ?? ''
  expect((await post(`${app}/api/public/bookings/reminders/${token}`, { wanted: false })).status).toBe(200)
  const again = await bookedAs('came')
  await endedAgo(again, 3)
  await mark(again, 'attended')
  await planOwnMessages(context)
  expect(await sentOf(again, thanks)).toEqual([])
})

it('go out once something has happened, to whom they are for, and no more once removed', async () => {
  const prepare = await add({ name: 'How to prepare', moment: { kind: 'on', occasion: 'booked' }, to: ['client', 'guests'] })
  const inform = await add({ name: 'Keys', moment: { kind: 'on', occasion: 'cancelled' }, to: ['hosts'] })
  const booked = await bookedAs('prepare', { guests: [{ email: `guest@${workspace.slug}.example` }] })
  await planOwnMessages(context)
  await expect.poll(() => sentOf(booked, prepare), soon).toEqual(['client sent', 'guest sent'])
  await post(`${app}/api/public/bookings/${tokenOf(booked)}/cancel`, {})
  await planOwnMessages(context)
  await expect.poll(() => sentOf(booked, inform), soon).toEqual(['host sent'])

  const { body } = await call(`${app}/api/desk/messages`, { headers })
  expect(body.own.map(({ name }: { name: string }) => name)).toEqual(expect.arrayContaining(['How to prepare', 'Keys']))
  expect((await send('DELETE', `${path}/${prepare}`)).status).toBe(200)
  const other = await bookedAs('removed')
  await planOwnMessages(context)
  expect(await sentOf(other, prepare)).toEqual([])
  expect((await send('DELETE', `${path}/${prepare}`)).status).toBe(404)
  expect((await call(`${app}/api/desk/messages/own/${prepare}`, { headers })).status).toBe(404)
})

it('are due by the client’s clock the day before, and not for what was due before they were added', async () => {
  const evening = await add({ name: 'Evening', moment: { kind: 'dayBefore', at: '18:00' }, to: ['client'] })
  const booked = await bookedAs('evening', { timeZone: 'Asia/Kolkata' })
  const date = new Date(Date.now() + 30 * 24 * HOUR).toISOString().slice(0, 10)
  // 20:00 at midnight's other side: the day before in Kolkata ends at 18:30 in Greenwich.
  await shiftSession(context, booked.sessionId, new Date(`${date}T20:00:00Z`), new Date(`${date}T20:30:00Z`))
  const at = (time: string) => ({ ...context, now: () => Date.parse(`${date}T${time}Z`) / 1000 })
  await planOwnMessages(at('12:29:00'))
  expect(await sentOf(booked, evening)).toEqual([])
  await planOwnMessages(at('12:30:00'))
  expect(await sentOf(booked, evening)).toHaveLength(1)

  const late = await add({ name: 'Late', moment: { kind: 'before', minutes: 14_400 }, to: ['client'] }, false)
  await context.db.update(ownMessages).set({ since: new Date(Date.now() + HOUR) }).where(eq(ownMessages.id, late))
  await planOwnMessages(context)
  expect(await sentOf(booked, late)).toEqual([])
})

it('go to the hosts once for a session that several clients share, and to each of its clients', async () => {
  const report = await add({ name: 'Report', moment: { kind: 'after', minutes: 0, if: 'notMissed' }, to: ['hosts'] })
  const thanks = await add({ name: 'Thanks', moment: { kind: 'after', minutes: 0, if: 'notMissed' }, to: ['client'] })
  const one = await bookedAs('one', {}, 'shared')
  const client = { name: 'Bo', email: `two@${workspace.slug}.example` }
  const two = await bookedOf(context, (await book(app, `${workspace.slug}/shared`, request(one.start, { client }))).body)
  expect(two.sessionId).toBe(one.sessionId)
  await endedAgo(one, 1)
  await planOwnMessages(context)
  const toHosts = async () => [...await sentOf(one, report), ...await sentOf(two, report)]
  await expect.poll(toHosts, soon).toEqual(['host sent'])
  for (const booked of [one, two]) await expect.poll(() => sentOf(booked, thanks), soon).toEqual(['client sent'])
  // Whoever it was sent about is no longer there.
  for (const booked of [one, two]) if ((await sentOf(booked, report)).length > 0) await mark(booked, 'missed')
  await planOwnMessages(context)
  expect(await toHosts()).toEqual(['host sent'])
})

it('are checked, changed over the version that was read, and worded for one side', async () => {
  const definition: Definition = { name: 'Note', moment: { kind: 'after', minutes: 0, if: 'notMissed' }, to: ['client'] }
  const id = await add(definition)
  expect(await send('PUT', `${path}/${id}`, { basedOn: 1, definition: { ...definition, name: 'Other' } })).toMatchObject({ status: 200, body: { version: 2 } })
  expect((await send('PUT', `${path}/${id}`, { basedOn: 1, definition })).status).toBe(409)
  expect((await send('PUT', `${path}/${id}`, { basedOn: 2, definition: { ...definition, to: ['hosts'] } })).status).toBe(422)
  for (const wrong of [{ to: ['client', 'hosts'] }, { to: [] }, { moment: { kind: 'before', minutes: 5 } }, { moment: { kind: 'dayBefore', at: 'soon' } }, { name: ' ' }])
    expect((await post(path, { eventType: null, definition: { ...definition, ...wrong } }, headers)).status).toBe(400)
  expect((await post(path, { eventType: crypto.randomUUID(), definition }, headers)).status).toBe(404)
  const worded = `${app}/api/desk/messages/own/${id}`
  expect((await call(worded, { headers })).body).toMatchObject({ version: 1, source: 'workspace', wording: { subject: 'Thank you: {{ eventType.name }}' } })
  expect((await send('PUT', worded, { eventType: null, wording: { subject: 'Hi', text: '{{ client.firstName }}' }, basedOn: 1 })).status).toBe(200)
  const strangers = await signIn(app, (await makeWorkspace(context, { hosts: 1, eventTypes: [] })).owner)
  expect((await call(worded, { headers: strangers })).status).toBe(404)
})
