import { and, eq, isNull } from 'drizzle-orm'
import { afterEach, beforeAll, describe, expect, inject, it } from 'vitest'
import { formatFault } from '../core/catalogue/faults'
import { rooms, videoAccounts } from '../server/database/schema'
import type { VideoService } from '../server/ports/video'
import { createLanternRooms } from '../server/ports/video/lantern'
import { saveAccount, withCredentials } from '../server/rooms'
import { seal } from '../server/secrets'
import { useApplication } from './support/application'
import { call, post, setFault, signIn } from './support/http'
import { attentionOf, bookNext, heldAtService, roomOf, roomsAtService, shiftSession, subjects, tokenOf, trailOf } from './support/sessions'
import { addMember, connectLantern, lanternOf, makeWorkspace, type TestWorkspace } from './support/workspace'

/** Video rooms when the service lies, is slow or forgets, and when the session is gone meanwhile. */

const own = useApplication('rooms', { ROOM_WAIT_SECONDS: '2', VIDEO_TIMEOUT_SECONDS: '3', RETRY_PACE: '0.1' })
let workspace: TestWorkspace
let names = 0
const faultOf = async (sessionId: string) => {
  const fault = (await roomOf(own.context, sessionId))?.lastFault
  return fault ? formatFault(fault) : null
}
/** A client of a name that no other room has, to find it at the service. */
const somebody = () => ({
  client: { name: `Somebody ${++names} of ${workspace.slug}`, email: `somebody${names}@${workspace.slug}.example` },
})

beforeAll(async () => {
  workspace = await makeWorkspace(own.context, {
    hosts: 2,
    video: true,
    eventTypes: [
      { slug: 'talk', hosts: [0] },
      { slug: 'other', hosts: [1] },
    ],
  })
})
afterEach(() => setFault('lantern', 'none'))

const soon = { timeout: 30_000, interval: 100 }
const cancel = (booked: { manage: string }) => post(`${own.url}/api/public/bookings/${tokenOf(booked)}/cancel`, {})

