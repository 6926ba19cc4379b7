import { randomUUID } from 'node:crypto'
import { and, eq } from 'drizzle-orm'
import { afterAll, beforeAll, beforeEach, expect, inject, it } from 'vitest'
import { formatInstant, HOUR, instantToSeconds } from '../core/time/civil'
import type { Context } from '../server/context'
import { bookings, eventTypes, payments, sessionHosts, sessions } from '../server/database/schema'
import { closeContext, makeContext } from '../server/start'
import { book, call, post, request, signIn, startsOf } from './support/http'
import { bookedOf, deliveriesOf, tokenOf, trailOf } from './support/sessions'
import { addMember, makeWorkspace, type TestWorkspace } from './support/workspace'

/** Clients whom a member books in: of an event type or without one, in an opening or outside of them. */

const app = inject('app')
const place = { key: 'studio', kind: 'address' as const, label: 'studio', detail: 'Pátio do Prelo 7' }
let context: Context
let workspace: TestWorkspace
let coordinator: { cookie: string }
let host: { cookie: string }

beforeAll(async () => (context = await makeContext(inject('environment'))))
afterAll(() => closeContext(context))
beforeEach(async () => {
  const question = { key: 'material', kind: 'text' as const, label: 'Material', required: true }
  const price = { amount: 18_000, currency: 'EUR', per: 'booking' as const, when: 'booking' as const, refund: { allUntilMinutes: 0, afterPercent: 0 } }
  workspace = await makeWorkspace(context, {
    hosts: 3, zone: 'UTC', hours: 'Mo-Su 09:00-17:00', eventTypes: [
      { slug: 'talk', settings: { places: [place], bufferAfterMinutes: 0, leadTimeMinutes: 60, questions: [question], approval: true, price } },
      { slug: 'clinic', settings: { places: [place], bufferAfterMinutes: 0, seats: 2 } },
    ],
  })
  coordinator = await signIn(app, await addMember(context, workspace, 'coordinator'))
  host = await signIn(app, await addMember(context, workspace, 'host', workspace.hosts[1]?.id))
})

const client = () => ({ name: 'Wren Holloway', email: `${randomUUID()}@client.example` })
const idOf = async (slug: string) => (await context.db.select({ id: eventTypes.id }).from(eventTypes)
  .where(and(eq(eventTypes.workspaceId, workspace.id), eq(eventTypes.slug, slug))))[0]?.id ?? ''
const oneOff = (hosts: string[], change: object = {}) => ({
  title: 'Look at the flooded ledgers', durationMinutes: 40, place: { ...place, detail: 'Quay Street 3' }, hosts, ...change,
})

async function bookIn(what: Record<string, unknown>, { key = randomUUID(), who = coordinator } = {}) {
  const body = { timeZone: 'Asia/Kolkata', client: client(), answers: {}, ...what }
  return post(`${app}/api/desk/bookings`, body, { ...who, 'idempotency-key': key })
}

async function seen(sessionId: string) {
  const [booking] = await context.db.select().from(bookings).where(eq(bookings.sessionId, sessionId))
  const [payment] = await context.db.select().from(payments).where(eq(payments.bookingId, booking?.id ?? ''))
  const seated = await context.db.select({ id: sessionHosts.hostId }).from(sessionHosts).where(eq(sessionHosts.sessionId, sessionId))
  const told = new Set((await deliveriesOf(context, booking?.id ?? '')).map(({ audience }) => audience))
  return { booking, payment, hosts: seated.map(({ id }) => id), told: [...told].sort() }
}

const openings = async (query: Record<string, string>, who = coordinator) => {
  const [from, to] = [2, 4].map(days => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10))
  const asked = new URLSearchParams({ from: from ?? '', to: to ?? '', timeZone: 'UTC', ...query })
  const answer = await call(`${app}/api/desk/openings?${asked}`, { headers: who })
  return { status: answer.status, starts: (answer.body.openings ?? []).map((opening: { start: string }) => opening.start) as string[] }
}

