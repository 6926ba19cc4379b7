import { eq } from 'drizzle-orm'
import { afterEach, describe, expect, inject, it } from 'vitest'
import type { Settings } from '../core/event-type/settings'
import { roomOptionsSchema } from '../core/rooms/options'
import { hosts, rooms, videoAccounts, workspaces } from '../server/database/schema'
import { recoverJobs } from '../server/jobs/worker'
import { useApplication } from './support/application'
import { call, post, setFault, signIn } from './support/http'
import { connectQuayside, makeQuaysideAccount } from './support/quayside'
import { bookNext, roomOf, roomsAtService, subjects, textsOf, tokenOf, trailOf } from './support/sessions'
import { connectLantern, makeWorkspace } from './support/workspace'

/** Which way leads to a session's room, and what becomes of those that did not. */

const own = useApplication('room_ways', { VIDEO_TIMEOUT_SECONDS: '10', RETRY_PACE: '0.1' })
afterEach(async () => {
  await setFault('lantern', 'none')
  await setFault('quayside', 'none')
})

const soon = { timeout: 30_000, interval: 100 }
const PATTERN = 'https://meet.example.org/{room}'
const FIXED = { link: 'https://rooms.example.org/host', number: '123 456', passcode: '789' }
const byVideo = { places: [{ key: 'video', kind: 'video' as const, label: '', detail: '' }] }

async function team(options: { video?: boolean, hosts?: number, pattern?: string, settings?: Partial<Settings> }) {
  const workspace = await makeWorkspace(own.context, {
    hosts: options.hosts ?? 1, zone: 'UTC', video: options.video ?? false,
    eventTypes: [{ slug: 'talk', settings: { ...byVideo, durations: [60], startEveryMinutes: 60, bufferAfterMinutes: 0, ...options.settings } }],
  })
  await own.context.db.update(workspaces).set({ roomPattern: options.pattern ?? '' }).where(eq(workspaces.id, workspace.id))
  const give = (index: number) => own.context.db.update(hosts).set({ fixedRoom: FIXED }).where(eq(hosts.id, workspace.hosts[index]?.id ?? ''))
  const booked = (who?: Record<string, unknown>) => bookNext(own.url, own.context, workspace, 'talk', who)
  const state = async (sessionId: string) => (await roomOf(own.context, sessionId))?.state
  return { workspace, give, booked, state }
}

