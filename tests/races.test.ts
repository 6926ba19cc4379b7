import { and, eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { Context } from '../server/context'
import { bookings, sessionHosts, sessions } from '../server/database/schema'
import { loadEventTypes, publishDefinition } from '../server/event-types'
import { definitionOf } from '../server/event-types/load'
import { closeContext, makeContext } from '../server/start'
import { campaign } from './support/campaign'
import { book, call, inbox, post, request, signIn, startsOf } from './support/http'
import { untilQuiet } from './support/queue'
import { bookedOf, shiftSession, tokenOf } from './support/sessions'
import { makeWorkspace, settings, type TestWorkspace } from './support/workspace'

/** Two at once, where either may come first. */

const app = inject('app')
let context: Context
beforeAll(async () => (context = await makeContext(inject('environment'))))
afterAll(() => closeContext(context))

const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]
const rounds = campaign(12, 120)

async function publish(workspace: TestWorkspace, change: { seats?: number, state?: 'open' | 'closed' }): Promise<void> {
  const [eventType] = await loadEventTypes(context.db, workspace.id)
  if (!eventType) throw new Error('No event type')
  const definition = definitionOf(eventType)
  const outcome = await publishDefinition(
    context,
    workspace.id,
    eventType.id,
    { memberId: workspace.id, name: 'Test' },
    eventType.version,
    {
      ...definition,
      state: change.state ?? definition.state,
      settings: { ...definition.settings, seats: change.seats ?? definition.settings.seats },
    },
  )
  expect(outcome.kind).toBe('published')
}

describe('a session', () => {
  it('that is being cancelled is joined by nobody: no confirmed booking stays in a cancelled session', async () => {
    const workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'clinic', settings: { places, seats: 4 } }] })
    const path = `${workspace.slug}/clinic`
    const starts = await startsOf(app, path, 2, 30)
    const answered = new Set<number>()
    for (let round = 0; round < rounds; round++) {
      const start = starts[round * 2] ?? ''
      const first = await bookedOf(context, (await book(app, path, request(start))).body)
      const [, ...others] = await Promise.all([
        post(`${app}/api/public/bookings/${tokenOf(first)}/cancel`, {}),
        ...[0, 1].map(() => book(app, path, request(start))),
      ])
      for (const { status } of others) answered.add(status)
    }
    expect([...answered].every(status => status === 201 || status === 409), [...answered].join()).toBe(true)
    const lost = await context.db.select({ id: bookings.id }).from(bookings)
      .innerJoin(sessions, and(eq(sessions.workspaceId, bookings.workspaceId), eq(sessions.id, bookings.sessionId)))
      .where(and(eq(bookings.workspaceId, workspace.id), eq(bookings.state, 'confirmed'), eq(sessions.cancelled, true)))
    expect(lost).toEqual([])
    const idle = await context.db.select({ id: sessions.id }).from(sessions)
      .innerJoin(sessionHosts, and(eq(sessionHosts.workspaceId, sessions.workspaceId), eq(sessionHosts.sessionId, sessions.id)))
      .where(and(eq(sessions.workspaceId, workspace.id), eq(sessions.cancelled, false), eq(sessionHosts.active, false)))
    expect(idle).toEqual([])
  })

  it('has the seats that its event type is given later, and takes no more', async () => {
    const workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'clinic', settings: { places, seats: 2 } }] })
    const path = `${workspace.slug}/clinic`
    const [start = ''] = await startsOf(app, path)
    const statuses = async (many: number) =>
      (await Promise.all(Array.from({ length: many }, () => book(app, path, request(start))))).map(item => item.status).sort()
    expect(await statuses(2)).toEqual([201, 201])
    await publish(workspace, { seats: 4 })
    expect(await statuses(4)).toEqual([201, 201, 409, 409])
    await publish(workspace, { seats: 1 })
    expect(await statuses(1)).toEqual([409])
    // One that was made before seats followed, as an old installation may have it.
    await publish(workspace, { seats: 6 })
    await context.db.update(sessions).set({ seats: 4 }).where(eq(sessions.workspaceId, workspace.id))
    expect(await statuses(3)).toEqual([201, 201, 409])
  })

  it('that is over is cancelled neither by its client nor at the desk, and nobody is written to', async () => {
    const workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'talk', settings: { places } }] })
    const path = `${workspace.slug}/talk`
    const booked = await bookedOf(context, (await book(app, path, request((await startsOf(app, path))[0] ?? ''))).body)
    await expect.poll(() => inbox(booked.email), { timeout: 15_000 }).toHaveLength(1)
    await shiftSession(context, booked.sessionId, new Date(Date.now() - 7_200_000), new Date(Date.now() - 3_600_000))
    expect(await post(`${app}/api/public/bookings/${tokenOf(booked)}/cancel`, {})).toMatchObject({
      status: 409,
      body: { detail: expect.stringContaining('over') },
    })
    expect(
      (await post(`${app}/api/desk/bookings/${booked.bookingId}/close`, { state: 'cancelled' }, await signIn(app, workspace.owner))).status,
    ).toBe(409)
    expect((await call(`${app}/api/public/bookings/${tokenOf(booked)}`)).body.booking.state).toBe('confirmed')
    expect(await inbox(booked.email)).toHaveLength(1)
  })
})

it('publishing waits for bookings under way: none is made by settings that no longer hold', async () => {
  const workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'clinic', settings: settings({ places, seats: 4 }) }] })
  const path = `${workspace.slug}/clinic`
  const [first = '', second = ''] = await startsOf(app, path)
  expect((await book(app, path, request(first))).status).toBe(201)
  await untilQuiet(context)
  const holder = await context.pool.connect()
  const order: string[] = []
  try {
    // Holds somebody who joins that session up after it has read the event type, and before it is committed.
    await holder.query('begin')
    await holder.query('lock table bookings in exclusive mode')
    const booking = book(app, path, request(first)).then(({ status }) => order.push(`booked ${status}`))
    // That booking, and not what the jobs of other tests write.
    const waiting = `select 1 from pg_locks inner join pg_stat_activity using (pid)
      where not granted and relation = 'bookings'::regclass and query like '%insert into idempotency_keys%'`
    // Asked outside of that transaction, within which the list of activities would stay as it was first read.
    await expect.poll(async () => (await context.pool.query(waiting)).rowCount, { timeout: 15_000 }).toBe(1)
    const closing = publish(workspace, { state: 'closed' }).then(() => order.push('closed'))
    await new Promise(resolve => setTimeout(resolve, 500))
    await holder.query('commit')
    await Promise.all([booking, closing])
  } finally {
    holder.release(true)
  }
  expect(order).toEqual(['booked 201', 'closed'])
  expect((await book(app, path, request(second))).status).toBe(404)
})
