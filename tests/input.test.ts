import { randomUUID } from 'node:crypto'
import { eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { Context } from '../server/context'
import { hoursPlans, idempotencyKeys, memberSessions, rateLimits } from '../server/database/schema'
import { cleanUp } from '../server/maintenance'
import { closeContext, makeContext } from '../server/start'
import { book, call, post, request, signIn, startsOf } from './support/http'
import { makeWorkspace, plan, type TestWorkspace } from './support/workspace'

/** Input that used to cost too much or to end in an error of ours. */

const app = inject('app')
let context: Context
let workspace: TestWorkspace
let owner: { cookie: string }
const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]

beforeAll(async () => {
  context = await makeContext(inject('environment'))
  workspace = await makeWorkspace(context, {
    hosts: 1,
    eventTypes: [
      { slug: 'talk', settings: { places } },
      { slug: 'fine', settings: { places, startEveryMinutes: 1, durations: [1], bufferAfterMinutes: 0 } },
    ],
  })
  owner = await signIn(app, workspace.owner)
})
afterAll(() => closeContext(context))

const read = async (path: string) => (await call(`${app}/api/desk/${path}`, { headers: owner })).body
const openings = (slug: string, from: string, to: string) =>
  call(`${app}/api/public/${workspace.slug}/${slug}/openings?from=${from}&to=${to}&timeZone=UTC`)
const counted = (start: string) =>
  Array.from({ length: 8 }, (_, index) => ({ rrule: `FREQ=DAILY;INTERVAL=${index + 1};COUNT=10000`, start, from: '18:00', to: '19:00' }))

describe('hours', () => {
  const hoursId = async () => (await read('hours'))[0].id
  const save = async (change: object) => {
    const id = await hoursId()
    const view = await read(`hours/${id}`)
    return post(
      `${app}/api/desk/hours/${id}`,
      { basedOn: view.version, name: 'Hours', plan: { ...plan('Mo-Su 09:00-12:00', 'UTC'), ...change } },
      owner,
    )
  }

  it('that are expensive to follow are refused when they are saved', async () => {
    expect(await save({ recurring: counted('1910-01-01') })).toMatchObject({
      status: 422,
      body: { errors: [{ path: 'plan.recurring', message: expect.stringContaining('too far back') }] },
    })
    expect(
      await save({
        recurring: Array.from({ length: 21 }, () => ({ rrule: 'FREQ=DAILY', start: '2026-01-01', from: '18:00', to: '19:00' })),
      }),
    ).toMatchObject({ status: 422, body: { errors: [{ path: 'plan.recurring' }] } })
    expect((await save({ recurring: counted('2026-01-01') })).status).toBe(200)
  })

  it('that are expensive and were saved before are refused when they are asked for, and nobody waits', async () => {
    const [row] = await context.db.select().from(hoursPlans).where(eq(hoursPlans.workspaceId, workspace.id))
    await context.db
      .update(hoursPlans)
      .set({ plan: { ...plan('Mo-Su 09:00-12:00', 'UTC'), recurring: counted('1910-01-01') } })
      .where(eq(hoursPlans.workspaceId, workspace.id))
    expect(await openings('talk', '2030-01-07', '2030-01-08')).toMatchObject({
      status: 400,
      body: { detail: expect.stringContaining('recurring windows') },
    })
    expect((await call(`${app}/api/desk/event-types`, { headers: owner })).status).toBe(200)
    await context.db.update(hoursPlans).set({ plan: row?.plan }).where(eq(hoursPlans.workspaceId, workspace.id))
    expect((await openings('talk', '2030-01-07', '2030-01-08')).status).toBe(200)
  })
})

it('openings without end are answered with a clear word instead of megabytes', async () => {
  await context.db.update(hoursPlans).set({ plan: plan('Mo-Su 00:00-24:00', 'UTC') }).where(eq(hoursPlans.workspaceId, workspace.id))
  const all = await openings('fine', '2030-01-07', '2030-04-07')
  expect(all).toMatchObject({
    status: 400,
    body: { errors: [{ path: 'to', message: 'There are more than 10,000 openings in these days: ask for fewer days' }] },
  })
  const some = await openings('fine', '2030-01-07', '2030-01-12')
  expect(some.body.openings).toHaveLength(6 * 1440)
  // The page asks for less at a time, and the list still finds the next one.
  expect((await fetch(`${app}/${workspace.slug}/fine`)).status).toBe(200)
  expect((await read('event-types')).find((item: { slug: string }) => item.slug === 'fine').nextOpening).not.toBeNull()
})

describe('what is malformed', () => {
  // eslint-disable-next-line @typescript-eslint/no-explicit-any -- answers are compared, not used
  it.each<[string, (start: string) => Promise<{ status: number, body: any }>, string]>([
    [
      'a locale that is none',
      start => book(app, `${workspace.slug}/talk`, request(start, { client: { name: 'A', email: 'a@b.example', locale: 'en-ab-cd' } })),
      'client.locale',
    ],
    [
      'a version beyond counting',
      async () => {
        const [row] = await read('event-types')
        return post(
          `${app}/api/desk/event-types/${row.id}/publish`,
          { basedOn: 2147483648, definition: (await read(`event-types/${row.id}`)).definition },
          owner,
        )
      },
      'basedOn',
    ],
    ['JSON nested 5,000 deep', () => post(`${app}/api/desk/sign-in`, `{"email":${'['.repeat(5000)}${']'.repeat(5000)}}`), ''],
    [
      'JSON nested 100,000 deep',
      start => book(app, `${workspace.slug}/talk`, `{"start":"${start}","answers":${'{"a":'.repeat(25_000)}1${'}'.repeat(25_000)}}`),
      '',
    ],
    [
      'a name with a link',
      start =>
        book(app, `${workspace.slug}/talk`, request(start, { client: { name: 'Win at https://evil.example', email: 'a@b.example' } })),
      'client.name',
    ],
  ])('%s is named', async (_, send, path) => {
    const [start = ''] = await startsOf(app, `${workspace.slug}/talk`)
    expect(await send(start)).toMatchObject({ status: 400, body: { errors: [{ path }] } })
  })
})