describe('a service that does not answer', () => {
  it('gives way to the next within what a confirmation waits, and what it makes after all is withdrawn', async () => {
    const { workspace, booked } = await team({ video: true, pattern: PATTERN })
    await setFault('lantern', 'holding', 1)
    const client = { name: `Ana of ${workspace.slug}`, email: `ana@${workspace.slug}.example` }
    const { sessionId } = await booked({ client })
    // Whoever looks for jobs left behind does not take one for dead that takes its time.
    await new Promise(resolve => setTimeout(resolve, 4500))
    expect(await recoverJobs(own.context.pool)).toEqual([])
    await expect.poll(async () => (await roomOf(own.context, sessionId))?.state, soon).toBe('ready')
    await setFault('lantern', 'none')
    const room = await roomOf(own.context, sessionId)
    expect(room?.joinUrl).toMatch(/^https:\/\/meet\.example\.org\/[0-9a-f]{32}$/)
    await expect.poll(async () => (await textsOf(client.email)).map(text => text.includes(room?.joinUrl ?? '-')), soon).toEqual([true])
    await expect.poll(() => trailOf(own.context, workspace, sessionId), soon).toEqual(expect.arrayContaining([
      expect.stringMatching(/Lantern Rooms .*going on to the workspace’s own meeting server/), 'The room is on the workspace’s own meeting server.',
      'Lantern Rooms withdrew the room.',
    ]))
    expect(await roomsAtService(client.name)).toBe(0)
    expect(await own.context.db.$count(rooms, eq(rooms.sessionId, sessionId))).toBe(2)
  })

  it('nor the second one: the meeting server is there within what a confirmation waits', async () => {
    const { workspace, booked, state } = await team({ video: true, pattern: PATTERN })
    await connectQuayside(own.context, workspace, await makeQuaysideAccount(inject('quayside'), [{ name: 'Main', address: `main@${workspace.slug}.example` }]))
    await setFault('lantern', 'silent')
    await setFault('quayside', 'silent')
    const email = `bo@${workspace.slug}.example`
    const { sessionId } = await booked({ client: { name: 'Bo', email } })
    await expect.poll(() => state(sessionId), { timeout: 20_000, interval: 100 }).toBe('ready')
    expect((await roomOf(own.context, sessionId))?.way).toBe('pattern')
    // One mail, with the link in it: the confirmation had waited.
    await expect.poll(() => subjects(email), soon).toEqual(['Talk'])
    expect((await textsOf(email))[0]).toContain('https://meet.example.org/')
  })

  it('is tried again by itself where there is no other way', async () => {
    const { booked, state, workspace } = await team({ video: true })
    await setFault('lantern', 'failing', 3)
    const { sessionId } = await booked()
    // The trail says why not.
    const found = async () => [await state(sessionId), ...await trailOf(own.context, workspace, sessionId)].join('\n')
    // Beside all other tests its turn may come late: what is tested is that it comes.
    await expect.poll(found, { timeout: 120_000, interval: 200 }).toMatch(/^ready\n/)
    expect(await own.context.db.$count(rooms, eq(rooms.workspaceId, workspace.id))).toBe(1)
  }, 150_000)

  it('whose account was disconnected meanwhile has what it made after all withdrawn', async () => {
    const { booked, state, workspace } = await team({ video: true })
    await setFault('lantern', 'losing')
    const client = { name: `Dov of ${workspace.slug}`, email: `dov@${workspace.slug}.example` }
    await own.context.db.update(workspaces).set({ roomWays: ['own'] }).where(eq(workspaces.id, workspace.id))
    const { sessionId } = await booked({ client })
    await expect.poll(() => state(sessionId), soon).toBe('failing')
    expect(await roomsAtService(client.name)).toBe(1)
    await own.context.db.update(videoAccounts).set({ state: 'lost' }).where(eq(videoAccounts.workspaceId, workspace.id))
    await own.context.db.update(workspaces).set({ roomWays: ['pattern'], roomPattern: PATTERN }).where(eq(workspaces.id, workspace.id))
    await expect.poll(() => state(sessionId), soon).toBe('ready')
    await setFault('lantern', 'none')
    await expect.poll(() => roomsAtService(client.name), soon).toBe(0)
  })

  it('whose account has given way to another one withdraws what it made, under its own credentials', async () => {
    const { booked, state, workspace } = await team({ video: true })
    const client = { name: `Eda of ${workspace.slug}`, email: `eda@${workspace.slug}.example` }
    const first = await booked({ client })
    await expect.poll(() => state(first.sessionId), soon).toBe('ready')
    await connectLantern(own.context, workspace.id, workspace.hosts[0]?.id ?? '', 3)
    const second = await booked({ client })
    await expect.poll(() => state(second.sessionId), soon).toBe('ready')
    expect(await roomsAtService(client.name)).toBe(2)
    const accounts = own.context.db.select().from(videoAccounts).where(eq(videoAccounts.workspaceId, workspace.id))
    expect((await accounts).map(account => account.state).sort()).toEqual(['connected', 'disconnected'])
    for (const booking of [first, second]) await post(`${own.url}/api/public/bookings/${tokenOf(booking)}/cancel`, {})
    await expect.poll(() => roomsAtService(client.name), soon).toBe(0)
  })

  it('whose account only a person can mend gives way at once', async () => {
    const { booked, state, workspace } = await team({ video: true, pattern: PATTERN })
    await own.context.db.update(videoAccounts).set({ sealedCredentials: 'sealed with another secret' }).where(eq(videoAccounts.workspaceId, workspace.id))
    const { sessionId } = await booked()
    await expect.poll(() => state(sessionId), soon).toBe('ready')
    const [account] = await own.context.db.select().from(videoAccounts).where(eq(videoAccounts.workspaceId, workspace.id))
    expect(account?.state).toBe('lost')
  })
})

it('is a host’s fixed room, but not of two sessions that follow at once', async () => {
  const { booked, state, give } = await team({})
  await give(0)
  const first = await booked()
  await expect.poll(() => state(first.sessionId), soon).toBe('ready')
  const { link, number, passcode } = FIXED
  expect(await roomOf(own.context, first.sessionId)).toMatchObject({ joinUrl: link, number, passcode, hostUrl: null })
  const second = await booked()
  await expect.poll(() => state(second.sessionId), soon).toBe('failing')
  await post(`${own.url}/api/public/bookings/${tokenOf(first)}/cancel`, {})
  expect((await roomOf(own.context, first.sessionId))?.joinUrl).toBeNull()
})

