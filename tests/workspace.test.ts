import { eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import { DELETION_SECONDS } from '../core/workspace'
import { until } from '../scripts/run/processes'
import type { WorkspaceSettingsView } from '../core/workspace'
import type { Context } from '../server/context'
import { members, workspaces } from '../server/database/schema'
import { cleanUp } from '../server/maintenance'
import { closeContext, makeContext } from '../server/start'
import { book, call, request, signIn, startsOf } from './support/http'
import { bookNext, deliveriesOf, tokenOf } from './support/sessions'
import { addMember, makeWorkspace } from './support/workspace'

const app = inject('app')
let context: Context
beforeAll(async () => (context = await makeContext(inject('environment'))))
afterAll(() => closeContext(context))

const put = (who: { cookie: string }, body: object) => call(`${app}/api/desk/workspace`, {
  method: 'PUT', headers: { 'content-type': 'application/json', ...who }, body: JSON.stringify(body),
})

it('a workspace changes its name and its address; the old one goes on leading to it, and belongs to nobody else', async () => {
  const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]
  const workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'talk', settings: { places } }] })
  const other = await makeWorkspace(context, { hosts: 0, eventTypes: [] })
  const [owner, stranger] = [await signIn(app, workspace.owner), await signIn(app, other.owner)]
  const view = async (who = owner) => (await call(`${app}/api/desk/workspace`, { headers: who })).body as WorkspaceSettingsView
  const { base: _base, earlier, deletion: _none, ...settings } = await view()
  expect([settings.slug, settings.countsCancelled, earlier]).toEqual([workspace.slug, false, []])
  const moved = { ...settings, name: 'Harbour Binders', about: 'We bind.', slug: `moved-${workspace.slug}` }
  expect((await put(owner, moved)).status).toBe(200)
  expect((await view()).earlier).toEqual([workspace.slug])
  for (const slug of [moved.slug, workspace.slug]) {
    const page = await call(`${app}/api/public/${slug}`)
    expect([page.status, page.body.workspace.name, page.body.workspace.slug]).toEqual([200, 'Harbour Binders', moved.slug])
    const html = await call(`${app}/${slug}`)
    expect([html.status, html.body.includes('Harbour Binders')]).toEqual([200, true])
    const [start = ''] = await startsOf(app, `${slug}/talk`)
    expect((await book(app, `${slug}/talk`, request(start))).status).toBe(201)
  }
  const { base: _b, earlier: _e, deletion: _d, ...theirs } = await view(stranger)
  for (const slug of [workspace.slug, moved.slug]) {
    expect((await put(stranger, { ...theirs, slug })).body.errors).toMatchObject([{ path: 'slug', code: 'workspaceAddressTaken' }])
  }
  expect((await put(stranger, { ...theirs, slug: 'desk' })).body.errors).toMatchObject([{ code: 'workspaceAddressReserved' }])
  expect((await put(stranger, { ...theirs, name: ' ' })).status).toBe(400)
  const back = await Promise.all([put(owner, { ...moved, slug: workspace.slug }), put(stranger, { ...theirs, slug: moved.slug })])
  expect(back[0].status).toBe(200)
  expect(back[1].status, 'it is the earlier one now, or still the present one').toBe(422)
  expect((await view()).earlier).toEqual([moved.slug])
})

