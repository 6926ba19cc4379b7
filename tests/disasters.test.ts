import { randomUUID } from 'node:crypto'
import { and, eq, inArray } from 'drizzle-orm'
import { Logger, runOnce } from 'graphile-worker'
import { afterEach, beforeAll, describe, expect, it } from 'vitest'
import { formatInstant } from '../core/time/civil'
import { presetReach, reachOf } from '../core/account/rights'
import type { Context } from '../server/context'
import { bookings, deliveries, rooms, sessions } from '../server/database/schema'
import { bookOpening, bookingRequestSchema } from '../server/booking'
import { taskListFor } from '../server/handlers'
import { useApplication } from './support/application'
import { campaign, timeLimit } from './support/campaign'
import { book, inbox, request, setFault, startsOf } from './support/http'
import { attentionOf, bookedOf, deliveriesOf, roomOf, roomsAtService } from './support/sessions'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/** The database away, the services away, the process killed at any step: nothing is lost, doubled or unseen in the end. */

const own = useApplication('disasters', { ROOM_WAIT_SECONDS: '2', RETRY_PACE: '0.2', VIDEO_TIMEOUT_SECONDS: '5' })
let workspace: TestWorkspace
beforeAll(async () => {
  workspace = await makeWorkspace(own.context, { hosts: 3, video: true, eventTypes: [{ slug: 'talk' }] })
})
afterEach(async () => {
  own.database.mend()
  await setFault('lantern', 'none')
  await setFault('pigeonhole', 'none')
})

const path = () => `${workspace.slug}/talk`
const ready = async () => (await fetch(`${own.url}/health/ready`).catch(() => null))?.status

/** A client whose name leads to their room at the service. */
function somebody() {
  const id = randomUUID().slice(0, 8)
  return { name: `Visitor ${id}`, email: `${id}@client.example` }
}

/** Everything that a confirmed booking leads to, once: a room at the service, and each mail with a Message-ID of its own. */
async function settled(bookingId: string, client: { name: string, email: string }): Promise<string[]> {
  const faults: string[] = []
  const [booking] = await own.context.db.select().from(bookings).where(eq(bookings.id, bookingId))
  const room = await roomOf(own.context, booking?.sessionId ?? '')
  if (room?.state !== 'ready') faults.push(`room ${room?.state}`)
  if (await roomsAtService(client.name) !== 1) faults.push(`${await roomsAtService(client.name)} rooms at the service`)
  const planned = await deliveriesOf(own.context, bookingId)
  if (!planned.every(delivery => delivery.state === 'sent'))
    faults.push(`deliveries ${planned.map(delivery => `${delivery.occasion} ${delivery.state}`).join(', ')}`)
  const ids = (await inbox(client.email)).map(mail => mail.messageId)
  const expected = planned.filter(delivery => delivery.audience === 'client').map(delivery => delivery.messageId)
  if (new Set(ids).size !== expected.length || !expected.every(id => ids.includes(id)))
    faults.push(`mails ${ids.join(' ')} of ${expected.join(' ')}`)
  const { rows } = await own.context.pool.query(
    'select 1 from graphile_worker.jobs where run_at < now() + interval \'1 day\' and key is not null',
  )
  if (rows.length > 0) faults.push(`${rows.length} jobs left`)
  return faults
}