describe('a room', () => {
  it('whose answer was lost is withdrawn at the service when the booking is cancelled', async () => {
    await setFault('lantern', 'losing', 1)
    const who = somebody()
    const booked = await bookNext(own.url, own.context, workspace, 'talk', who)
    await expect.poll(() => roomsAtService(who.client.name), soon).toBe(1)
    await setFault('lantern', 'failing', 2)
    await cancel(booked)
    await expect.poll(() => roomsAtService(who.client.name), soon).toBe(0)
    await expect.poll(async () => (await roomOf(own.context, booked.sessionId))?.state, soon).toBe('withdrawn')
  })

  it('of a booking cancelled during a slow call is neither failing nor left behind', async () => {
    await setFault('lantern', 'holding', 1)
    const who = somebody()
    const booked = await bookNext(own.url, own.context, workspace, 'talk', who)
    await expect.poll(async () => (await roomOf(own.context, booked.sessionId))?.state, soon).toBe('making')
    await cancel(booked)
    await expect.poll(async () => (await roomOf(own.context, booked.sessionId))?.attempts, soon).toBeGreaterThan(1)
    // The service makes it all the same, after this side has given up waiting and found nothing; then it is withdrawn.
    await setFault('lantern', 'none')
    await expect
      .poll(async () => (await trailOf(own.context, workspace, booked.sessionId)).at(-1), soon)
      .toBe('Lantern Rooms withdrew the room.')
    expect(await roomsAtService(who.client.name)).toBe(0)
    expect((await roomOf(own.context, booked.sessionId))?.state).toBe('withdrawn')
  })

  it('is still there while the service answers nonsense to its withdrawal, which is tried again', async () => {
    const who = somebody()
    const booked = await bookNext(own.url, own.context, workspace, 'talk', who)
    await expect.poll(async () => (await roomOf(own.context, booked.sessionId))?.state, soon).toBe('ready')
    await setFault('lantern', 'garbled', 1)
    await cancel(booked)
    await expect.poll(() => roomsAtService(who.client.name), soon).toBe(0)
    await expect.poll(() => trailOf(own.context, workspace, booked.sessionId), soon).toEqual(expect.arrayContaining([
      expect.stringMatching(/Lantern Rooms .*an answer that cannot be read/), 'Lantern Rooms withdrew the room.',
    ]))
  })

  it('is looked for again where the process died while it asked once more, long after a first answer was lost', async () => {
    await setFault('lantern', 'losing')
    const who = somebody()
    const booked = await bookNext(own.url, own.context, workspace, 'talk', who)
    await expect.poll(() => roomsAtService(who.client.name), soon).toBe(1)
    await expect.poll(async () => (await roomOf(own.context, booked.sessionId))?.attempts, soon).toBeGreaterThan(1)
    await own.context.db.update(rooms).set({ unansweredAt: new Date(0) }).where(eq(rooms.sessionId, booked.sessionId))
    await setFault('lantern', 'holding', 1)
    await expect.poll(heldAtService, soon).toBe(1)
    await own.process.stop('SIGKILL')
    // As after few tries, whose number decides when it is looked for again.
    await own.context.db.update(rooms).set({ attempts: 1 }).where(eq(rooms.sessionId, booked.sessionId))
    await own.start()
    await cancel(booked)
    const withdrawals = async () => (await trailOf(own.context, workspace, booked.sessionId)).filter(line => line === 'Lantern Rooms withdrew the room.')
    await expect.poll(withdrawals, soon).toHaveLength(1)
    expect(await heldAtService()).toBe(1)
    // The service does now what it was asked for by the process that died.
    await setFault('lantern', 'none')
    await expect.poll(withdrawals, soon).toHaveLength(2)
    expect(await roomsAtService(who.client.name)).toBe(0)
  })

  it('that the service answers nonsense for is failing, shown, tried again, and never links to a script', async () => {
    await setFault('lantern', 'garbled')
    const booked = await bookNext(own.url, own.context, workspace, 'talk', somebody())
    await expect.poll(async () => faultOf(booked.sessionId), soon).toBe('Lantern Rooms gave an answer that cannot be read')
    const owner = await signIn(own.url, workspace.owner)
    // It waits there between two tries.
    await expect.poll(async () => {
      const { body: today } = await call(`${own.url}/api/desk/today?timeZone=UTC`, { headers: owner })
      return today.waiting.map((row: { id: string }) => row.id)
    }, soon).toContain(booked.sessionId)
    await setFault('lantern', 'none')
    // Refused while the room is being asked for by itself at this very moment.
    await expect.poll(async () => {
      const { status } = await post(`${own.url}/api/desk/sessions/${booked.sessionId}/room`, {}, owner)
      return status === 200 || (await roomOf(own.context, booked.sessionId))?.state === 'ready'
    }, soon).toBe(true)
    await expect.poll(async () => (await roomOf(own.context, booked.sessionId))?.state, soon).toBe('ready')
    expect((await roomOf(own.context, booked.sessionId))?.joinUrl).toMatch(/^http/)
  })

  it('cannot be made any more once the secret has changed: it says so, and connecting again makes it', async () => {
    const strange = await makeWorkspace(own.context, { hosts: 1, video: true, eventTypes: [{ slug: 'talk' }] })
    await own.context.db
      .update(videoAccounts)
      .set({ sealedCredentials: seal('another secret of at least 32 letters', '{}') })
      .where(eq(videoAccounts.workspaceId, strange.id))
    const booked = await bookNext(own.url, own.context, strange, 'talk')
    await expect.poll(async () => faultOf(booked.sessionId), soon).toMatch(/consent stored for .* cannot be read|No video account/)
    await connectLantern(own.context, strange.id, strange.hosts[0]?.id ?? '')
    await expect.poll(async () => (await roomOf(own.context, booked.sessionId))?.state, soon).toBe('ready')
  })

  it('that cannot be withdrawn is shown to a person, who can have it tried again', async () => {
    const who = somebody()
    const booked = await bookNext(own.url, own.context, workspace, 'talk', who)
    await expect.poll(async () => (await roomOf(own.context, booked.sessionId))?.state, soon).toBe('ready')
    await setFault('lantern', 'refusing')
    await cancel(booked)
    await expect
      .poll(async () => (await attentionOf(own.url, workspace)).filter(entry => entry.kind === 'room').map(entry => entry.sessionId), soon)
      .toContain(booked.sessionId)
    await setFault('lantern', 'none')
    expect((await post(`${own.url}/api/desk/sessions/${booked.sessionId}/room`, {}, await signIn(own.url, workspace.owner))).status).toBe(200)
    await expect.poll(() => roomsAtService(who.client.name), soon).toBe(0)
  })

  it('is not made, and nobody is written to, for a session that is over when an account is connected', async () => {
    const strange = await makeWorkspace(own.context, { hosts: 1, eventTypes: [{ slug: 'talk' }] })
    const past = await bookNext(own.url, own.context, strange, 'talk')
    const ahead = await bookNext(own.url, own.context, strange, 'talk')
    for (const item of [past, ahead]) await expect.poll(() => subjects(item.email), soon).toEqual(['Talk'])
    await shiftSession(own.context, past.sessionId, new Date(Date.now() - 7_200_000), new Date(Date.now() - 3_600_000))
    await connectLantern(own.context, strange.id, strange.hosts[0]?.id ?? '')
    await expect.poll(() => subjects(ahead.email), soon).toEqual(['Talk', 'Your video link'])
    expect((await roomOf(own.context, past.sessionId))?.state).toBe('failing')
    expect(await subjects(past.email)).toEqual(['Talk'])
  })
})

