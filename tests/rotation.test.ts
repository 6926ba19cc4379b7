import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import { freePort } from '../scripts/run/ports'
import { startApp } from '../scripts/run/services'
import { replayLedger } from '../core/rotation/ledger'
import type { GroupEffect, GroupView, RotationView } from '../core/views/rotation'
import type { Context } from '../server/context'
import { turns, workspaces } from '../server/database/schema'
import { loadLedger } from '../server/rotation'
import { closeContext, makeContext } from '../server/start'
import { campaign } from './support/campaign'
import { book, call, post, request, signIn, startsOf } from './support/http'
import { bookNext, roomOf, shiftSession, textsOf, tokenOf } from './support/sessions'
import { addMember, makeWorkspace } from './support/workspace'

const app = inject('app')
let context: Context
beforeAll(async () => (context = await makeContext(inject('environment'))))
afterAll(() => closeContext(context))

const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]

it('stays within one session of even over many bookings by many clients at two processes, and replays', async () => {
  const workspace = await makeWorkspace(context, {
    hosts: 5, eventTypes: [{ slug: 'talk', settings: { places, durations: [5], startEveryMinutes: 5, bufferAfterMinutes: 0 } }],
  })
  const folder = join(inject('folder'), 'second')
  mkdirSync(folder, { recursive: true })
  const appPort = await freePort(inject('serverPort') + 80, new Set())
  const second = await startApp(
    { folder, appPort }, { ...inject('environment'), PORT: String(appPort) },
  )
  const processes = [app, `http://127.0.0.1:${appPort}`]
  try {
    const path = `${workspace.slug}/talk`
    const wanted = campaign(200, 10_000)
    const found: string[] = []
    // One answer holds as many openings as a month of these.
    for (let day = 2; found.length < wanted; day += 10) found.push(...await startsOf(app, path, day, 9))
    const starts = found.slice(0, wanted)
    expect(starts).toHaveLength(wanted)
    const waiting = [...starts.entries()]
    const client = async () => {
      for (let next = waiting.shift(); next; next = waiting.shift()) {
        const [index, start] = next
        const answer = await book(processes[index % 2] ?? app, path, request(start))
        expect(answer.status, JSON.stringify(answer.body)).toBe(201)
      }
    }
    await Promise.all(Array.from({ length: 40 }, client))
  } finally {
    await second.stop()
  }
  // Nobody reads the thousands of mails, and the tests after this one would wait for them.
  await context.db.execute(sql`select graphile_worker.complete_jobs(array(
    select id from graphile_worker.jobs where key like ${`%:${workspace.id}:%`} and locked_at is null))`)
  const owed = await context.db.select().from(turns).where(eq(turns.workspaceId, workspace.id))
  const poolId = owed[0]?.poolId ?? ''
  const ledger = await loadLedger(context.db, workspace.id, { poolId })
  const counts = new Map(workspace.hosts.map(host => [host.id, 0]))
  ledger.forEach((entry, index) => {
    counts.set(entry.host, (counts.get(entry.host) ?? 0) + 1)
    if ((index + 1) % 100 !== 0) return
    const had = [...counts.values()]
    expect(Math.max(...had) - Math.min(...had), `after ${index + 1}`).toBeLessThanOrEqual(1)
  })
  const download = await call(`${app}/api/desk/rotation/${poolId}/ledger`, { headers: await signIn(app, workspace.owner) })
  expect(download.body).toEqual({ version: 1, entries: ledger })
  const { pools, faults } = replayLedger(ledger)
  expect(faults).toEqual([])
  for (const { hostId, credit } of owed) expect(pools.get(poolId)?.get(hostId)?.credit).toBeCloseTo(credit, 6)
}, campaign(90_000, 1_200_000))