describe('the database', () => {
  it('away for a while under load: requests are refused quickly, jobs go on afterwards, nothing is lost or doubled', async () => {
    const seconds = campaign(5, 20)
    const starts = await startsOf(own.url, path(), 2, 60)
    const asked: { key: string, body: Record<string, unknown>, client: ReturnType<typeof somebody> }[] = []
    const refused: number[] = []
    const done = new Map<string, string>()
    let going = true
    const load = Array.from({ length: 4 }, async (_, worker) => {
      for (let round = 0; going; round++) {
        const client = somebody()
        const attempt = { key: randomUUID(), client, body: request(starts[(worker + round * 4) * 2] ?? '', { client }) }
        asked.push(attempt)
        const startedAt = performance.now()
        const answer = await book(own.url, path(), attempt.body, attempt.key).catch(() => null)
        if (answer?.status === 201) done.set(attempt.key, answer.body.booking.id)
        else if (answer?.status !== 409) refused.push(performance.now() - startedAt)
        await new Promise(resolve => setTimeout(resolve, 300))
      }
    })
    await new Promise(resolve => setTimeout(resolve, 1500))
    own.database.cut()
    const began = Date.now()
    expect(await ready()).toBe(503)
    expect(Date.now() - began).toBeLessThan(timeLimit(4000))
    await new Promise(resolve => setTimeout(resolve, seconds * 1000))
    own.database.mend()
    await expect.poll(ready, { timeout: 30_000 }).toBe(200)
    going = false
    await Promise.all(load)
    expect(refused.length).toBeGreaterThan(3)
    expect(Math.max(...refused), 'milliseconds until a refusal').toBeLessThan(timeLimit(6000))

    // Whoever got no answer presses again: the same key makes one booking.
    for (const { key, body } of asked) {
      const again = await book(own.url, path(), body, key)
      expect([201, 409]).toContain(again.status)
      if (again.status === 201) {
        if (done.has(key)) expect(again.body.booking.id).toBe(done.get(key))
        done.set(key, again.body.booking.id)
      }
    }
    for (const { key, client } of asked) {
      const id = done.get(key)
      if (id) await expect.poll(() => settled(id, client), { timeout: 60_000, interval: 300 }).toEqual([])
      if (id) expect((await own.context.db.select().from(bookings).where(eq(bookings.clientEmail, client.email)))).toHaveLength(1)
    }
  }, 180_000)

  it('silent: readiness and calls do not hang', async () => {
    own.database.freeze()
    const startedAt = Date.now()
    expect(await ready()).toBe(503)
    expect(Date.now() - startedAt).toBeLessThan(timeLimit(4000))
    own.database.cut()
    own.database.mend()
    await expect.poll(ready, { timeout: 30_000 }).toBe(200)
  })
})

describe('mail and video away for two hours', () => {
  it('end with every mail and room there, and are seen meanwhile', async () => {
    // No process runs jobs but this one, whose clock goes as fast as its jobs.
    await own.process.stop()
    const clock = { now: Math.floor(Date.now() / 1000) }
    const startedAt = clock.now
    const context: Context = {
      ...own.context,
      settings: { ...own.context.settings, retryPace: 1, roomWaitSeconds: 20 },
      now: () => clock.now,
    }
    const tasks = taskListFor(context)
    const made: { id: string, client: ReturnType<typeof somebody> }[] = []
    for (let index = 0; index < 3; index++) {
      const client = somebody()
      const start = formatInstant((Math.floor(clock.now / 86_400) + 3 + index) * 86_400 + 36_000)
      const outcome = await bookOpening(
        context,
        workspace.slug,
        'talk',
        randomUUID(),
        bookingRequestSchema.parse(request(start, { client })),
      )
      if (outcome.kind !== 'booked') throw new Error(JSON.stringify(outcome))
      made.push({ id: outcome.body.booking.id, client })
    }
    await setFault('lantern', 'failing')
    await setFault('pigeonhole', 'failing')
    await runFor(2 * 3600)
    const states = async () =>
      (await Promise.all(made.map(async ({ id }) => (await deliveriesOf(own.context, id)).map(delivery => delivery.state)))).flat()
    expect(new Set(await states())).toEqual(new Set(['planned']))
    const waiting = await attentionFor()
    expect(waiting.filter(row => row.kind === 'message').length).toBe((await states()).length)
    expect((await own.context.db.select().from(rooms).where(eq(rooms.state, 'failing'))).length).toBeGreaterThanOrEqual(3)
    await setFault('lantern', 'none')
    await setFault('pigeonhole', 'none')
    await runFor(2 * 3600)
    for (const { id, client } of made) expect(await settled(id, client)).toEqual([])
    // Only the test itself runs jobs.
    expect(await attentionFor()).toEqual([{ kind: 'noJobs' }])
    await own.start()

    async function attentionFor() {
      const { listAttention } = await import('../server/booking/attention')
      return listAttention(context, {
        workspaceId: workspace.id,
        memberId: workspace.id,
        name: '',
        email: '',
        confirmed: true,
        phone: null,
        role: 'owner',
        reach: reachOf('owner', presetReach),
      clock: null,
      timeZone: 'UTC',
        workspace: { slug: '', name: '', deletedAt: null },
      })
    }

    /** Runs jobs in the order of their times until the clock has come so far. */
    async function runFor(seconds: number): Promise<void> {
      const end = clock.now + seconds
      for (;;) {
        const {
          rows: [next],
        } = await own.context.pool.query<{ id: string, at: number }>(
          'select id, ceil(extract(epoch from run_at))::int as at from graphile_worker.jobs where task_identifier <> \'cleanUp\' order by run_at limit 1',
        )
        if (!next || next.at > end) break
        clock.now = Math.max(clock.now, next.at)
        await own.context.pool.query('select graphile_worker.reschedule_jobs(array[$1::bigint], run_at := now() - interval \'1 second\')', [
          next.id,
        ])
        await runOnce({ pgPool: own.context.pool, taskList: tasks, noHandleSignals: true, logger: new Logger(() => () => {}) })
      }
      clock.now = end
      expect(clock.now).toBeGreaterThan(startedAt)
    }
  })
})

