import { eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { AccountView } from '../core/views/calendars'
import { sessionEntries } from '../server/database/schema'
import { planJob } from '../server/jobs/queue'
import { useApplication } from './support/application'
import { calendarHosts } from './support/calendar-hosts'
import { copperplateCalendar, davCalendar, setFault, type Radicale, startRadicale, type TestCalendar } from './support/calendars'
import { book, call, post, request } from './support/http'

const own = useApplication('calendar_entries', { ROOM_WAIT_SECONDS: '1' })
const copperplate = inject('copperplate')
let radicale: Radicale
beforeAll(async () => {
  radicale = await startRadicale(own.folder, inject('serverPort') + 95)
  await own.process.stop()
  await own.start({ ALLOWED_HOSTS: `${own.environment['ALLOWED_HOSTS']},127.0.0.1:${radicale.port}` })
})
afterAll(() => radicale?.process.stop())

const soon = { timeout: 20_000, interval: 100 }

const { at, newHost, connect, look, changeCalendar, openHours, allBut } = calendarHosts(own)

/** A host who signs in, with one calendar connected, and a session at nine. */
async function booked(makeCalendar: (name: string) => Promise<TestCalendar>) {
  const host = await newHost()
  const { workspace, hostId, headers } = host
  const calendar = await makeCalendar(`e-${hostId.slice(0, 8)}`)
  const account = (await connect(host, calendar)).body as AccountView
  const mine = account.calendars.find(({ name }) => name === 'Work' || name === `e-${hostId.slice(0, 8)}`)
  await changeCalendar(host, mine?.id ?? '', { receives: true })
  const made = await book(own.url, `${workspace.slug}/talk`, request(at(9), { client: { name: 'Ana Reis', email: 'ana@parish.example' } }))
  expect(made.status).toBe(201)
  const { rows: [session] } = await own.context.db.execute<{ id: string }>(sql`select id from sessions where workspace_id = ${workspace.id}`)
  return {
    host, workspace, headers, calendar, account, sessionId: session?.id ?? '', token: String(made.body.manage).split('/').at(-1) ?? '',
    look: () => look(host, account),
    attention: async () => (await call(`${own.url}/api/desk/today?timeZone=UTC`, { headers })).body.attention as { kind: string, what?: string }[],
    openHours: () => openHours(host),
  }
}
type Booked = Awaited<ReturnType<typeof booked>>
const texts = async ({ calendar }: Booked) => [...(await calendar.list()).values()]
const again = async ({ workspace, sessionId }: Booked) => {
  await own.context.db.execute(sql`update sessions set sequence = sequence + 1 where id = ${sessionId}`)
  await planJob(own.context.db, 'writeEntries', { workspaceId: workspace.id, id: sessionId }, Math.floor(Date.now() / 1000))
}

describe.each([
  { server: 'Copperplate Calendar', calendar: (name: string) => copperplateCalendar(copperplate, name) },
  { server: 'radicale', calendar: (name: string) => radicale.calendar(name) },
])('$server', ({ calendar: makeCalendar }) => {
  it('has a session once, changed once, and no longer once it is cancelled', async () => {
    const one = await booked(makeCalendar)
    await expect.poll(() => texts(one), soon).toHaveLength(1)
    const [text = ''] = await texts(one)
    expect(text.replaceAll(/\r?\n /g, '')).toMatch(/SUMMARY:Ana Reis/)
    expect(text).not.toMatch(/ORGANIZER|ATTENDEE|METHOD/)
    // It is the session itself, so it takes no more time than that.
    await one.look()
    expect(await one.openHours()).toEqual(allBut(9))
    await again(one)
    await expect.poll(async () => (await texts(one)).map(found => /SEQUENCE:(\d+)/.exec(found)?.[1]), soon).toEqual(['1'])
    await post(`${own.url}/api/public/bookings/${one.token}/cancel`, {})
    await expect.poll(() => texts(one), soon).toEqual([])
    await one.look()
    expect(await one.openHours()).toEqual(allBut())
  })

  it('has it once although what we knew of it was lost, or somebody else has changed it', async () => {
    const one = await booked(makeCalendar)
    await expect.poll(() => texts(one), soon).toHaveLength(1)
    // Killed between the writing and the commit.
    await expect.poll(() => own.context.db.$count(sessionEntries, eq(sessionEntries.sessionId, one.sessionId)), soon).toBe(1)
    await own.context.db.delete(sessionEntries).where(eq(sessionEntries.sessionId, one.sessionId))
    await again(one)
    await expect.poll(async () => (await texts(one)).map(found => /SEQUENCE:(\d+)/.exec(found)?.[1]), soon).toEqual(['1'])
    const [[name = '', text = ''] = []] = await one.calendar.list()
    await one.calendar.put(name, text.replace(/SUMMARY:[^\r\n]*/, 'SUMMARY:Mine'))
    await again(one)
    await expect.poll(async () => (await texts(one)).map(found => /SEQUENCE:(\d+)/.exec(found)?.[1]), soon).toEqual(['2'])
  })

  it('tells of a moved entry, whose both times are taken until it is put back, or followed: then the session moves', async () => {
    const one = await booked(makeCalendar)
    await expect.poll(() => texts(one), soon).toHaveLength(1)
    const [[name = '', text = ''] = []] = await one.calendar.list()
    const moved = text.replace(/DTSTART[^\r\n]*/, `DTSTART:${at(14).replaceAll(/[-:]/g, '')}`).replace(/DTEND[^\r\n]*/, `DTEND:${at(15).replaceAll(/[-:]/g, '')}`)
    const moveIt = async () => {
      await new Promise(resolve => setTimeout(resolve, 1100))
      await one.calendar.put(name, moved)
      await one.look()
      expect(await one.attention()).toMatchObject([{ kind: 'entry', what: 'moved' }])
      expect(await one.openHours()).toEqual(allBut(9, 14))
    }
    await moveIt()
    expect((await post(`${own.url}/api/desk/sessions/${one.sessionId}/entry/put-back`, {}, one.headers)).status).toBe(200)
    await expect.poll(async () => (await texts(one))[0]?.includes(at(9).replaceAll(/[-:]/g, '')), soon).toBe(true)
    await one.look()
    expect(await one.attention()).toEqual([])
    expect(await one.openHours()).toEqual(allBut(9))
    await moveIt()
    expect((await post(`${own.url}/api/desk/sessions/${one.sessionId}/entry/follow`, {}, one.headers)).status).toBe(200)
    expect((await call(`${own.url}/api/public/bookings/${one.token}`)).body.booking.start).toBe(at(14))
    await expect.poll(async () => Number(/SEQUENCE:(\d+)/.exec((await texts(one))[0] ?? '')?.[1]), soon).toBeGreaterThan(0)
    await one.look()
    expect(await one.attention()).toEqual([])
    expect(await one.openHours()).toEqual(allBut(14))
  })

  it('tells of a deleted entry, which is put back, or followed: then its client hears of it', async () => {
    const one = await booked(makeCalendar)
    await expect.poll(() => texts(one), soon).toHaveLength(1)
    const removeIt = async () => {
      await new Promise(resolve => setTimeout(resolve, 1100))
      for (const name of (await one.calendar.list()).keys()) await one.calendar.delete(name)
      await one.look()
      expect(await one.attention()).toMatchObject([{ kind: 'entry', what: 'deleted' }])
      expect((await call(`${own.url}/api/public/bookings/${one.token}`)).body.booking.state).toBe('confirmed')
    }
    await removeIt()
    await post(`${own.url}/api/desk/sessions/${one.sessionId}/entry/put-back`, {}, one.headers)
    await expect.poll(() => texts(one), soon).toHaveLength(1)
    await one.look()
    expect(await one.attention()).toEqual([])
    await removeIt()
    expect((await post(`${own.url}/api/desk/sessions/${one.sessionId}/entry/follow`, {}, one.headers)).status).toBe(200)
    expect((await call(`${own.url}/api/public/bookings/${one.token}`)).body.booking.state).toBe('cancelled')
    expect(await one.attention()).toEqual([])
    expect(await texts(one)).toEqual([])
  })
})

it('goes into the calendar that an event type names, and back into the one that receives the rest', async () => {
  const user = 'two-calendars'
  const work = await copperplateCalendar(copperplate, user, 'Work', 'Europe/Lisbon', ['Benches'])
  const one = await booked(() => Promise.resolve(work))
  await expect.poll(() => texts(one), soon).toHaveLength(1)
  const benches = one.account.calendars.find(({ name }) => name === 'Benches')
  const [eventTypeId] = (await call(`${own.url}/api/desk/event-types/names`, { headers: one.headers })).body.map(({ id }: { id: string }) => id)
  const change = (body: object) => changeCalendar(one.host, benches?.id ?? '', body)
  expect((await change({ receivesFor: [one.workspace.id] })).status).toBe(422)
  expect((await change({ receivesFor: [eventTypeId, eventTypeId] })).body.receivesFor).toEqual([eventTypeId])
  await expect.poll(() => texts(one), soon).toEqual([])
  const named = davCalendar(copperplate, `${copperplate}/dav/calendars/${user}/benches/`, user, work.password)
  await expect.poll(async () => (await named.list()).size, soon).toBe(1)
  // Also where no calendar receives the rest.
  await own.context.db.execute(sql`update calendars set receives = false where workspace_id = ${one.workspace.id}`)
  expect((await book(own.url, `${one.workspace.slug}/talk`, request(at(11)))).status).toBe(201)
  await expect.poll(async () => (await named.list()).size, soon).toBe(2)
  await own.context.db.execute(sql`update calendars set receives = true where workspace_id = ${one.workspace.id} and name = 'Work'`)
  expect((await change({ receivesFor: [] })).body.receivesFor).toEqual([])
  await expect.poll(() => texts(one), soon).toHaveLength(2)
  await expect.poll(async () => (await named.list()).size, soon).toBe(0)
})

it('is there once although the answer was lost, and is retried while the server is down or answers nonsense', async () => {
  await setFault(copperplate, { kind: 'none' })
  const one = await booked(name => copperplateCalendar(copperplate, name))
  await expect.poll(() => texts(one), soon).toHaveLength(1)
  await setFault(copperplate, { kind: 'losing', left: '1' })
  await again(one)
  await expect.poll(async () => (await texts(one)).map(found => /SEQUENCE:(\d+)/.exec(found)?.[1]), soon).toEqual(['1'])
  const whileServer = async (kind: string, work: () => Promise<unknown>) => {
    const failures = async () => (await own.context.db.execute(sql`
      select 1 from trail where session_id = ${one.sessionId} and code = 'entryFailed'`)).rows.length
    const before = await failures()
    await setFault(copperplate, { kind })
    await work()
    await expect.poll(failures, soon).toBeGreaterThan(before)
    await setFault(copperplate, { kind: 'none' })
  }
  await whileServer('garbled', () => again(one))
  await expect.poll(async () => (await texts(one)).map(found => /SEQUENCE:(\d+)/.exec(found)?.[1]), soon).toEqual(['2'])
  await whileServer('failing', () => post(`${own.url}/api/public/bookings/${one.token}/cancel`, {}))
  await expect.poll(() => texts(one), soon).toEqual([])
})
