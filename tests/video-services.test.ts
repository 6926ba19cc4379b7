import { and, eq } from 'drizzle-orm'
import { afterEach, describe, expect, inject, it } from 'vitest'
import type { Settings } from '../core/event-type/settings'
import { bookings, deliveries, hosts, rooms, sessions, videoAccounts } from '../server/database/schema'
import { sweepRooms, warnOfMissingLinks } from '../server/rooms'
import { useApplication } from './support/application'
import { call, inbox, mailText, post, setFault, signIn } from './support/http'
import { atQuayside, callsAtQuayside, connectQuayside, makeQuaysideAccount } from './support/quayside'
import { attentionOf, type Booked, bookNext, heldAtService, roomOf, roomsAtService, rowsAtService, shiftSession, subjects, textsOf, tokenOf, trailOf } from './support/sessions'
import { connectLantern, makeWorkspace, type TestWorkspace } from './support/workspace'

/** What rooms of both services are like, and what happens when an account, and not a room, is the trouble. */

const own = useApplication('video_services', { VIDEO_TIMEOUT_SECONDS: '5', RETRY_PACE: '0.05', ROOM_WAIT_SECONDS: '2' })
afterEach(async () => {
  await setFault('lantern', 'none')
  await setFault('quayside', 'none')
})

const soon = { timeout: 30_000, interval: 100 }
const byVideo = { places: [{ key: 'video', kind: 'video' as const, label: '', detail: '' }] }

async function team(count = 1, settings: Partial<Settings> = {}): Promise<TestWorkspace> {
  return makeWorkspace(own.context, {
    hosts: count, zone: 'UTC',
    eventTypes: [{ slug: 'talk', settings: { ...byVideo, durations: [30], startEveryMinutes: 30, bufferAfterMinutes: 0, ...settings } }],
  })
}
const state = async (sessionId: string) => (await roomOf(own.context, sessionId))?.state
const owner = (workspace: TestWorkspace) => signIn(own.url, workspace.owner)
const desk = async (workspace: TestWorkspace, method: string, path: string, body?: object) => call(`${own.url}/api/desk/${path}`, {
  method, headers: { ...await owner(workspace), 'content-type': 'application/json' }, ...(body ? { body: JSON.stringify(body) } : {}),
})
const accountOf = async (workspace: TestWorkspace) =>
  (await own.context.db.select().from(videoAccounts).where(eq(videoAccounts.workspaceId, workspace.id)))[0]
const look = (workspace: TestWorkspace, id: string) => desk(workspace, 'POST', `connections/${id}/look`, {})
/** The row of a room at a service, with its title, times, host and attendees. */
const atService = async (words: string, service: 'lantern' | 'quayside') => (await rowsAtService(service)).filter(row => row.includes(words) && row.includes('as guest'))

