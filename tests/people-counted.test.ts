import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import type { Context } from '../server/context'
import { sessions } from '../server/database/schema'
import { closeContext, makeContext } from '../server/start'
import { book, call, post, request, signIn, startsOf } from './support/http'
import { type Booked, bookedOf, tokenOf } from './support/sessions'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/** Bookings for several people, each of whom takes a seat. */

const app = inject('app')
let context: Context
let workspace: TestWorkspace
beforeAll(async () => {
  context = await makeContext(inject('environment'))
  const settings = { places: [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }], seats: 5, mostPeople: 4 }
  workspace = await makeWorkspace(context, { hosts: 1, zone: 'UTC', eventTypes: [{ slug: 'clinic', settings }] })
})
afterAll(() => closeContext(context))

const path = () => `${workspace.slug}/clinic`
const openings = (people: number) => startsOf(app, path(), 2, 5, { people: String(people) })
const bookFor = (start: string, people: number) => book(app, path(), request(start, { people }))
const seatsOf = async ({ sessionId }: Booked) => (await context.db.select().from(sessions).where(eq(sessions.id, sessionId)))[0]?.seatsTaken
const change = (booked: Booked, people: unknown) => post(`${app}/api/public/bookings/${tokenOf(booked)}/people`, { people })

it('are offered where so many seats are left, and take them', async () => {
  const starts = await openings(4)
  const [start = ''] = starts
  const next = starts.at(-1) ?? ''
  const first = await bookFor(start, 3)
  expect(first).toMatchObject({ status: 201, body: { booking: { people: 3 } } })
  const booked = await bookedOf(context, first.body)
  expect(await seatsOf(booked)).toBe(3)
  expect([await openings(2), await openings(3)].map(found => found.includes(start))).toEqual([true, false])
  // Several at once want the last two seats.
  const answers = await Promise.all([2, 1, 2, 1].map(people => bookFor(start, people)))
  expect(await seatsOf(booked)).toBe(3 + answers.reduce((sum, { body }) => sum + (body.booking?.people ?? 0), 0))
  expect(await seatsOf(booked)).toBeLessThanOrEqual(5)
  const late = await bookFor(start, 4)
  expect(late.status).toBe(409)
  expect(late.body.nearest.map((opening: { start: string }) => opening.start)).not.toContain(start)

  // Where they go, their seats go along.
  const before = await seatsOf(booked) ?? 0
  expect((await post(`${app}/api/public/bookings/${tokenOf(booked)}/move`, { start: next })).status).toBe(200)
  expect(await seatsOf(booked)).toBe(before - 3)
  expect((await call(`${app}/api/public/bookings/${tokenOf(booked)}`)).body.booking).toMatchObject({ start: next, people: 3 })
  await post(`${app}/api/public/bookings/${tokenOf(booked)}/cancel`, {})
  expect(await openings(4)).toContain(next)
})

it('are changed as far as seats are left, and only to what the event type allows', async () => {
  const start = (await openings(4)).at(-9) ?? ''
  const [one, two] = [await bookedOf(context, (await bookFor(start, 1)).body), await bookedOf(context, (await bookFor(start, 2)).body)]
  expect((await change(one, 3)).body.booking).toMatchObject({ people: 3 })
  expect(await change(two, 3)).toMatchObject({ status: 422, body: { errors: [{ path: 'people', message: 'No further seat is left in this session' }] } })
  expect((await change(two, 5)).body.errors[0].message).toBe('A booking is for 4 people at most')
  for (const wrong of [0, -1, 1.5, '2', null]) expect((await change(two, wrong)).status).toBe(400)
  expect((await change(one, 1)).status).toBe(200)
  expect((await change(two, 4)).status).toBe(200)
  expect(await seatsOf(two)).toBe(5)
  // Two who want the last seat at once: it goes to one of them.
  expect((await change(two, 3)).status).toBe(200)
  const statuses = (await Promise.all([change(one, 2), change(two, 4)])).map(({ status }) => status)
  expect(statuses.sort()).toEqual([200, 422])
  expect(await seatsOf(two)).toBe(5)
  await post(`${app}/api/public/bookings/${tokenOf(one)}/cancel`, {})
  expect((await change(one, 2)).status).toBe(409)
})

it('are asked for only as far as the event type says', async () => {
  const [start = ''] = await openings(1)
  expect((await bookFor(start, 5)).body.errors).toMatchObject([{ path: 'people', message: 'A booking is for 4 people at most' }])
  expect((await call(`${app}/api/public/${path()}/openings?from=2030-01-01&to=2030-01-02&timeZone=UTC&people=5`)).status).toBe(400)
  const headers = await signIn(app, workspace.owner)
  const { body: [{ id }] } = await call(`${app}/api/desk/event-types/names`, { headers })
  const { body: stored } = await call(`${app}/api/desk/event-types/${id}`, { headers })
  const definition = { ...stored.definition, settings: { ...stored.definition.settings, mostPeople: 6 } }
  const answer = await post(`${app}/api/desk/event-types/${id}/publish`, { definition, basedOn: stored.version }, headers)
  expect(JSON.stringify(answer.body)).toContain('A session has 5 seats only')
})
