import { randomUUID } from 'node:crypto'
import { and, eq } from 'drizzle-orm'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import { until } from '../scripts/run/processes'
import { expireRequests } from '../server/booking'
import type { Context } from '../server/context'
import { bookings, eventTypes, sessionHosts } from '../server/database/schema'
import { endHolds } from '../server/payments'
import { closeContext, makeContext } from '../server/start'
import { book, call, inbox, mailText, post, rawMail, request, signIn } from './support/http'
import { connectTollgate, followPay, payAt, price } from './support/payments'
import { type Booked, bookedOf, bookNext, deliveriesOf, tokenOf } from './support/sessions'
import { findMailFaults } from './support/strict-mail'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/** For every change and every person: which message they get, and with which method for their calendar. */

const app = inject('app')
let context: Context
beforeAll(async () => (context = await makeContext(inject('environment'))))
afterAll(() => closeContext(context))

const settings = {
  places: [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }],
  durations: [60], startEveryMinutes: 60, bufferAfterMinutes: 0,
}
const hour = (start: string, hours: number) => new Date(Date.parse(start) + hours * 3_600_000).toISOString().replace('.000', '')

interface Scene {
  workspace: TestWorkspace
  headers: { cookie: string }
  booking: Booked
  /** Somebody else in the same session, or in another one where there is one seat. */
  neighbour: Booked
  hostId: string
}
type Person = 'client' | 'guest' | 'newGuest' | 'host' | 'otherHost' | 'neighbour'
/** The first word of the subject and the method, or nothing. */
type Heard = Partial<Record<Person, [subject: string, method: 'REQUEST' | 'CANCEL' | null]>>

const desk = ({ headers }: Scene, path: string, body: object = {}) => post(`${app}/api/desk/${path}`, body, headers)
const publicly = ({ booking }: Scene, what: string, body: object = {}) => post(`${app}/api/public/bookings/${tokenOf(booking)}/${what}`, body)
const toOther = (scene: Scene) =>
  desk(scene, `hosts/${scene.hostId}/hand-over`, { seats: [{ sessionId: scene.booking.sessionId, to: null }] })

/** Another session of the same host is in the way at the new time, so that the other one takes over. */
async function moveToOther(scene: Scene) {
  const { workspace, booking, hostId } = scene
  const start = hour(booking.start, 3)
  for (const answer of [await book(app, `${workspace.slug}/talk`, request(start)), await book(app, `${workspace.slug}/talk`, request(start))]) {
    const made = await bookedOf(context, answer.body)
    const [seat] = await context.db.select().from(sessionHosts).where(eq(sessionHosts.sessionId, made.sessionId))
    await allSent(made)
    if (seat?.hostId === hostId) continue
    await post(`${app}/api/public/bookings/${tokenOf(made)}/cancel`, {})
    await allSent(made)
  }
  await forget(scene)
  return publicly(scene, 'move', { start })
}

async function expire(scene: Scene) {
  await context.db.update(bookings).set({ expiresAt: new Date(Date.now() - 60_000) }).where(eq(bookings.id, scene.booking.bookingId))
  await expireRequests(context)
  return { status: 200 }
}

async function payFor(scene: Scene) {
  await payAt((await followPay(`${scene.booking.manage}/pay`)).url)
  return publicly(scene, 'payment')
}

async function endHold(scene: Scene) {
  await context.db.update(bookings).set({ expiresAt: new Date(Date.now() - 60_000) }).where(eq(bookings.id, scene.booking.bookingId))
  await endHolds(context)
  return { status: 200 }
}

/** Books the client in once more, with the same guest. */
async function bookIn(scene: Scene, told?: string[]) {
  const { workspace, booking, hostId, headers } = scene
  const [eventType] = await context.db.select({ id: eventTypes.id }).from(eventTypes)
    .where(and(eq(eventTypes.workspaceId, workspace.id), eq(eventTypes.slug, 'talk')))
  const answer = await post(`${app}/api/desk/bookings`, {
    eventType: eventType?.id, host: hostId, start: hour(booking.start, 2), timeZone: 'UTC', answers: {}, ...told ? { told } : {},
    client: { name: 'Ana', email: booking.email }, guests: [{ email: people(scene).guest }],
  }, { ...headers, 'idempotency-key': randomUUID() })
  const [made] = await context.db.select().from(bookings).where(eq(bookings.sessionId, answer.body.sessionId))
  await allSent({ ...booking, bookingId: made?.id ?? '' })
  return { status: answer.status === 201 ? 200 : answer.status }
}