describe('an account', () => {
  const mistyped = () => createLanternRooms({
    LANTERN_URL: inject('lantern'), LANTERN_CLIENT_ID: own.environment['LANTERN_CLIENT_ID'] ?? '', LANTERN_CLIENT_SECRET: 'mistyped',
  }, 5) as VideoService
  const accountsOf = (id: string) => own.context.db.select().from(videoAccounts).where(eq(videoAccounts.workspaceId, id))
  const expire = async (id: string) => {
    for (const account of await accountsOf(id)) {
      const credentials = await withCredentials(own.context, own.context.db, lanternOf(own.context), account, async given => given)
      const expired = seal(own.context.settings.secret, JSON.stringify({ ...JSON.parse(credentials), expiresAt: 0 }))
      await own.context.db.update(videoAccounts).set({ sealedCredentials: expired }).where(eq(videoAccounts.id, account.id))
    }
  }

  it('is not marked as lost because the operator mistyped the client’s secret', async () => {
    await expire(workspace.id)
    for (const account of await accountsOf(workspace.id)) {
      await expect(withCredentials(own.context, own.context.db, mistyped(), account, async () => 'unreached')).rejects.toMatchObject({
        kind: 'other',
        fault: { code: 'unknownInstallation', settings: expect.arrayContaining(['LANTERN_CLIENT_SECRET']) },
      })
    }
    expect((await accountsOf(workspace.id)).map(account => account.state)).toEqual(['connected', 'connected'])
  })

  it('is renewed once, however many rooms of it are made at the same time', async () => {
    await expire(workspace.id)
    const lantern = lanternOf(own.context)
    const renewals: string[] = []
    const counting: VideoService = { ...lantern, renewal: { isDue: lantern.renewal?.isDue ?? (() => false), renew: async (credentials) => {
      renewals.push(credentials)
      // Long enough for all others to have come as far.
      await new Promise(resolve => setTimeout(resolve, 300))
      return lantern.renewal?.renew(credentials) ?? credentials
    } } }
    const [account] = await accountsOf(workspace.id)
    const tokens = await Promise.all(
      Array.from({ length: 6 }, () => withCredentials(own.context, own.context.db, counting, account as never, async given => given)),
    )
    expect([renewals.length, new Set(tokens).size]).toEqual([1, 1])
  })

  it('of the workspace is dropped by its owner or a coordinator, not by any host', async () => {
    const [account] = await accountsOf(workspace.id)
    if (!account) throw new Error('No account')
    const credentials = await withCredentials(own.context, own.context.db, lanternOf(own.context), account, async given => given)
    await saveAccount(own.context, workspace.id, null, 'lantern', { label: 'The practice', email: null, credentials })
    const [shared] = await own.context.db
      .select()
      .from(videoAccounts)
      .where(and(eq(videoAccounts.workspaceId, workspace.id), isNull(videoAccounts.hostId)))
    const host = await signIn(own.url, await addMember(own.context, workspace, 'host', workspace.hosts[0]?.id))
    const drop = async (cookie: { cookie: string }) =>
      (await post(`${own.url}/api/desk/connections/${shared?.id}/disconnect`, {}, cookie)).status
    expect(await drop(host)).toBe(404)
    expect((await accountsOf(workspace.id)).map(item => item.state)).toEqual(['connected', 'connected', 'connected'])
    expect(await drop(await signIn(own.url, workspace.owner))).toBe(200)
  })
})

it('rooms that somebody else works on at the moment are tried again, not forgotten', async () => {
  const booked = await bookNext(own.url, own.context, workspace, 'other', somebody())
  await expect.poll(async () => (await roomOf(own.context, booked.sessionId))?.state, soon).toBe('ready')
  const room = await roomOf(own.context, booked.sessionId)
  const client = await own.context.pool.connect()
  await client.query('select pg_advisory_lock(hashtextextended($1, 0))', [`room ${room?.id}`])
  await own.context.db.update(rooms).set({ state: 'planned' }).where(eq(rooms.id, room?.id ?? ''))
  await own.context.pool.query('select graphile_worker.add_job($1, $2, job_key := $3)', [
    'makeRoom',
    { workspaceId: workspace.id, id: room?.id },
    `makeRoom:${workspace.id}:${room?.id}`,
  ])
  await expect
    .poll(
      async () =>
        (
          await own.context.pool.query('select 1 from graphile_worker.jobs where key = $1 and run_at > now()', [
            `makeRoom:${workspace.id}:${room?.id}`,
          ])
        ).rowCount,
      soon,
    )
    .toBe(1)
  await client.query('select pg_advisory_unlock_all()')
  client.release()
  await expect.poll(async () => (await roomOf(own.context, booked.sessionId))?.state, soon).toBe('ready')
})
