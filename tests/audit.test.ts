import { randomUUID } from 'node:crypto'
import { and, eq, sql } from 'drizzle-orm'
import { expect, it } from 'vitest'
import { audit, auditNightly } from '../server/audit'
import { bookings, deliveries, rooms, sessions, turns, videoAccounts } from '../server/database/schema'
import { useApplication } from './support/application'
import { book, post, request, startsOf } from './support/http'
import { attentionOf, bookNext, deliveriesOf, roomOf, tokenOf } from './support/sessions'
import { makeWorkspace } from './support/workspace'

/** The audit finds each promise that is broken on purpose, and nothing before. */

const own = useApplication('audit', { RETRY_PACE: '0.1' })

it('finds what was broken in the rows, in the rotation and at the services', async () => {
  const video = { places: [{ key: 'video', kind: 'video' as const, label: '', detail: '' }] }
  const workspace = await makeWorkspace(own.context, { hosts: 2, video: true, eventTypes: [{ slug: 'talk', settings: video }, { slug: 'group', settings: { ...video, seats: 2 } }] })
  const made = []
  for (let index = 0; index < 4; index++) made.push(await bookNext(own.url, own.context, workspace))
  const [first, second, third, fourth] = made
  if (!first || !second || !third || !fourth) throw new Error('Not all was booked')
  for (const { bookingId, sessionId } of made) {
    await expect.poll(async () => (await deliveriesOf(own.context, bookingId)).every(({ state }) => state === 'sent'), { timeout: 20_000 }).toBe(true)
    expect((await roomOf(own.context, sessionId))?.state).toBe('ready')
  }
  // One of two who share a session goes elsewhere, and leaves some of its trail behind.
  const [shared = ''] = await startsOf(own.url, `${workspace.slug}/group`, 20)
  const [stays, leaves] = [await book(own.url, `${workspace.slug}/group`, request(shared)), await book(own.url, `${workspace.slug}/group`, request(shared))]
  const start = (await startsOf(own.url, `${workspace.slug}/group`, 25))[0]
  expect((await post(`${own.url}/api/public/bookings/${tokenOf(leaves.body)}/move`, { start })).status).toBe(200)
  for (const { body } of [stays, leaves])
    await expect.poll(async () => (await deliveriesOf(own.context, body.booking.id)).every(({ state }) => state === 'sent'), { timeout: 20_000 }).toBe(true)
  const broken = async () => (await audit(own.context)).broken.filter(({ workspaceId }) => workspaceId === workspace.id)
  expect(await broken()).toEqual([])

  const { db } = own.context
  const long = new Date(Date.now() - 86_400_000)
  await db.update(bookings).set({ state: 'declined' }).where(eq(bookings.id, first.bookingId))
  await db.update(sessions).set({ seatsTaken: 0 }).where(eq(sessions.id, second.sessionId))
  await db.execute(sql`update turns set credit = credit + 1 where ${and(eq(turns.workspaceId, workspace.id))}`)
  const [sent] = await deliveriesOf(own.context, third.bookingId)
  if (!sent) throw new Error('Nothing was sent')
  await db.insert(deliveries).values({ ...sent, id: randomUUID(), state: 'planned', createdAt: long, messageId: 'again@temporia', address: 'lost@client.example' })
  await db.update(rooms).set({ wayHostId: randomUUID() }).where(eq(rooms.sessionId, third.sessionId))
  await db.update(rooms).set({ externalId: 'gone', askedAt: long }).where(eq(rooms.sessionId, fourth.sessionId))
  await db.execute(sql`select graphile_worker.add_job('deliver', json_build_object('workspaceId', ${workspace.id}::text, 'id', 'x'),
    run_at := now() + interval '1 day', job_key := ${`deliver:${workspace.id}:x`})`)
  await db.execute(sql`update graphile_worker._private_jobs set attempts = max_attempts where key = ${`deliver:${workspace.id}:x`}`)
  expect(new Set((await broken()).map(({ name }) => name))).toEqual(new Set([
    'a booking is in a state that no change led to', 'a session stands without bookings, or is cancelled with some',
    'seats are not what is booked, or more than there are', 'a credit is not what the assignments add up to',
    'a message is overdue', 'a row points into another workspace', 'a job is stuck',
    'a room is lost, or not as its session is',
  ]))
  await auditNightly(own.context)
  expect((await attentionOf(own.url, workspace)).map(({ kind }) => kind)).toContain('audit')
  await db.update(videoAccounts).set({ state: 'disconnected' }).where(eq(videoAccounts.workspaceId, workspace.id))
})