it('a workspace is deleted 30 days after it was asked for, and not a second before; until then nobody books and it can be kept', async () => {
  const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]
  const workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'talk', settings: { places, horizon: { kind: 'open' } } }] })
  const path = `${workspace.slug}/talk`
  const owner = await signIn(app, workspace.owner)
  const coordinator = await addMember(context, workspace, 'coordinator')
  const far = new Date(context.now() * 1000 + 45 * 86_400_000).toISOString().slice(0, 10)
  const offered = async () => (await call(`${app}/api/public/${path}/openings?from=${far}&to=${far}&timeZone=UTC`))
  const [opening] = (await offered()).body.openings
  const booked = await book(app, path, request(opening.start))
  expect(booked.status).toBe(201)
  const ask = (body: object) => call(`${app}/api/desk/workspace/deletion`, {
    method: 'POST', headers: { 'content-type': 'application/json', ...owner }, body: JSON.stringify(body),
  })
  const { password } = workspace.owner
  expect((await ask({ slug: workspace.slug, password: 'another password' })).body.errors).toMatchObject([{ path: 'password' }])
  expect((await ask({ slug: 'another', password })).body.errors).toMatchObject([{ path: 'slug' }])
  expect((await offered()).status).toBe(200)
  expect((await ask({ slug: workspace.slug, password })).status).toBe(200)

  // From now on nobody books, everybody knows, and it can be taken back.
  expect((await offered()).status).toBe(404)
  expect((await call(`${app}/api/public/${workspace.slug}`)).body.eventTypes).toEqual([])
  expect((await call(`${app}/api/desk/me`, { headers: owner })).body.workspace.deletedAt).toBeGreaterThan(context.now() + DELETION_SECONDS - 60)
  const told = async () => (await context.db.execute<{ address: string }>(sql`select address from deliveries
    where workspace_id = ${workspace.id} and occasion = 'deletionAsked' and state = 'sent' order by address`)).rows.map(row => row.address)
  await until(async () => (await told()).length === 2, 20, 'The members are not told')
  expect(await told()).toEqual([coordinator.email, workspace.owner.email].sort())
  expect((await call(`${app}/api/desk/workspace/deletion`, { method: 'DELETE', headers: owner })).status).toBe(200)
  expect((await offered()).status).toBe(200)

  await ask({ slug: workspace.slug, password })
  const askedAgo = (seconds: number) => context.db.update(workspaces)
    .set({ deletionAskedAt: new Date((context.now() - seconds) * 1000) }).where(eq(workspaces.id, workspace.id))
  await askedAgo(DELETION_SECONDS - 60)
  await cleanUp(context)
  expect((await call(`${app}/api/desk/me`, { headers: owner })).status).toBe(200)
  await askedAgo(DELETION_SECONDS + 1)
  await cleanUp(context)
  // The session that was still to come is cancelled first, and its client told.
  const cancelled = async () => (await deliveriesOf(context, booked.body.booking.id)).find(({ occasion, audience }) => occasion === 'cancelled' && audience === 'client')
  await until(async () => (await cancelled())?.state === 'sent', 20, 'The client is not told')
  await until(async () => {
    await cleanUp(context)
    return await context.db.$count(workspaces, eq(workspaces.id, workspace.id)) === 0
  }, 20, 'The workspace is not deleted')
  expect((await call(`${app}/api/desk/me`, { headers: owner })).status).toBe(401)
  expect((await call(`${app}/${workspace.slug}`)).status).toBe(404)
  const { rows } = await context.db.execute<{ table: string }>(sql`select table_name as table from information_schema.columns
    where table_schema = 'public' and column_name = 'workspace_id'`)
  for (const { table } of rows) {
    const left = await context.db.execute(sql`select 1 from ${sql.identifier(table)} where workspace_id = ${workspace.id} limit 1`)
    expect([table, left.rows.length]).toEqual([table, 0])
  }
  expect(await context.db.$count(members, eq(members.workspaceId, workspace.id))).toBe(0)
})

it('offers clients the calendars on the web that its owner knows, with the session and without links that are the client’s', async () => {
  const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Quay 1 & 2' }]
  const workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'talk', settings: { places } }] })
  const owner = await signIn(app, workspace.owner)
  const { base: _base, earlier: _earlier, deletion: _none, ...settings } = (await call(`${app}/api/desk/workspace`, { headers: owner })).body
  const save = (address: string) => put(owner, { ...settings, calendarLinks: [{ name: 'Web calendar', address }] })
  expect((await save('https://{title}.example/{start}')).body.errors).toMatchObject([{ path: 'calendarLinks.0.address', code: 'calendarLink' }])
  expect((await save('https://calendar.example/new?title={title}&from={start}&at={place}')).status).toBe(200)
  const booked = await bookNext(app, context, workspace)
  const { body: page } = await call(`${app}/api/public/bookings/${tokenOf(booked)}/page`)
  const from = booked.start.replaceAll(/[-:]/g, '')
  expect(page.calendarLinks).toEqual([
    { name: 'Web calendar', address: `https://calendar.example/new?title=Talk%20with%20Host%200&from=${from}&at=Quay%201%20%26%202` },
  ])
})