describe('the workspace’s credentials', () => {
  it('are tried before they are saved, and say what is wrong', async () => {
    const workspace = await team()
    const account = await makeQuaysideAccount(inject('quayside'), [{ name: 'Main', address: `main@${workspace.slug}.example` }])
    const connect = (secret: string) => desk(workspace, 'POST', 'video-services/quayside/connect', {
      fields: { account: account.number, client: account.client, secret },
    })
    const wrong = await connect('mistyped')
    expect([wrong.status, wrong.body.detail]).toEqual([502, 'Quayside Video answered 401 (account, client and secret do not belong together).'])
    expect((await desk(workspace, 'POST', 'video-services/quayside/connect', { fields: { account: '', client: '1' } })).body.errors)
      .toEqual([expect.objectContaining({ path: 'account' }), expect.objectContaining({ path: 'secret' })])
    expect(await accountOf(workspace)).toBeUndefined()
    expect((await connect(account.secret)).body.label).toBe(`Practice ${account.number}, account ${account.number}`)
    const { body } = await desk(workspace, 'GET', 'connections')
    expect(JSON.stringify(body)).not.toContain(account.secret)
    expect((await accountOf(workspace))?.sealedCredentials).not.toContain(account.secret)
  })

  it('make rooms for the host who is a user there, and for others under the main user, who are told so until they accept', async () => {
    const workspace = await team(2)
    const [first, second] = workspace.hosts.map(({ email }) => email)
    const account = await makeQuaysideAccount(inject('quayside'), [{ name: 'Main of all', address: `main@${workspace.slug}.example` }, { name: 'Host 0', address: first ?? '' }])
    const id = await connectQuayside(own.context, workspace, account)
    const made: Booked[] = []
    for (const name of ['Ana', 'Bo']) {
      const booked = await bookNext(own.url, own.context, workspace, 'talk', { client: { name: `${name} ${workspace.slug}`, email: `${name}@${workspace.slug}.example` } })
      await expect.poll(() => state(booked.sessionId), soon).toBe('ready')
      made.push(booked)
    }
    const hostOf = async (name: string) => (await atService(`${name} ${workspace.slug}`, 'quayside'))[0] ?? ''
    const rows = [await hostOf('Ana'), await hostOf('Bo')]
    expect(rows.filter(row => row.includes('Host 0'))).toHaveLength(1)
    const others = rows.findIndex(row => row.includes('Main of all'))
    await expect.poll(async () => (await textsOf(second ?? '')).join(' '), soon).toContain('Under the main user of the workspace’s video account')
    expect((await textsOf(first ?? '')).join(' ')).not.toContain('Under the main user')

    const host = workspace.hosts[1]?.id ?? ''
    expect((await desk(workspace, 'PUT', `connections/${id}/users/${host}`)).body.until).toBeGreaterThan(Date.now() / 1000 + 29 * 86_400)
    const userOf = async () => (await desk(workspace, 'GET', 'connections')).body.hosts[1].users[0].state
    expect(await userOf()).toBe('invited')
    await expect.poll(async () => (await inbox(second ?? '')).some(({ subject }) => subject.includes('invites you to Quayside Video')), soon).toBe(true)
    const mail = (await inbox(second ?? '')).find(({ subject }) => subject.includes('invites you'))
    const link = /http:\S+\/invitations\/\w+/.exec(await mailText(mail?.id ?? ''))?.[0] ?? ''
    expect(await (await fetch(link, { method: 'POST' })).text()).toContain('You are a user')
    await look(workspace, id)
    expect(await userOf()).toBe('user')
    const name = others === 0 ? 'Ana' : 'Bo'
    await expect.poll(() => hostOf(name), soon).toContain('Host 1')
    await expect.poll(() => trailOf(own.context, workspace, made[others]?.sessionId ?? ''), soon)
      .toContain('Quayside Video brought the room up to date.')
  })

  it('show an invitation that has ended on Connections and among what waits', async () => {
    const workspace = await team()
    const account = await makeQuaysideAccount(inject('quayside'), [{ name: 'Main', address: `main@${workspace.slug}.example` }])
    const id = await connectQuayside(own.context, workspace, account)
    await desk(workspace, 'PUT', `connections/${id}/users/${workspace.hosts[0]?.id}`)
    const user = /name="user" value="(u\d+)"/.exec((await (await fetch(inject('quayside'))).text()).split(`Account ${account.number}`)[1] ?? '')?.[1] ?? ''
    await atQuayside(inject('quayside'), account, 'expire', { user })
    await look(workspace, id)
    expect((await desk(workspace, 'GET', 'connections')).body.hosts[0].users[0].state).toBe('ended')
    expect((await attentionOf(own.url, workspace)).map(({ kind }) => kind)).toContain('videoInvitation')
    expect((await desk(workspace, 'DELETE', `connections/${id}/users/${workspace.hosts[0]?.id}`)).status).toBe(200)
    expect((await desk(workspace, 'GET', 'connections')).body.hosts[0].users[0].state).toBe('none')
  })
})