it('are confirmed at once, by the rotation or with whom the member picks, and pay at the session', async () => {
  const eventType = await idOf('talk')
  const { starts: [start = ''] } = await openings({ eventType })
  const key = randomUUID()
  const wish = { eventType, start, client: client(), guests: [{ email: 'guest@client.example' }] }
  const first = await bookIn(wish, { key })
  expect(first).toMatchObject({ status: 201 })
  // The same press once more is the same booking; with another body the key is refused.
  expect(await bookIn(wish, { key })).toMatchObject({ status: 201, body: first.body })
  expect((await bookIn({ ...wish, start: formatInstant(instantToSeconds(start) + HOUR) }, { key })).status).toBe(422)
  const made = await seen(first.body.sessionId)
  expect(made).toMatchObject({ booking: { state: 'confirmed', timeZone: 'Asia/Kolkata' }, payment: { state: 'atSession', amount: 18_000 }, told: ['client', 'guest', 'host'] })

  const [free = ''] = workspace.hosts.map(({ id }) => id).filter(id => !made.hosts.includes(id)).reverse()
  const picked = await bookIn({ eventType, start, host: free, told: ['hosts'] })
  expect(await seen(picked.body.sessionId)).toMatchObject({ hosts: [free], told: ['host'] })
  const lines = (await trailOf(context, workspace, picked.body.sessionId)).join(' ')
  expect(lines).toContain('booked Talk for Wren Holloway')
  expect(lines).toContain('No mail went to the client or guests.')
  expect(lines).toContain('picked by hand')
  const ledger = await call(`${app}/api/desk/sessions/${picked.body.sessionId}/assignments`, { headers: coordinator })
  expect(JSON.stringify(ledger.body)).toContain('"code":"chosen"')
})

it('can be booked outside of hours and terms after a warning, but never over another session', async () => {
  const eventType = await idOf('talk')
  const { starts } = await openings({ eventType })
  const night = `${starts[0]?.slice(0, 11)}21:07:00Z`
  const warned = await bookIn({ eventType, start: night, host: workspace.hosts[0]?.id })
  expect(warned.status).toBe(409)
  expect(warned.body.reasons.join(' ')).toContain('Host 0')
  expect(warned.body.reasons.join(' ')).not.toContain('Host 1')
  const despite = await bookIn({ eventType, start: night, host: workspace.hosts[0]?.id, despite: true })
  expect(await seen(despite.body.sessionId)).toMatchObject({ hosts: [workspace.hosts[0]?.id] })
  const over = await bookIn({ eventType, start: `${night.slice(0, 14)}20:00Z`, host: workspace.hosts[0]?.id, despite: true })
  expect(over).toMatchObject({ status: 409, body: { detail: expect.stringContaining('Another session takes this time') } })
  expect(over.body.reasons).toBeUndefined()
  // Anybody else is free; two at once for the last two get one each, and nobody a third.
  const rest = await Promise.all([1, 2, 3].map(() => bookIn({ eventType, start: night, despite: true })))
  expect(rest.map(({ status }) => status).sort()).toEqual([201, 201, 409])
  expect((await bookIn({ eventType, start: '2020-01-01T10:00:00Z', despite: true })).status).toBe(422)
})

it('prefers whom nothing speaks against, where only the step or the lead time does', async () => {
  const eventType = await idOf('talk')
  const { starts: [start = ''] } = await openings({ eventType })
  const [, , third] = workspace.hosts.map(({ id }) => id)
  // Two hosts are away on the whole day.
  for (const id of workspace.hosts.slice(0, 2).map(({ id }) => id)) {
    const { body: profile } = await call(`${app}/api/desk/hosts/${id}`, { headers: coordinator })
    const { version, profile: saved } = profile
    const away = [{ from: start.slice(0, 10), to: start.slice(0, 10), note: '' }]
    expect((await post(`${app}/api/desk/hosts/${id}`, { ...saved, away, basedOn: version }, coordinator)).status).toBe(200)
  }
  const odd = formatInstant(instantToSeconds(start) + 7 * 60)
  const made = await bookIn({ eventType, start: odd, despite: true })
  expect(await seen(made.body.sessionId)).toMatchObject({ hosts: [third] })
})

