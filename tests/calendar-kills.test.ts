import { sql } from 'drizzle-orm'
import { afterEach, beforeAll, expect, inject, it } from 'vitest'
import type { AccountView } from '../core/views/calendars'
import { startApp } from '../scripts/run/services'
import { planJob } from '../server/jobs/queue'
import { useApplication } from './support/application'
import { type CalendarHost, calendarHosts } from './support/calendar-hosts'
import { callsOf, copperplateCalendar, entry, setFault, type TestCalendar } from './support/calendars'
import { book, post, request } from './support/http'

const own = useApplication('calendar_kills')
const copperplate = inject('copperplate')
const soon = { timeout: 30_000, interval: 50 }
const { at, newHost, connect, changeCalendar } = calendarHosts(own)
const ENTRIES = 240

let host: CalendarHost
let calendar: TestCalendar
let account: AccountView

beforeAll(async () => {
  host = await newHost()
  calendar = await copperplateCalendar(copperplate, `kill-${host.hostId.slice(0, 8)}`)
  account = (await connect(host, calendar)).body as AccountView
  await changeCalendar(host, account.calendars[0]?.id ?? '', { receives: true })
})
afterEach(() => setFault(copperplate, { kind: 'none' }))

const count = async (query: ReturnType<typeof sql>) => Number((await own.context.db.execute<{ count: string }>(query)).rows[0]?.count)
const objects = () => count(sql`select count(*) from calendar_objects where workspace_id = ${host.workspace.id}`)

it('a process killed between the writing of an entry and its commit leaves one entry, which is ours', async () => {
  const client = await own.context.pool.connect()
  try {
    // Whatever the process has written, it cannot say so.
    await client.query('begin; lock table session_entries in share mode')
    expect((await book(own.url, `${host.workspace.slug}/talk`, request(at(9)))).status).toBe(201)
    await expect.poll(async () => (await calendar.list()).size, soon).toBe(1)
    await own.process.stop('SIGKILL')
  } finally {
    await client.query('rollback')
    client.release()
  }
  const written = sql`select count(*) from session_entries where workspace_id = ${host.workspace.id} and hash is not null and etag is not null`
  expect(await count(written)).toBe(0)
  await own.start()
  await expect.poll(() => count(written), soon).toBe(1)
  expect((await calendar.list()).size).toBe(1)
})

it('a process killed in the middle of a look leaves what it has stored, and the rest comes after it has started again', async () => {
  await Promise.all(Array.from({ length: ENTRIES }, (_, index) =>
    calendar.put(`${index}.ics`, entry(`${index}`, at(24 + index), at(25 + index)))))
  const before = await objects()
  await setFault(copperplate, { kind: 'slow', seconds: '0.4', left: '1000' })
  await planJob(own.context.db, 'lookAtCalendars', { workspaceId: host.workspace.id, id: account.id }, Math.floor(Date.now() / 1000))
  await expect.poll(objects, soon).toBeGreaterThan(before)
  await own.process.stop('SIGKILL')
  expect(await objects()).toBeLessThan(ENTRIES)
  await setFault(copperplate, { kind: 'none' })
  await own.start()
  // And the session of the test before.
  await expect.poll(objects, soon).toBe(ENTRIES + 1)
  expect(await count(sql`select count(*) from taken_times where workspace_id = ${host.workspace.id}`)).toBe(ENTRIES + 1)
})

it('two processes never look at one account at once', async () => {
  const port = Number(new URL(own.url).port) + 1
  const places = { folder: own.folder, appPort: port }
  const second = await startApp(places, { ...own.environment, PORT: String(port) })
  try {
    await setFault(copperplate, { kind: 'slow', seconds: '0.5', left: '1000' })
    const since = new Date().toISOString()
    const looks = await Promise.all([own.url, `http://127.0.0.1:${port}`, own.url, `http://127.0.0.1:${port}`]
      .map(url => post(`${url}/api/desk/calendar-accounts/${account.id}/look`, {}, host.headers)))
    expect(looks.map(({ status }) => status).sort((a, b) => a - b)).toEqual([200, 409, 409, 409])
    // Nothing has changed, so a look is one call.
    expect((await callsOf(copperplate)).filter(({ at: when, call: made }) => when >= since && made.includes(calendar.user))).toHaveLength(1)
  } finally {
    await second.stop()
  }
})
