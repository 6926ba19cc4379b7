import { eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import { receiveHostTime } from '../core/event-type/host-time'
import { instantToSeconds } from '../core/time/civil'
import type { Definition } from '../core/event-type/definition'
import type { TodayView } from '../core/views/desk'
import type { EventTypeRow, SentBench } from '../core/views/event-types'
import type { Context } from '../server/context'
import { trail } from '../server/database/schema'
import { closeContext, makeContext } from '../server/start'
import { book, call, post, request, signIn, startsOf } from './support/http'
import { untilQuiet } from './support/queue'
import { addMember, makeWorkspace, type TestWorkspace } from './support/workspace'

/** What the desk asks of the server, beyond what its screens show in their own tests. */

const app = inject('app')
let context: Context
let workspace: TestWorkspace
let owner: { cookie: string }
beforeAll(async () => {
  context = await makeContext(inject('environment'))
  workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'talk' }, { slug: 'other' }] })
  owner = await signIn(app, workspace.owner)
})
afterAll(() => closeContext(context))

const rows = async (): Promise<EventTypeRow[]> => (await call(`${app}/api/desk/event-types`, { headers: owner })).body
const rowOf = async (slug: string) => {
  const row = (await rows()).find(candidate => candidate.slug === slug)
  if (!row) throw new Error(`There is no ${slug}`)
  return row
}

it('Today is sent again only once something has happened, and shows what was cancelled apart', async () => {
  const today = (date: string, tag = '') =>
    fetch(`${app}/api/desk/today?timeZone=UTC&date=${date}`, { headers: { ...owner, ...(tag ? { 'if-none-match': tag } : {}) } })
  const [start = ''] = await startsOf(app, `${workspace.slug}/talk`, 3)
  const date = start.slice(0, 10)
  const first = await today(date)
  const tag = first.headers.get('etag') ?? ''
  const again = await today(date, tag)
  expect([again.status, await again.text()]).toEqual([304, ''])
  const { body } = await book(app, `${workspace.slug}/talk`, request(start))
  const after = await today(date, tag)
  expect(after.status).toBe(200)
  const shown = await after.json() as TodayView
  expect([shown.today.length, shown.comingDays.filter(day => day.sessions > 0)]).toEqual([1, [
    { date, sessions: 1, first: instantToSeconds(start), toApprove: 0 },
  ]])
  // In a zone where it starts on another day it is counted there.
  const far = await (await fetch(`${app}/api/desk/today?timeZone=Pacific/Auckland`, { headers: owner })).json() as TodayView
  const there = new Intl.DateTimeFormat('en-CA', { timeZone: 'Pacific/Auckland' }).format(new Date(start))
  expect(far.comingDays.map(day => day.date)).toEqual([there])
  await untilQuiet(context)
  // An entry of a transaction that was overtaken by another: its number is a lower one.
  const [{ id, sessionId } = { id: 0, sessionId: '' }] = await context.db.delete(trail)
    .where(eq(trail.id, sql`(select min(id) from trail where workspace_id = ${workspace.id})`)).returning()
  const before = (await today(date)).headers.get('etag')
  await context.db.insert(trail).values({ workspaceId: workspace.id, id, sessionId, code: 'holdEnded', values: {} })
  expect((await today(date)).headers.get('etag')).not.toBe(before)
  await post(`${app}/api/public/bookings/${new URL(body.manage).pathname.split('/').at(-1)}/cancel`, {})
  const view = await (await today(date, after.headers.get('etag') ?? '')).json() as TodayView
  expect([view.today.length, view.cancelled.map(card => card.bookings.length)]).toEqual([0, [1]])
})