describe('an account that refuses', () => {
  it('is asked by one room, stands in one line, stops bookings in the checks, and makes all rooms once it does again', async () => {
    const workspace = await team()
    const account = await makeQuaysideAccount(inject('quayside'), [{ name: 'Main', address: `main@${workspace.slug}.example` }])
    const id = await connectQuayside(own.context, workspace, account)
    await atQuayside(inject('quayside'), account, 'quota', { meetings: '0' })
    const asked = async () => (await callsAtQuayside(inject('quayside'))).calls.filter(({ call: name }) => name.startsWith('PUT')).length
    const before = await asked()
    const made: Booked[] = []
    for (let index = 0; index < 4; index++) {
      made.push(await bookNext(own.url, own.context, workspace))
      if (index === 0) await expect.poll(() => state(made[0]?.sessionId ?? ''), soon).toBe('failing')
    }
    const states = async () => Promise.all(made.map(({ sessionId }) => state(sessionId)))
    await expect.poll(states, soon).toEqual(Array(4).fill('failing'))
    expect(await asked() - before).toBe(1)
    expect((await attentionOf(own.url, workspace)).filter(({ kind }) => kind === 'videoAccount')).toMatchObject([{ state: 'refused', sessions: 4 }])
    const [row] = (await desk(workspace, 'GET', 'event-types')).body
    expect(row.worst).toMatchObject({ code: 'withoutVideo', severity: 'stops' })
    await look(workspace, id)
    expect((await desk(workspace, 'GET', 'connections')).body.workspace.accounts[0]).toMatchObject({ waiting: 4, plan: { rooms: 0 } })
    expect((await trailOf(own.context, workspace, made[1]?.sessionId ?? '')).join(' ')).toContain('It is made as soon as that is over')

    await atQuayside(inject('quayside'), account, 'quota', { meetings: '500' })
    await look(workspace, id)
    await expect.poll(states, soon).toEqual(Array(4).fill('ready'))
    expect((await attentionOf(own.url, workspace)).filter(({ kind }) => kind === 'videoAccount')).toEqual([])
  })

  it('says whose turn it is where its owner has to approve first', async () => {
    const workspace = await team()
    const approve = (what: string) => fetch(`${inject('lantern')}/accounts/${encodeURIComponent('bryn.calloway@fernhollow.example')}`, {
      method: 'POST', redirect: 'manual', body: new URLSearchParams({ do: what }),
    })
    const account = async () => (await desk(workspace, 'GET', 'connections')).body.hosts[0].accounts[0]
    await approve('needApproval')
    try {
      const place = [...(await (await fetch(`${inject('lantern')}/consent?client_id=temporia-demo`)).text()).matchAll(/<option value="([^"]+)"/g)]
        .findIndex(([, value]) => value?.startsWith('bryn'))
      await connectLantern(own.context, workspace.id, workspace.hosts[0]?.id ?? '', place)
      await expect.poll(async () => (await account()).state, soon).toBe('waiting')
      const { sessionId, email } = await bookNext(own.url, own.context, workspace)
      await expect.poll(() => state(sessionId), soon).toBe('failing')
      expect((await attentionOf(own.url, workspace)).filter(({ kind }) => kind === 'videoAccount')).toMatchObject([{ state: 'waiting', sessions: 1 }])
      await expect.poll(() => subjects(email), soon).toEqual(['Talk'])
    } finally {
      await approve('approve')
    }
    await look(workspace, (await account()).id)
    const [booked] = await own.context.db.select().from(bookings).where(eq(bookings.workspaceId, workspace.id))
    await expect.poll(() => state(booked?.sessionId ?? ''), soon).toBe('ready')
  })

  it('is lost once consent is taken back, before any client meets it', async () => {
    const workspace = await team()
    const account = await makeQuaysideAccount(inject('quayside'), [{ name: 'Main', address: `main@${workspace.slug}.example` }])
    const id = await connectQuayside(own.context, workspace, account)
    await atQuayside(inject('quayside'), account, 'secret')
    await look(workspace, id)
    expect((await accountOf(workspace))?.state).toBe('lost')
    expect((await attentionOf(own.url, workspace)).filter(({ kind }) => kind === 'videoAccount' || kind === 'noRoomWay'))
      .toMatchObject([{ kind: 'videoAccount', state: 'lost' }, { kind: 'noRoomWay' }])
    expect((await desk(workspace, 'GET', 'event-types')).body[0].worst).toMatchObject({ code: 'withoutVideo', severity: 'stops' })
  })
})