it('the same key gives the first answer again, whatever has become of the event type', async () => {
  const path = `${workspace.slug}/talk`
  const [start = ''] = await startsOf(app, path)
  const [key, body] = [randomUUID(), request(start)]
  const first = await book(app, path, body, key)
  const id = (await read('event-types')).find((item: { slug: string }) => item.slug === 'talk').id
  await post(`${app}/api/desk/event-types/${id}/archive`, { archived: true }, owner)
  expect(await book(app, path, body, key)).toEqual(first)
  expect((await book(app, path, request(start))).status).toBe(404)
  await post(`${app}/api/desk/event-types/${id}/archive`, { archived: false }, owner)
})

it('what is of no more use is deleted, and nothing else', async () => {
  const day = 86_400_000
  const age = (days: number) => new Date(Date.now() - days * day)
  const key = (name: string, createdAt: Date) => ({
    workspaceId: workspace.id,
    key: name,
    requestHash: 'x',
    status: 201,
    body: { nearest: [] },
    createdAt,
  })
  await context.db.insert(idempotencyKeys).values([key('old', age(31)), key('young', age(29))])
  await context.db
    .insert(rateLimits)
    .values([
      { key: 'old', points: 1, expire: Date.now() - 1000 },
      { key: 'young', points: 1, expire: Date.now() + 60_000 },
    ])
    .onConflictDoNothing()
  const [{ memberId = '' } = {}] = await context.db.select().from(memberSessions).where(eq(memberSessions.workspaceId, workspace.id))
  const session = (idHash: string, expiresAt: Date) => ({
    workspaceId: workspace.id,
    idHash,
    memberId,
    device: '',
    createdAt: age(14),
    lastSeenAt: age(1),
    expiresAt,
  })
  await context.db.insert(memberSessions).values([session('old', age(0.01)), session('young', age(-1))])
  const job = async (name: string, days: number) => {
    await context.db.execute(
      sql`select graphile_worker.add_job('nothing', job_key := ${`nothing:${workspace.id}:${name}`}, run_at := now() + interval '10 years', max_attempts := 1)`,
    )
    await context.db.execute(
      sql`update graphile_worker._private_jobs set attempts = 1, updated_at = now() - ${`${days} days`}::interval where key = ${`nothing:${workspace.id}:${name}`}`,
    )
  }
  await job('old', 31)
  await job('young', 29)
  await cleanUp(context)
  const keys = async (table: typeof idempotencyKeys | typeof rateLimits) =>
    (await context.db.select({ key: table.key }).from(table)).map(item => item.key)
  expect((await keys(idempotencyKeys)).filter(candidate => candidate === 'old' || candidate === 'young')).toEqual(['young'])
  expect((await keys(rateLimits)).filter(candidate => candidate === 'old' || candidate === 'young')).toEqual(['young'])
  expect(
    (await context.db.select().from(memberSessions).where(eq(memberSessions.workspaceId, workspace.id))).map(item => item.idHash),
  ).toEqual(expect.arrayContaining(['young']))
  expect((await context.db.select().from(memberSessions).where(eq(memberSessions.idHash, 'old')))).toEqual([])
  const { rows } = await context.db.execute<{ key: string }>(
    sql`select key from graphile_worker.jobs where key like ${`nothing:${workspace.id}:%`}`,
  )
  expect(rows.map(row => row.key.split(':').at(-1))).toEqual(['young'])
  await context.db.execute(
    sql`select graphile_worker.complete_jobs(array(select id from graphile_worker.jobs where key like ${`nothing:${workspace.id}:%`}))`,
  )
})

it('a job that keeps failing is shown to the team, and runs at once when somebody asks for it', async () => {
  await context.db.execute(
    sql`select graphile_worker.add_job('deliver', json_build_object('id', 7), job_key := ${`deliver:${workspace.id}:poison`}, max_attempts := 25)`,
  )
  const shown = async () => (await read('today?timeZone=UTC')).attention.filter((entry: { kind: string }) => entry.kind === 'job')
  await expect.poll(shown, { timeout: 30_000, interval: 200 }).toHaveLength(1)
  const [{ id }] = await shown()
  expect((await post(`${app}/api/desk/jobs/${id}/run`, {}, owner)).status).toBe(200)
  const stranger = await makeWorkspace(context, { hosts: 0, eventTypes: [] })
  expect((await post(`${app}/api/desk/jobs/${id}/run`, {}, await signIn(app, stranger.owner))).status).toBe(404)
  await expect.poll(shown, { timeout: 5000 }).toHaveLength(0)
  await context.db.execute(sql`select graphile_worker.complete_jobs(array[${id}::bigint])`)
})