it('an event type is closed and opened with drafts kept, and deleted only if nobody ever booked it', async () => {
  const { id, version } = await rowOf('other')
  const path = `${app}/api/desk/event-types/${id}`
  const bench: SentBench = (await call(path, { headers: owner })).body
  const definition: Definition = { ...bench.definition, settings: { ...bench.definition.settings, seats: 7 } }
  const saved = await fetch(`${path}/draft`, {
    method: 'PUT', headers: { ...owner, 'content-type': 'application/json' }, body: JSON.stringify({ basedOn: version, definition }),
  })
  expect(saved.status).toBe(200)
  expect(await post(`${path}/state`, { state: 'closed' }, owner)).toMatchObject({ status: 200, body: { state: 'closed' } })
  expect(await rowOf('other')).toMatchObject({ state: 'closed', version: version + 1, unpublishedChanges: 1 })
  const reloaded: SentBench = (await call(path, { headers: owner })).body
  expect(reloaded.draft).toMatchObject({ basedOn: version + 1, definition: { state: 'closed', settings: { seats: 7 } } })

  const open = `${app}/api/public/${workspace.slug}/other`
  expect((await call(open)).status, 'closed to clients').toBe(404)
  expect((await call(`${open}?preview`)).status, 'no preview for strangers').toBe(404)
  const stranger = await makeWorkspace(context, { hosts: 1, eventTypes: [] })
  expect((await call(`${open}?preview`, { headers: await signIn(app, stranger.owner) })).status).toBe(404)
  expect((await call(`${open}?preview`, { headers: owner })).body.eventType.seats, 'the member’s own draft').toBe(7)
  expect((await fetch(`${app}/${workspace.slug}/other?preview`, { headers: owner })).status).toBe(200)
  expect((await fetch(`${app}/${workspace.slug}/other?preview`)).status, 'a preview is never stored').toBe(404)

  const host = await signIn(app, await addMember(context, workspace, 'host'))
  const remove = (who: { cookie: string }, of = path) => call(of, { method: 'DELETE', headers: who })
  expect((await remove(host)).status).toBe(403)
  expect((await remove(owner, `${app}/api/desk/event-types/${(await rowOf('talk')).id}`)).status, 'it was booked').toBe(409)
  expect((await remove(owner)).status).toBe(200)
  expect((await rows()).map(row => row.slug)).toEqual(['talk'])
  expect((await remove(owner)).status).toBe(404)
})

it('times in sentences follow the member’s clock', async () => {
  const set = (clock: string) => fetch(`${app}/api/desk/me`, {
    method: 'PUT', headers: { ...owner, 'content-type': 'application/json' }, body: JSON.stringify({ timeZone: 'Asia/Kolkata', clock }),
  })
  expect(await (await set('12')).json()).toMatchObject({ clock: '12', timeZone: 'Asia/Kolkata' })
  expect((await set('13')).status).toBe(400)
  expect((await call(`${app}/api/desk/me`, { headers: owner })).body.clock).toBe('12')
})

it('an address that is asked by a method it does not take says which it takes', async () => {
  for (const [method, path, allow] of [['DELETE', 'hours', 'GET, POST'], ['GET', 'sign-in', 'POST'], ['PATCH', `hours/${workspace.id}/`, 'GET, POST, DELETE']]) {
    const response = await fetch(`${app}/api/desk/${path}`, { method: method ?? '', headers: owner })
    expect([response.status, response.headers.get('content-type'), response.headers.get('allow')])
      .toEqual([405, 'application/problem+json; charset=utf-8', allow])
    expect((await response.json()).detail).toMatch(/^This address takes/)
  }
})

it('the bench knows at once what is booked, cancelled and said of hours, however often it was looked at', async () => {
  const { id } = await rowOf('talk')
  const time = async () => {
    const bench: SentBench = (await call(`${app}/api/desk/event-types/${id}`, { headers: owner })).body
    return receiveHostTime(bench.time)
  }
  const taken = async () => (await time()).flatMap(host => host.sessions.map(({ start: at }) => at))
  const [start = ''] = await startsOf(app, `${workspace.slug}/talk`, 4)
  const at = instantToSeconds(start)
  expect([(await taken()).includes(at), (await taken()).includes(at)]).toEqual([false, false])
  const { body } = await book(app, `${workspace.slug}/talk`, request(start))
  expect([(await taken()).includes(at), (await taken()).includes(at)]).toEqual([true, true])
  await post(`${app}/api/public/bookings/${new URL(body.manage).pathname.split('/').at(-1)}/cancel`, {})
  expect((await taken()).includes(at)).toBe(false)
  const [{ id: planId }] = (await call(`${app}/api/desk/hours`, { headers: owner })).body
  const { body: { plan, name, version } } = await call(`${app}/api/desk/hours/${planId}`, { headers: owner })
  const from = '11:10'
  const weekly = [{ ...plan.weekly[0], from }]
  expect((await post(`${app}/api/desk/hours/${planId}`, { basedOn: version, name, plan: { ...plan, weekly } }, owner)).status).toBe(200)
  expect((await time()).map(host => host.plans[0]?.plan.weekly.map(stretch => stretch.from))).toEqual([[from]])
})