const table: [change: string, kind: 'talk' | 'asked' | 'shared' | 'paid', act: (scene: Scene) => Promise<{ status: number }>, heard: Heard][] = [
  ['a client moves', 'talk', scene => publicly(scene, 'move', { start: hour(scene.booking.start, 1) }),
    { client: ['New time', 'REQUEST'], guest: ['New time', 'REQUEST'], host: ['New time', 'REQUEST'] }],
  ['a member moves', 'talk', scene => desk(scene, `bookings/${scene.booking.bookingId}/move`, { start: hour(scene.booking.start, 1) }),
    { client: ['New time', 'REQUEST'], guest: ['New time', 'REQUEST'], host: ['New time', 'REQUEST'] }],
  ['a client moves to where the host is not free', 'talk', moveToOther,
    { client: ['New time', 'REQUEST'], guest: ['New time', 'REQUEST'], host: ['No longer yours', 'CANCEL'], otherHost: ['New time', 'REQUEST'] }],
  ['a member hands over', 'talk', toOther,
    { client: ['Another host', 'REQUEST'], guest: ['Another host', 'REQUEST'], host: ['No longer yours', 'CANCEL'], otherHost: ['Handed over', 'REQUEST'] }],
  ['a client cancels', 'talk', scene => publicly(scene, 'cancel'),
    { client: ['Cancelled', 'CANCEL'], guest: ['Cancelled', 'CANCEL'], host: ['Cancelled', 'CANCEL'] }],
  ['a member cancels', 'talk', scene => desk(scene, `bookings/${scene.booking.bookingId}/close`, { state: 'cancelled' }),
    { client: ['Cancelled', 'CANCEL'], guest: ['Cancelled', 'CANCEL'], host: ['Cancelled', 'CANCEL'] }],
  ['a member approves', 'asked', scene => desk(scene, `bookings/${scene.booking.bookingId}/approve`),
    { client: ['Asked', 'REQUEST'], guest: ['Asked', 'REQUEST'], host: ['Ana', 'REQUEST'] }],
  ['a member declines', 'asked', scene => desk(scene, `bookings/${scene.booking.bookingId}/close`, { state: 'declined' }),
    { client: ['Not possible', null], guest: ['Not possible', null], host: ['Declined', null] }],
  ['nobody answers', 'asked', expire, { client: ['No answer', null], guest: ['No answer', null], host: ['Expired', null] }],
  ['a client withdraws a request', 'asked', scene => publicly(scene, 'cancel'),
    { client: ['Cancelled', null], guest: ['Cancelled', null], host: ['Cancelled', null] }],
  ['a client moves a request', 'asked', scene => publicly(scene, 'move', { start: hour(scene.booking.start, 1) }),
    { client: ['New time', null], guest: ['New time', null], host: ['New time', null] }],
  ['a client takes a guest off the list', 'talk', scene => publicly(scene, 'guests', { remove: [`guest-of-${scene.booking.email}`] }),
    { client: ['Guests changed', 'REQUEST'], guest: ['No longer invited', 'CANCEL'], host: ['Guests changed', 'REQUEST'] }],
  ['a member invites another guest', 'shared', scene =>
    desk(scene, `bookings/${scene.booking.bookingId}/guests`, { add: [{ email: people(scene).newGuest, name: 'Nia' }] }),
  { client: ['Guests changed', 'REQUEST'], newGuest: ['Talk', 'REQUEST'], host: ['Guests changed', 'REQUEST'] }],
  ['a client brings a guest along to a request', 'asked', scene => publicly(scene, 'guests', { add: [{ email: people(scene).newGuest }] }),
    { client: ['Guests changed', null], newGuest: ['Asked', null], host: ['Guests changed', null] }],
  ['one of two cancels', 'shared', scene => publicly(scene, 'cancel'),
    { client: ['Cancelled', 'CANCEL'], guest: ['Cancelled', 'CANCEL'], host: ['Cancelled', 'REQUEST'] }],
  ['a client comes with more people', 'shared', scene => publicly(scene, 'people', { people: 2 }),
    { client: ['Now for 2 people', 'REQUEST'], host: ['Now for 2 people', 'REQUEST'] }],
  ['a member changes how many come', 'shared', scene => desk(scene, `bookings/${scene.booking.bookingId}/people`, { people: 2 }),
    { client: ['Now for 2 people', 'REQUEST'], host: ['Now for 2 people', 'REQUEST'] }],
  ['a client pays for what is held', 'paid', payFor, { client: ['Paid', 'REQUEST'], guest: ['Paid', 'REQUEST'], host: ['Ana', 'REQUEST'] }],
  ['nobody pays for what is held', 'paid', endHold, { client: ['No longer held', null] }],
  ['a client gives up what is held', 'paid', scene => publicly(scene, 'cancel'), {}],
  ['a member books a client in', 'talk', scene => bookIn(scene),
    { client: ['Talk', 'REQUEST'], guest: ['Talk', 'REQUEST'], host: ['Ana', 'REQUEST'] }],
  ['a member books a client in and lets only the host know', 'talk', scene => bookIn(scene, ['hosts']), { host: ['Ana', 'REQUEST'] }],
  ['a member moves two', 'shared', scene =>
    desk(scene, `bookings/${scene.booking.bookingId}/move`, { start: hour(scene.booking.start, 1), whole: true }),
  { client: ['New time', 'REQUEST'], guest: ['New time', 'REQUEST'], host: ['New time', 'REQUEST'], neighbour: ['New time', 'REQUEST'] }],
]