describe('a room', () => {
  async function withLantern(settings: Partial<Settings> = {}) {
    const workspace = await team(1, settings)
    await connectLantern(own.context, workspace.id, workspace.hosts[0]?.id ?? '')
    const client = (name: string) => ({ client: { name: `${name} ${workspace.slug}`, email: `${name}@${workspace.slug}.example` } })
    const booked = async (name: string) => {
      const made = await bookNext(own.url, own.context, workspace, 'talk', client(name))
      await expect.poll(() => state(made.sessionId), soon).toBe('ready')
      return made
    }
    return { workspace, booked, client }
  }

  it('follows a seat more and a seat less', async () => {
    const { workspace, booked, client } = await withLantern({ seats: 3, startEveryMinutes: 1440 })
    const first = await booked('Ana')
    const second = await bookNext(own.url, own.context, workspace, 'talk', client('Bo'))
    expect(second.sessionId).toBe(first.sessionId)
    const attendees = async () => ((await atService(`Ana ${workspace.slug}`, 'lantern'))[0] ?? '').includes(`Bo ${workspace.slug}`)
    await expect.poll(attendees, soon).toBe(true)
    await post(`${own.url}/api/public/bookings/${tokenOf(second)}/cancel`, {})
    await expect.poll(attendees, soon).toBe(false)
  })

  it('that its service has lost, made twice, or kept for a cancelled session is mended by the sweep', async () => {
    const { workspace, booked } = await withLantern()
    const kept = await booked('Kept')
    await setFault('lantern', 'forgetting', 1)
    const lost = await booked('Lost')
    await setFault('lantern', 'doubling', 1)
    const twice = await booked('Twice')
    expect(await roomsAtService(`Twice ${workspace.slug}: `)).toBe(2)
    await own.context.db.update(rooms).set({ state: 'withdrawn' }).where(eq(rooms.sessionId, kept.sessionId))
    await own.context.db.update(rooms).set({ askedAt: new Date(Date.now() - 600_000) }).where(eq(rooms.workspaceId, workspace.id))
    const found = (await sweepRooms(own.context) ?? []).flatMap(finding => ('sessionId' in finding ? [`${finding.kind} ${finding.sessionId}`] : []))
    expect(found).toEqual(expect.arrayContaining([`noSession ${kept.sessionId}`, `doubled ${twice.sessionId}`]))
    await expect.poll(() => roomsAtService(`Twice ${workspace.slug}: `), soon).toBe(1)
    await expect.poll(() => roomsAtService(`Kept ${workspace.slug}: `), soon).toBe(0)
    await expect.poll(() => roomsAtService(`Lost ${workspace.slug}: `), soon).toBe(1)
    await expect.poll(async () => (await subjects(lost.email)).at(-1), soon).toBe('New video link')
    expect((await trailOf(own.context, workspace, lost.sessionId)).join(' ')).toContain('Lantern Rooms no longer has the room')
  })

  it('is removed by hand, and made again where a member says', async () => {
    const { workspace, booked } = await withLantern()
    await own.context.db.update(hosts).set({ fixedRoom: { link: 'https://rooms.example.org/fixed', number: '', passcode: '' } })
      .where(eq(hosts.workspaceId, workspace.id))
    const { sessionId, email, manage } = await booked('Ana')
    const room = `sessions/${sessionId}/room`
    expect((await desk(workspace, 'DELETE', room)).status).toBe(200)
    await expect.poll(() => subjects(email), soon).toEqual(['Talk', 'Video link removed'])
    await expect.poll(() => roomsAtService(`Ana ${workspace.slug}: `), soon).toBe(0)
    expect(await (await fetch(manage)).text()).toContain('There is no video link at present')
    expect((await desk(workspace, 'DELETE', room)).status).toBe(409)
    const ways = (await desk(workspace, 'GET', `${room}/ways`)).body as { key: string, kind: string }[]
    expect(ways.map(({ kind }) => kind)).toEqual(['own', 'fixed'])
    await desk(workspace, 'POST', `${room}/renew`, { way: ways[1]?.key })
    await expect.poll(async () => (await roomOf(own.context, sessionId))?.joinUrl, soon).toBe('https://rooms.example.org/fixed')
    await expect.poll(() => subjects(email), soon).toEqual(['Talk', 'Video link removed', 'New video link'])
  })

  it('whose link is missing is told of to its hosts a day and an hour before, and to nobody twice', async () => {
    const workspace = await team()
    const { sessionId, bookingId, email } = await bookNext(own.url, own.context, workspace)
    await expect.poll(() => state(sessionId), soon).toBe('failing')
    const later = (hours: number) => new Date(Date.now() + hours * 3_600_000)
    const warnings = () => own.context.db.$count(deliveries, and(eq(deliveries.bookingId, bookingId), eq(deliveries.occasion, 'linkMissing')))
    await own.context.db.update(rooms).set({ waitsUntil: new Date(Date.now() - 600_000) }).where(eq(rooms.sessionId, sessionId))
    const counts = []
    for (const hours of [30, 20, 20, 0.5, 0.5]) {
      await shiftSession(own.context, sessionId, later(hours), later(hours + 1))
      await warnOfMissingLinks(own.context)
      counts.push(await warnings())
    }
    expect(counts).toEqual([0, 1, 1, 2, 2])
    await expect.poll(async () => (await subjects(workspace.hosts[0]?.email ?? '')).filter(subject => subject === 'No video link yet').length, soon).toBe(2)
    expect(await subjects(email)).not.toContain('No video link yet')
  })

  it('appears on the client’s open page by itself once its service has answered', async () => {
    const { workspace } = await withLantern()
    await setFault('lantern', 'holding', 1)
    const booked = await bookNext(own.url, own.context, workspace)
    const path = `${own.url}/api/public/bookings/${tokenOf(booked)}`
    const stopped = new AbortController()
    const stream = await fetch(`${path}/events`, { signal: stopped.signal })
    expect(stream.headers.get('content-type')).toBe('text/event-stream')
    const reader = stream.body?.getReader()
    await expect.poll(heldAtService, soon).toBe(1)
    await setFault('lantern', 'none')
    const isThere = async () => (await call(path)).body.booking.room.joinUrl !== undefined
    // Asked only where the page is told to ask.
    for (let text = ''; !text.includes('data: changed') || !await isThere();) text += new TextDecoder().decode((await reader?.read())?.value)
    stopped.abort()
    expect((await fetch(`${own.url}/api/public/bookings/${'x'.repeat(40)}/events`)).status).toBe(404)
  })
})