it('is the event type’s own link, which nobody sees before they have booked', async () => {
  const { workspace, booked, state } = await team({ pattern: PATTERN, settings: { room: { ways: ['link', 'pattern'], link: 'https://rooms.example.org/club', options: roomOptionsSchema.parse({}) } } })
  const { body } = await call(`${own.url}/api/public/${workspace.slug}/talk`)
  const page = await (await fetch(`${own.url}/${workspace.slug}/talk`)).text()
  expect(JSON.stringify(body) + page).not.toContain('rooms.example.org')
  const [first, second] = [await booked(), await booked()]
  await expect.poll(() => state(second.sessionId), soon).toBe('ready')
  await expect.poll(async () => (await roomOf(own.context, first.sessionId))?.joinUrl, soon).toBe('https://rooms.example.org/club')
  expect((await roomOf(own.context, second.sessionId))?.joinUrl).toContain('meet.example.org')
})

it('is found for sessions that have none as soon as the workspace opens another way', async () => {
  const { workspace, booked, state } = await team({})
  const { sessionId } = await booked()
  await expect.poll(() => state(sessionId), soon).toBe('failing')
  const headers = await signIn(own.url, workspace.owner)
  const { base: _base, earlier: _earlier, deletion: _deletion, ...settings } = (await call(`${own.url}/api/desk/workspace`, { headers })).body
  const save = (change: object) => call(`${own.url}/api/desk/workspace`, {
    method: 'PUT', headers: { ...headers, 'content-type': 'application/json' }, body: JSON.stringify({ ...settings, ...change }),
  })
  expect((await save({ roomPattern: 'https://{room}.example.org/' })).body.errors).toMatchObject([{ path: 'roomPattern' }])
  expect((await save({ roomPattern: PATTERN })).status).toBe(200)
  await expect.poll(() => state(sessionId), soon).toBe('ready')
})

describe('by hand', () => {
  it('another room is made, or a link is given, and everybody is told once', async () => {
    const { workspace, booked, state } = await team({ pattern: PATTERN })
    const headers = await signIn(own.url, workspace.owner)
    const client = { name: `Bea of ${workspace.slug}`, email: `bea@${workspace.slug}.example` }
    const { sessionId } = await booked({ client })
    const linkOf = async () => (await roomOf(own.context, sessionId))?.joinUrl ?? '-'
    const mails = async () => Promise.all((await textsOf(client.email)).map(async text => text.includes(await linkOf())))
    await expect.poll(() => state(sessionId), soon).toBe('ready')
    await expect.poll(mails, soon).toEqual([true])
    const first = await linkOf()
    expect((await post(`${own.url}/api/desk/sessions/${sessionId}/room/renew`, {}, headers)).status).toBe(200)
    await expect.poll(mails, soon).toEqual([false, true])
    expect(await linkOf()).not.toBe(first)
    const give = (link: string) => post(`${own.url}/api/desk/sessions/${sessionId}/room/link`, { link }, headers)
    expect((await give('javascript:alert(1)')).status).toBe(400)
    expect((await give('https://rooms.example.org/given')).status).toBe(200)
    await expect.poll(mails, soon).toEqual([false, false, true])
    expect(await subjects(client.email)).toEqual(['Talk', 'New video link', 'New video link'])
    await expect.poll(async () => (await subjects(workspace.hosts[0]?.email ?? '')).length, soon).toBe(3)
    expect(await trailOf(own.context, workspace, sessionId)).toEqual(expect.arrayContaining(['Test Owner asked for a new link.', 'Test Owner gave it a link by hand.']))
  })

  it('not where the session has nobody confirmed any more, and confirmations that wait go out with the link', async () => {
    const { workspace, booked } = await team({})
    const headers = await signIn(own.url, workspace.owner)
    const client = { name: `Cyd of ${workspace.slug}`, email: `cyd@${workspace.slug}.example` }
    const one = await booked({ client })
    const give = () => post(`${own.url}/api/desk/sessions/${one.sessionId}/room/link`, { link: 'https://rooms.example.org/soon' }, headers)
    expect((await give()).status).toBe(200)
    await expect.poll(() => subjects(client.email), soon).toEqual(['Talk'])
    expect((await textsOf(client.email))[0]).toContain('https://rooms.example.org/soon')
    await post(`${own.url}/api/public/bookings/${tokenOf(one)}/cancel`, {})
    expect((await give()).status).toBe(409)
  })
})