it('join a session that has seats left', async () => {
  const eventType = await idOf('clinic')
  const [start = ''] = await startsOf(app, `${workspace.slug}/clinic`)
  const own = await bookedOf(context, (await book(app, `${workspace.slug}/clinic`, request(start))).body)
  expect((await bookIn({ eventType, start })).body.sessionId).toBe(own.sessionId)
  expect((await context.db.select().from(sessions).where(eq(sessions.id, own.sessionId)))[0]?.seatsTaken).toBe(2)
})

it('get a session of their own without an event type, which lives like any other', async () => {
  const [first = '', second = ''] = workspace.hosts.map(({ id }) => id)
  const hosts = [first, second]
  const { starts: [start = '', other = ''] } = await openings({ hosts: hosts.join(','), duration: '40' })
  const key = randomUUID()
  const wish = { start, client: client(), oneOff: oneOff(hosts) }
  const made = await bookIn(wish, { key })
  expect(await bookIn(wish, { key })).toMatchObject({ status: 201, body: made.body })
  const { sessionId } = made.body
  const { booking, hosts: seated, told } = await seen(sessionId)
  expect({ seated: seated.sort(), told }).toEqual({ seated: hosts.sort(), told: ['client', 'host'] })
  const view = (await call(`${app}/api/desk/sessions/${sessionId}`, { headers: coordinator })).body
  expect(view).toMatchObject({ eventType: { name: 'Look at the flooded ledgers', oneOff: true }, place: { text: 'Quay Street 3' } })
  // Nobody meets it among the event types, and nobody can book it.
  const lists = await Promise.all(['event-types', 'event-types/names', 'bookable', 'messages'].map(path => call(`${app}/api/desk/${path}`, { headers: coordinator })))
  for (const { body } of lists) expect(JSON.stringify(body)).not.toContain('flooded')
  expect((await call(`${app}/api/desk/event-types/${view.eventType.id}`, { headers: coordinator })).status).toBe(404)
  for (const action of ['archive', 'state', 'publish'])
    expect((await post(`${app}/api/desk/event-types/${view.eventType.id}/${action}`, { archived: true, state: 'closed' }, coordinator)).status).not.toBe(200)
  const [row] = await context.db.select().from(eventTypes).where(eq(eventTypes.id, view.eventType.id))
  expect(row).toMatchObject({ oneOff: true, state: 'open', archivedAt: null })
  expect((await call(`${app}/api/public/${workspace.slug}/${row?.slug}`)).status).toBe(404)
  // Its client moves it, a member hands it over and moves it against the hours, and its client cancels it.
  const [{ page }] = view.bookings
  const token = tokenOf({ manage: page })
  expect((await post(`${app}/api/public/bookings/${token}/move`, { start: other })).status).toBe(200)
  const [from = '', to = ''] = [first, workspace.hosts[2]?.id]
  const handed = await post(`${app}/api/desk/hosts/${from}/hand-over`, { seats: [{ sessionId, to }] }, coordinator)
  expect(handed.body.results ?? handed.body).toMatchObject([{ outcome: 'handedOver' }])
  const night = `${other.slice(0, 11)}22:00:00Z`
  expect((await post(`${app}/api/desk/bookings/${booking?.id}/move`, { start: night, despite: true }, coordinator)).status).toBe(200)
  expect((await post(`${app}/api/public/bookings/${token}/cancel`, {})).status).toBe(200)
})

it('leave nothing behind where it fails', async () => {
  const [first = ''] = workspace.hosts.map(({ id }) => id)
  const count = () => context.db.$count(eventTypes, eq(eventTypes.workspaceId, workspace.id))
  const { starts: [start = ''] } = await openings({ hosts: first, duration: '40' })
  const before = await count()
  const answers = await Promise.all([1, 2, 3].map(() => bookIn({ start, oneOff: oneOff([first]) })))
  expect(answers.map(({ status }) => status).sort()).toEqual([201, 409, 409])
  expect(await count()).toBe(before + 1)
  const wrong: [object, number, string?][] = [
    [{ oneOff: oneOff([first, first]) }, 400], [{ oneOff: oneOff([]) }, 400], [{ oneOff: oneOff([randomUUID()]) }, 404],
    [{ oneOff: oneOff([first], { place: { ...place, detail: '' } }) }, 400, 'oneOff.place.detail'],
    [{ oneOff: oneOff([first], { place: { ...place, kind: 'phoneWeCall' } }) }, 422, 'client.phone'],
    [{ oneOff: oneOff([first], { title: 'two\nlines' }) }, 400, 'oneOff.title'], [{ oneOff: oneOff([first], { durationMinutes: 0 }) }, 400],
    [{}, 400], [{ oneOff: oneOff([first]), eventType: await idOf('talk') }, 400],
    [{ eventType: await idOf('talk'), host: randomUUID() }, 422, 'host'], [{ eventType: await idOf('talk'), answers: { nothing: 1 } }, 422, 'answers.nothing'],
    [{ eventType: await idOf('talk'), told: ['everybody'] }, 400], [{ eventType: await idOf('talk'), told: ['client', 'client', 'client'] }, 400], [{ eventType: randomUUID() }, 404],
  ]
  for (const [what, status, path] of wrong) {
    const { body, ...answer } = await bookIn({ start, ...what })
    expect({ what, status: answer.status, path: path === undefined ? undefined : body.errors?.[0]?.path }).toEqual({ what, status, path })
  }
  expect(await count()).toBe(before + 1)
})