describe('where a session takes place', () => {
  it('is what the client suggests once a host says so, with a note, and can become a call by video', async () => {
    const workspace = await team(1, { places: [{ key: 'yours', kind: 'clientSuggests', label: '', detail: '' }] })
    await connectLantern(own.context, workspace.id, workspace.hosts[0]?.id ?? '')
    const { sessionId, email, manage } = await bookNext(own.url, own.context, workspace, 'talk', { suggestion: 'The archive, second floor' })
    const session = (await desk(workspace, 'GET', `sessions/${sessionId}`)).body
    expect([session.place.kind, session.bookings[0].suggestion]).toEqual(['clientSuggests', 'The archive, second floor'])
    expect(await (await fetch(manage)).text()).toContain('The archive, second floor')
    const move = (body: object) => desk(workspace, 'PUT', `sessions/${sessionId}/place`, body)
    expect((await move({ kind: 'address', detail: '', note: '' })).body.errors).toMatchObject([{ path: 'detail' }])
    expect((await move({ kind: 'phoneWeCall', detail: '', note: '' })).body.errors).toMatchObject([{ path: 'kind', code: 'placeNoNumber' }])
    expect((await move({ kind: 'agreed', detail: '', note: '' })).body.errors).toMatchObject([{ path: 'note' }])
    expect((await move({ kind: 'agreed', detail: '', note: 'That floor is closed, is the café all right?' })).status).toBe(200)
    await expect.poll(async () => (await textsOf(email)).at(-1), soon).toContain('That floor is closed, is the café all right?')
    expect((await move({ kind: 'address', detail: 'The archive, second floor', note: 'Ring at the side door' })).status).toBe(200)
    await expect.poll(() => subjects(email), soon).toEqual(['Talk', 'Where we meet', 'Where we meet'])
    expect((await textsOf(email)).at(-1)).toMatch(/Where: The archive, second floor\s+Please note: Ring at the side door/)
    expect((await move({ kind: 'video', detail: '', note: '' })).status).toBe(200)
    await expect.poll(() => state(sessionId), soon).toBe('ready')
    await expect.poll(async () => (await textsOf(email)).at(-1), soon).toContain('/room/')
    await move({ kind: 'address', detail: 'The studio', note: '' })
    await expect.poll(() => state(sessionId), soon).toBe('withdrawn')
    const [row] = await own.context.db.select({ place: sessions.place }).from(sessions).where(eq(sessions.id, sessionId))
    expect(row?.place).toMatchObject({ kind: 'address', detail: 'The studio' })
  })
})

