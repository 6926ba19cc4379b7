import { and, eq } from 'drizzle-orm'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import type { Reminder } from '../core/event-type/reminders'
import type { Context } from '../server/context'
import { changes, deliveries } from '../server/database/schema'
import { planReminders } from '../server/messages'
import { closeContext, makeContext } from '../server/start'
import { book, call, inbox, mailText, post, rawMail, request, signIn } from './support/http'
import { type Booked, bookedOf, deliveriesOf, shiftSession, tokenOf } from './support/sessions'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/** Who is reminded of what, and when, whatever happens to the booking and to the worker in between. */

const app = inject('app')
let context: Context
beforeAll(async () => (context = await makeContext(inject('environment'))))
afterAll(() => closeContext(context))

const soon = { timeout: 30_000, interval: 100 }
const HOUR = 3600
const settings = {
  places: [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }], durations: [60], startEveryMinutes: 60, bufferAfterMinutes: 0,
}
const preset: Reminder[] = [{ kind: 'before', minutes: 1440 }, { kind: 'before', minutes: 60 }]

function team(hosts = 1): Promise<TestWorkspace> {
  return makeWorkspace(context, {
    hosts, zone: 'UTC', hours: 'Mo-Su 00:00-24:00', eventTypes: [{ slug: 'talk', settings: { ...settings, reminders: preset } }],
  })
}

/** A booking that starts in so many hours, made long before. */
async function bookedFor(workspace: TestWorkspace, hours: number, who: Record<string, unknown> = {}): Promise<Booked> {
  const day = new Date(Date.now() + 6 * 24 * HOUR * 1000)
  day.setUTCMinutes(0, 0, 0)
  const booked = await bookedOf(context, (await book(app, `${workspace.slug}/talk`, request(day.toISOString().replace('.000', ''), who))).body)
  await expect.poll(async () => (await deliveriesOf(context, booked.bookingId)).every(({ state }) => state === 'sent'), soon).toBe(true)
  await goTo(booked, hours)
  await toldAt(booked, Date.now() - 5 * 24 * HOUR * 1000)
  return booked
}

async function goTo({ sessionId }: Booked, hours: number): Promise<void> {
  const start = new Date(Math.round(Date.now() / 1000 + hours * HOUR) * 1000)
  await shiftSession(context, sessionId, start, new Date(start.getTime() + HOUR * 1000))
}
const toldAt = ({ sessionId }: Booked, at: number) =>
  context.db.update(changes).set({ at: new Date(at) }).where(eq(changes.sessionId, sessionId))

const reminders = async ({ bookingId }: Booked) => (await context.db.select().from(deliveries)
  .where(and(eq(deliveries.bookingId, bookingId), eq(deliveries.occasion, 'before'))).orderBy(deliveries.createdAt, deliveries.audience))
const sent = async (booked: Booked) => (await reminders(booked)).map(({ audience, reminder, state }) => `${audience} ${reminder} ${state}`)
const textOf = async (address: string) => mailText((await inbox(address))[0]?.id ?? '')

it('go to the client and to guests, with time, place and how to move or cancel, once by however many workers', async () => {
  const workspace = await team()
  const booked = await bookedFor(workspace, 23, { guests: [{ email: `gil@${workspace.slug}.example` }] })
  await Promise.all([planReminders(context), planReminders(context), planReminders(context)])
  await expect.poll(() => sent(booked), soon).toEqual(['client before 1440 sent', 'guest before 1440 sent'])
  const text = await textOf(booked.email)
  for (const words of ['A reminder of your', 'Here 1', `/bookings/${tokenOf(booked)}`, 'move or cancel', 'If you would rather not be reminded']) expect(text).toContain(words)
  expect(text).not.toContain('BEGIN:VCALENDAR')
  expect(await textOf(`gil@${workspace.slug}.example`)).not.toContain(tokenOf(booked))
  await planReminders(context)
  expect(await reminders(booked)).toHaveLength(2)
})

it('after a day without a worker are the last that is due, and none for what has begun, was cancelled or told a moment ago', async () => {
  const workspace = await team(4)
  const [late, begun, cancelled, fresh] = await Promise.all([0.5, -0.2, 0.6, 0.7].map(hours => bookedFor(workspace, hours)))
  if (!late || !begun || !cancelled || !fresh) throw new Error('Not booked')
  await post(`${app}/api/public/bookings/${tokenOf(cancelled)}/cancel`, {})
  await toldAt(fresh, Date.now() - 20 * 60_000)
  await planReminders(context)
  await expect.poll(() => sent(late), soon).toEqual(['client before 60 sent'])
  expect([await sent(begun), await sent(cancelled), await sent(fresh)]).toEqual([[], [], []])
})

it('of a time that a booking has left are not sent, and come anew for the next one', async () => {
  const workspace = await team()
  const booked = await bookedFor(workspace, 23)
  // Planned, and not sent before it moves.
  await planReminders({ ...context, now: () => Math.floor(Date.now() / 1000) + 120 })
  expect(await sent(booked)).toEqual(['client before 1440 planned'])
  await goTo(booked, 20)
  const [planned] = await reminders(booked)
  await context.db.update(deliveries).set({ createdAt: new Date(Date.now() - 60_000) }).where(eq(deliveries.id, planned?.id ?? ''))
  await post(`${app}/api/desk/deliveries/${planned?.id}/send`, {}, await signIn(app, workspace.owner))
  await expect.poll(() => sent(booked), soon).toEqual(['client before 1440 overtaken'])
  await planReminders(context)
  await expect.poll(() => sent(booked), soon).toEqual(['client before 1440 overtaken', 'client before 1440 sent'])
  await goTo(booked, 30)
  await planReminders(context)
  expect(await reminders(booked)).toHaveLength(2)
})

it('are ended by one click in the mail, for all bookings with the workspace, and wanted again on the page', async () => {
  const workspace = await team()
  const booked = await bookedFor(workspace, 23)
  await planReminders(context)
  await expect.poll(() => sent(booked), soon).toEqual(['client before 1440 sent'])
  const raw = (await rawMail((await inbox(booked.email))[0]?.id ?? '')).replace(/\r\n[ \t]+/g, ' ')
  expect(raw).toMatch(/^List-Unsubscribe-Post: List-Unsubscribe=One-Click\r$/m)
  const page = new URL(/^List-Unsubscribe: <([^>]+)>/m.exec(raw)?.[1] ?? '')
  // A mail program that only opens the link ends nothing.
  expect((await fetch(app + page.pathname)).status).toBe(200)
  const address = `${app}/api/public/bookings/reminders/${page.pathname.split('/').at(-1)}`
  expect((await call(address)).body).toEqual({ workspace: { slug: workspace.slug, name: `Workspace ${workspace.slug}` }, address: booked.email, wanted: true })
  const oneClick = await fetch(app + page.pathname, {
    method: 'POST', body: 'List-Unsubscribe=One-Click', headers: { 'content-type': 'application/x-www-form-urlencoded', 'origin': 'https://mail.example' },
  })
  expect(oneClick.status).toBe(204)
  await goTo(booked, 0.5)
  await planReminders(context)
  expect(await reminders(booked)).toHaveLength(1)
  expect((await post(address, { wanted: true })).body.wanted).toBe(true)
  await planReminders(context)
  await expect.poll(() => sent(booked), soon).toEqual(['client before 1440 sent', 'client before 60 sent'])
  expect((await fetch(`${app}/bookings/reminders/${'a'.repeat(64)}`, { method: 'POST' })).status).toBe(404)
})