describe('the process killed', () => {
  it('at each step of making a booking, one after the other: pressing again makes one booking, with one room and its mails', async () => {
    // How many messages the application sends to its database from the press to the last mail.
    await expect.poll(ready, { timeout: 20_000 }).toBe(200)
    const starts = await startsOf(own.url, path(), 4, 80)
    own.database.takeCount()
    const first = somebody()
    const probe = (await book(own.url, path(), request(starts[0] ?? '', { client: first }))).body
    const inBooking = own.database.takeCount()
    await expect.poll(() => settled(probe.booking.id, first), { timeout: 30_000, interval: 100 }).toEqual([])
    const steps = inBooking + own.database.takeCount()
    const every = Math.ceil(steps / campaign(4, steps))
    for (let step = 1, index = 1; step <= steps; step += every, index++) {
      const client = somebody()
      const [key, body] = [randomUUID(), request(starts[index * 2] ?? '', { client })]
      let killed = false
      own.database.afterMessages(step, index % 2 === 0, () => {
        killed = true
        own.process.child.kill('SIGKILL')
      })
      const answer = await book(own.url, path(), body, key).catch(() => null)
      await expect.poll(() => killed, { timeout: 20_000, message: `killed at step ${step} of ${steps}` }).toBe(true)
      await own.process.stop('SIGKILL')
      await own.start()
      const again = await book(own.url, path(), body, key)
      expect(again.status, `pressed again after step ${step}`).toBe(201)
      if (answer?.status === 201) expect(again.body.booking.id).toBe(answer.body.booking.id)
      await expect
        .poll(() => settled(again.body.booking.id, client), { timeout: 60_000, interval: 200, message: `after step ${step} of ${steps}` })
        .toEqual([])
      expect(await own.context.db.select().from(bookings).where(eq(bookings.clientEmail, client.email))).toHaveLength(1)
    }
    const left = await own.context.db.select({ id: sessions.id }).from(sessions)
      .leftJoin(bookings, and(eq(bookings.workspaceId, sessions.workspaceId), eq(bookings.sessionId, sessions.id)))
      .where(and(eq(sessions.workspaceId, workspace.id), inArray(bookings.state, ['held'])))
    expect(left).toEqual([])
    expect(await attentionOf(own.url, workspace)).toEqual([])
    expect((await own.context.db.select().from(deliveries).where(eq(deliveries.state, 'unknown')))).toEqual([])
    expect((await bookedOf(own.context, probe)).sessionId).not.toBe('')
  }, campaign(180_000, 1_800_000))
})