describe('consent', () => {
  it('by an account of somebody else is asked about before it is saved', async () => {
    const workspace = await team()
    const hostId = workspace.hosts[0]?.id ?? ''
    const headers = await owner(workspace)
    const begun = await fetch(`${own.url}/api/desk/video-services/lantern/connect?host=${hostId}`, { headers, redirect: 'manual' })
    const consent = new URL(begun.headers.get('location') ?? '')
    const allowed = await fetch(new URL('/consent', consent), {
      method: 'POST', redirect: 'manual', body: new URLSearchParams({
        redirect_uri: consent.searchParams.get('redirect_uri') ?? '', state: consent.searchParams.get('state') ?? '',
        account: 'teodor.vass@fernhollow.example', answer: 'allow',
      }),
    })
    const back = await fetch(allowed.headers.get('location') ?? '', { headers, redirect: 'manual' })
    const page = new URL(back.headers.get('location') ?? '', own.url)
    expect(page.searchParams.get('outcome')).toBe('foreign')
    expect(await accountOf(workspace)).toBeUndefined()
    const asked = JSON.parse(Buffer.from(page.hash.slice(1), 'base64url').toString()) as { label: string, sealed: string }
    expect(asked.label).toBe('Teodor Vass (teodor.vass@fernhollow.example)')
    const accept = (sealed: string) => desk(workspace, 'POST', 'video-services/lantern/accept', { sealed })
    expect((await accept(`${asked.sealed.slice(0, -4)}AAAA`)).status).toBe(400)
    expect((await accept(asked.sealed)).status).toBe(200)
    expect((await accountOf(workspace))?.state).toBe('connected')
    const [host] = await own.context.db.select().from(hosts).where(eq(hosts.id, hostId))
    expect(host?.videoEmail).toBe('teodor.vass@fernhollow.example')
  })
})