it('a group takes turns over all event types that draw on it, and shows what a change of it means before it is saved', async () => {
  const workspace = await makeWorkspace(context, { hosts: 3, eventTypes: [{ slug: 'one', settings: { places } }, { slug: 'two', settings: { places } }] })
  const headers = await signIn(app, workspace.owner)
  const [a, b, c] = workspace.hosts.map(host => host.id)
  const hosts = [a, b].map(id => ({ id, weight: 1 }))
  const made = await post(`${app}/api/desk/groups`, { name: 'Morning desk', hosts }, headers)
  expect(made.status).toBe(200)
  const groupId: string = made.body.id
  const rows = (await call(`${app}/api/desk/event-types`, { headers })).body as { id: string, version: number }[]
  for (const { id } of rows) {
    const { definition, version } = (await call(`${app}/api/desk/event-types/${id}`, { headers })).body
    const drawing = { ...definition, chairs: [{ ...definition.chairs[0], groups: [{ id: groupId, name: 'Morning desk' }], hosts: hosts.map(host => ({ ...host, name: '', group: groupId })) }] }
    const published = await post(`${app}/api/desk/event-types/${id}/publish`, { basedOn: version, definition: drawing }, headers)
    expect(published.status, JSON.stringify(published.body)).toBe(200)
  }
  // One session of each, then another: two each in the group, whatever the event type.
  for (const slug of ['one', 'two', 'one', 'two']) await bookNext(app, context, workspace, slug)
  const rotation = async () => ((await call(`${app}/api/desk/rotation?pool=${groupId}`, { headers })).body as RotationView).pools.find(pool => pool.id === groupId)
  expect((await rotation())?.hosts.map(host => [host.id, host.had, host.target, host.reasons])).toEqual([a, b].map(id =>
    [id, 2, 2, [{ code: 'withinOne' }]]))
  expect((await rotation())?.usedBy).toHaveLength(2)

  const changed = { name: 'Morning desk', hosts: [{ id: a, weight: 1 }, { id: c, weight: 2 }] }
  const effects = (await post(`${app}/api/desk/groups/${groupId}/preview`, changed, headers)).body as GroupEffect[]
  expect(effects).toHaveLength(2)
  // A host that somebody else has removed meanwhile, and a group.
  const gone = await post(`${app}/api/desk/groups/${groupId}/preview`, { ...changed, hosts: [{ id: groupId, weight: 1 }] }, headers)
  expect([gone.status, gone.body.errors[0].path]).toEqual([422, 'hosts.0'])
  expect((await post(`${app}/api/desk/groups/${a}/preview`, changed, headers)).status).toBe(404)
  // Whoever joins is free where both of the others are taken.
  for (const { openings } of effects) expect(openings?.after).toBe((openings?.before ?? 0) + (openings?.added ?? 0))
  for (const { openings } of effects) expect(openings?.added).toBeGreaterThan(0)
  const unknown = await post(`${app}/api/desk/groups/${groupId}/preview`, { name: 'x', hosts: [] }, headers)
  expect([unknown.status, unknown.body.errors[0].path]).toEqual([400, 'hosts'])

  const groups = async () => (await call(`${app}/api/desk/groups`, { headers })).body as GroupView[]
  const version = (await groups())[0]?.version ?? 0
  const saved = await Promise.all([1, 2].map(() => post(`${app}/api/desk/groups/${groupId}`, { basedOn: version, ...changed }, headers)))
  expect(saved.map(answer => answer.status).sort()).toEqual([200, 409])
  const late = await post(`${app}/api/desk/groups/${groupId}`, { basedOn: version, ...changed }, headers)
  expect([late.status, late.body.reason]).toEqual([409, 'groupChanged'])
  const kept = await fetch(`${app}/api/desk/groups/${groupId}`, { method: 'DELETE', headers })
  expect(kept.status).toBe(409)
  for (const slug of ['one', 'two', 'one']) await bookNext(app, context, workspace, slug)
  const after = await rotation()
  expect(after?.hosts.map(host => host.id)).toEqual([a, c])
  expect(after?.hosts.find(host => host.id === c)?.had).toBeGreaterThanOrEqual(2)
  expect(replayLedger(await loadLedger(context.db, workspace.id, { poolId: groupId })).faults).toEqual([])
  const strange = await post(`${app}/api/desk/groups`, { name: 'x', hosts: [{ id: crypto.randomUUID(), weight: 1 }] }, headers)
  expect([strange.status, strange.body.errors[0].path]).toEqual([422, 'hosts.0'])
})

it('gives the turn back when a session is cancelled, and not where the workspace counts it', async () => {
  const workspace = await makeWorkspace(context, { hosts: 2, eventTypes: [{ slug: 'talk', settings: { places } }] })
  const credits = async () => (await context.db.select().from(turns).where(eq(turns.workspaceId, workspace.id))).map(row => row.credit)
  const first = await bookNext(app, context, workspace)
  expect((await credits()).sort()).toEqual([-0.5, 0.5])
  expect((await post(`${app}/api/public/bookings/${tokenOf(first)}/cancel`, {})).status).toBe(200)
  expect(await credits()).toEqual([0, 0])
  await context.db.execute(`update workspaces set counts_cancelled = true where id = '${workspace.id}'`)
  const second = await bookNext(app, context, workspace)
  expect((await post(`${app}/api/public/bookings/${tokenOf(second)}/cancel`, {})).status).toBe(200)
  expect((await credits()).sort()).toEqual([-0.5, 0.5])
})