it('are a host’s own, unless the workspace lets hosts change others’ sessions', async () => {
  const [other = '', own = ''] = workspace.hosts.map(({ id }) => id)
  const eventType = await idOf('talk')
  const { starts: [start = ''] } = await openings({ eventType }, host)
  expect((await call(`${app}/api/desk/bookable`, { headers: host })).body).toMatchObject({ onlyOwn: true, ownHostId: own, hosts: [{ id: own }] })
  const made = await bookIn({ eventType, start }, { who: host })
  expect(await seen(made.body.sessionId)).toMatchObject({ hosts: [own] })
  expect((await bookIn({ eventType, start, host: other }, { who: host })).status).toBe(403)
  expect((await bookIn({ start, oneOff: oneOff([own, other]) }, { who: host })).status).toBe(403)
  expect((await openings({ hosts: other, duration: '40' }, host)).status).toBe(404)
  // And they find their own clients only.
  const [theirs, mine] = [{ name: 'Quillon Ashby', email: 'quillon@client.example' }, { name: 'Quilla Ashby', email: 'quilla@client.example' }]
  const { starts: later } = await openings({ eventType })
  await bookIn({ eventType, start: later.at(-1), host: other, client: theirs })
  await bookIn({ eventType, start: later.at(-1), host: own, client: { ...mine, phone: '+351 213 456 789' } })
  const found = async (who: { cookie: string }, search: string) => (await call(`${app}/api/desk/clients?search=${encodeURIComponent(search)}`, { headers: who })).body
  expect(await found(host, 'quil')).toEqual([{ ...mine, phone: '+351213456789', timeZone: 'Asia/Kolkata' }])
  expect((await found(coordinator, 'ASHBY')).map(({ email }: { email: string }) => email).sort()).toEqual([mine.email, theirs.email])
  expect(await found(coordinator, '%')).toEqual([])
})

it('find what they gave before filled in by a link of their own, and by that alone', async () => {
  const [start = '', next = ''] = await startsOf(app, `${workspace.slug}/clinic`)
  const given = { name: 'Wren Holloway', email: 'wren@client.example', phone: '+351213456789' }
  const first = await bookedOf(context, (await book(app, `${workspace.slug}/clinic`, request(start, { client: given }))).body)
  const again = () => call(`${app}/api/public/bookings/${tokenOf(first)}/again`)
  expect((await again()).body).toEqual({ client: given, answers: {} })
  const page = async () => (await call(`${app}/api/public/bookings/${tokenOf(first)}/page`)).body.bookAgain
  expect(await page()).toBe(`/${workspace.slug}/clinic?again=${tokenOf(first)}`)
  expect((await call(`${app}/api/public/bookings/${tokenOf(first).slice(0, -2)}xx/again`)).status).toBe(404)
  await post(`${app}/api/desk/event-types/${await idOf('clinic')}/state`, { state: 'closed' }, coordinator)
  expect(await page()).toBeNull()
  // Clients no longer can, but a member still books it.
  expect((await book(app, `${workspace.slug}/clinic`, request(next))).status).toBe(404)
  expect((await bookIn({ eventType: await idOf('clinic'), start: next })).status).toBe(201)
})
