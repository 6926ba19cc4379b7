import { beforeAll, describe, expect, inject, it } from 'vitest'
import { freePort } from '../scripts/run/ports'
import { startApp } from '../scripts/run/services'
import { until } from '../scripts/run/processes'
import { useApplication } from './support/application'
import { call, inbox } from './support/http'
import { attentionOf, bookNext, deliveriesOf } from './support/sessions'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/** Requests and jobs in processes of their own, and two processes of a kind beside each other. */

const own = useApplication('roles')
const place = { key: 'studio', kind: 'address' as const, label: 'our studio', detail: 'Pátio do Prelo 7' }
let workspace: TestWorkspace
beforeAll(
  async () => (workspace = await makeWorkspace(own.context, { hosts: 1, eventTypes: [{ slug: 'talk', settings: { places: [place] } }] })),
)

async function startAnother(role: 'web' | 'jobs') {
  const appPort = await freePort(inject('serverPort') + 90, new Set())
  const process = await startApp(
    { folder: own.folder, appPort },
    { ...own.environment, PORT: String(appPort), ROLE: role },
  )
  return { url: `http://127.0.0.1:${appPort}`, process }
}

describe('a process for requests only', () => {
  it('takes bookings, sends nothing itself, and says so until a process runs the jobs', async () => {
    const jobs = await startAnother('jobs')
    await own.process.stop()
    await own.start({ ROLE: 'web' })
    expect((await call(`${jobs.url}/${workspace.slug}`)).status).toBe(404)
    expect((await attentionOf(own.url, workspace)).map(entry => entry.kind)).not.toContain('noJobs')

    await jobs.process.stop()
    await expect.poll(async () => (await call(`${own.url}/health/ready`)).status, { timeout: 15_000 }).toBe(503)
    const { bookingId, email } = await bookNext(own.url, own.context, workspace)
    expect((await attentionOf(own.url, workspace)).map(entry => entry.kind)).toContain('noJobs')
    expect((await deliveriesOf(own.context, bookingId)).map(delivery => delivery.state)).toEqual(['planned', 'planned'])

    const again = await startAnother('jobs')
    await expect.poll(() => inbox(email), { timeout: 20_000 }).toHaveLength(1)
    expect((await call(`${own.url}/health/ready`)).status).toBe(200)
    await again.process.stop()
  })
})

it('two processes beside each other show each other’s bookings and publishings at once', async () => {
  await own.process.stop()
  await own.start()
  const other = await startAnother('web')
  const openings = async (url: string) =>
    (await call(`${url}/api/public/${workspace.slug}/talk/openings?from=2031-03-03&to=2031-03-03&timeZone=UTC`)).body.openings.length
  const page = async (url: string) => (await call(`${url}/${workspace.slug}/talk`)).body as string
  const before = await openings(own.url)
  expect([await openings(other.url), before > 0]).toEqual([before, true])
  await page(other.url)
  await bookNext(own.url, own.context, workspace, 'talk', {}, Math.ceil((Date.UTC(2031, 2, 3) - Date.now()) / 86_400_000))
  expect(await openings(other.url)).toBeLessThan(before)
  await own.context.pool.query(
    `update event_types set settings = settings || '{"name": "Another name"}', version = version + 1 where workspace_id = $1`,
    [workspace.id],
  )
  await until(async () => (await page(other.url)).includes('Another name'), 1, 'The other process shows the old page')
  expect(await page(own.url)).toContain('Another name')
  await other.process.stop()
})