it('tells observers of sessions with an entry of their own, and nobody who is no member', async () => {
  const workspace = await makeWorkspace(context, { hosts: 1, video: true, eventTypes: [{ slug: 'talk' }] })
  const headers = await signIn(app, workspace.owner)
  const coordinator = await addMember(context, workspace, 'coordinator')
  const [row] = (await call(`${app}/api/desk/event-types`, { headers })).body as { id: string }[]
  const { definition, version, members } = (await call(`${app}/api/desk/event-types/${row?.id}`, { headers })).body
  const observer = (members as { id: string, name: string }[]).find(member => member.name === 'Test coordinator')
  const publish = (observers: object[]) => post(`${app}/api/desk/event-types/${row?.id}/publish`, {
    basedOn: version, definition: { ...definition, settings: { ...definition.settings, observers } },
  }, headers)
  expect((await publish([{ id: crypto.randomUUID(), name: 'x' }])).body.errors).toMatchObject([{ path: 'definition.settings.observers.0', code: 'unknownObserver' }])
  expect((await publish([{ ...observer, name: 'old name' }])).status).toBe(200)
  const booked = await bookNext(app, context, workspace)
  await expect.poll(() => textsOf(coordinator.email), { timeout: 30_000 }).toHaveLength(1)
  const [mail = ''] = await textsOf(coordinator.email)
  const room = await roomOf(context, booked.sessionId)
  expect(mail).toContain(`UID:${booked.sessionId}`)
  expect(mail).toContain('METHOD:REQUEST')
  expect(mail).toContain(room?.joinUrl)
  expect(mail, 'they do not open the room as its host').not.toContain(room?.hostUrl)
  expect((await post(`${app}/api/public/bookings/${tokenOf(booked)}/cancel`, {})).status).toBe(200)
  await expect.poll(() => textsOf(coordinator.email), { timeout: 30_000 }).toHaveLength(2)
  expect((await textsOf(coordinator.email))[1]).toContain('METHOD:CANCEL')
})

it('a missed session gives its turn back where the workspace says so, and takes it again where it was attended after all', async () => {
  const workspace = await makeWorkspace(context, { hosts: 2, eventTypes: [{ slug: 'talk', settings: { places } }] })
  const headers = await signIn(app, workspace.owner)
  const booked = await bookNext(app, context, workspace)
  const mark = (state: string) => post(`${app}/api/desk/bookings/${booked.bookingId}/attendance`, { state }, headers)
  expect((await mark('missed')).status, 'it has not begun').toBe(409)
  const hour = 3_600_000
  await shiftSession(context, booked.sessionId, new Date(Date.now() - 2 * hour), new Date(Date.now() - hour))
  const credits = async () =>
    (await context.db.select().from(turns).where(eq(turns.workspaceId, workspace.id))).map(row => row.credit).sort((a, b) => a - b)
  const replayed = async () => {
    const ledger = await loadLedger(context.db, workspace.id, { sessionId: booked.sessionId })
    expect(replayLedger(ledger).faults).toEqual([])
    return ledger.map(entry => entry.kind)
  }
  const after = await credits()
  expect(after).toEqual([-0.5, 0.5])
  expect([(await mark('missed')).body, await credits(), await replayed()]).toEqual([{ state: 'missed' }, after, ['booked']])
  expect([(await mark('attended')).status, await credits()]).toEqual([200, after])

  await context.db.update(workspaces).set({ countsMissed: false }).where(eq(workspaces.id, workspace.id))
  expect([(await mark('missed')).status, await credits()]).toEqual([200, [0, 0]])
  expect((await mark('missed')).status, 'twice is once').toBe(200)
  expect([await credits(), await replayed()]).toEqual([[0, 0], ['booked', 'returned']])
  expect([(await mark('attended')).status, await credits(), await replayed()]).toEqual([200, after, ['booked', 'returned', 'retaken']])
  const { body: session } = await call(`${app}/api/desk/sessions/${booked.sessionId}`, { headers })
  expect(session.assignments.map((item: { kind: string, returned: boolean }) => [item.kind, item.returned])).toEqual([['booked', false]])
  await Promise.all([mark('missed'), mark('attended'), mark('missed')])
  await mark('missed')
  expect(await credits()).toEqual([0, 0])
  await replayed()
})