let known = new Map<string, number>()
const people = ({ workspace, booking, neighbour, hostId }: Scene): Record<Person, string> => ({
  client: booking.email, guest: `guest-of-${booking.email}`, newGuest: `new-guest-of-${booking.email}`, neighbour: neighbour.email,
  host: workspace.hosts.find(host => host.id === hostId)?.email ?? '',
  otherHost: workspace.hosts.find(host => host.id !== hostId)?.email ?? '',
})

/** What has come so far is not looked at. */
async function forget(scene: Scene): Promise<void> {
  known = new Map(await Promise.all(Object.values(people(scene)).map(async address =>
    [address, (await inbox(address)).length] as [string, number])))
}

async function allSent({ bookingId }: Booked): Promise<void> {
  await until(async () => (await deliveriesOf(context, bookingId)).every(({ state }) => state === 'sent'), 30, 'Not everybody hears of it')
}

async function heardSince(scene: Scene): Promise<Heard> {
  const heard: Heard = {}
  for (const [person, address] of Object.entries(people(scene)) as [Person, string][]) {
    const mails = await inbox(address)
    const fresh = mails.slice(0, mails.length - (known.get(address) ?? 0))
    expect(fresh.length, `${person} hears of it once at most`).toBeLessThan(2)
    const [mail] = fresh
    if (!mail) continue
    const text = await mailText(mail.id)
    expect(findMailFaults(await rawMail(mail.id), address), `the mail to ${person}`).toEqual([])
    const method = /^METHOD:(\w+)/m.exec(text)?.[1]
    heard[person] = [mail.subject.split(':')[0]?.split(',')[0] ?? '', method === 'REQUEST' || method === 'CANCEL' ? method : null]
    if (method) expect(text.replace(/\r?\n /g, ''), `the entry names ${person}`).toMatch(new RegExp(`^ATTENDEE.*mailto:${address}`, 'm'))
    // Nobody reads the address of a client whom they do not host.
    const strangers = person === 'client' || person === 'guest' ? [scene.neighbour.email] : person === 'neighbour' ? [scene.booking.email] : []
    for (const stranger of strangers) expect(text.replace(/\r?\n /g, '')).not.toContain(stranger)
  }
  return heard
}

it.each(table)('%s', async (_, kind, act, heard) => {
  const workspace = await makeWorkspace(context, {
    hosts: 2, zone: 'UTC', hours: 'Mo-Su 08:00-18:00',
    eventTypes: [
      { slug: 'talk', settings }, { slug: 'asked', settings: { ...settings, name: 'Asked', approval: true } },
      { slug: 'shared', settings: { ...settings, seats: 3, mostPeople: 2 } }, { slug: 'paid', settings: { ...settings, name: 'Paid', price: price() } },
    ],
  })
  await connectTollgate(context, workspace)
  const email = `ana@${workspace.slug}.example`
  // A name that mail programs have to be told apart from addresses.
  const client = { name: 'Ana, "Ü–ß" <other@evil.example>', email }
  const booking = await bookNext(app, context, workspace, kind, { client, guests: [{ name: 'Gil', email: `guest-of-${email}` }] })
  const start = kind === 'shared' ? booking.start : hour(booking.start, 7)
  const neighbour = await bookedOf(context, (await book(app, `${workspace.slug}/${kind}`, request(start))).body)
  const [seat] = await context.db.select().from(sessionHosts).where(eq(sessionHosts.sessionId, booking.sessionId))
  const scene = { workspace, booking, neighbour, headers: await signIn(app, workspace.owner), hostId: seat?.hostId ?? '' }
  for (const one of [booking, neighbour]) await allSent(one)
  expect((await call(`${app}/api/public/bookings/${tokenOf(booking)}`)).status).toBe(200)
  await forget(scene)
  expect((await act(scene)).status).toBe(200)
  for (const one of [booking, neighbour]) await allSent(one)
  expect(await heardSince(scene)).toEqual(heard)
})
