import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { DAY, formatInstant } from '../core/time/civil'
import type { AccountView } from '../core/views/calendars'
import { useApplication } from './support/application'
import { copperplateCalendar, entry, radicaleCalendar, startRadicale, type TestCalendar } from './support/calendars'
import { call, post, signIn } from './support/http'
import { addMember, makeWorkspace, type TestWorkspace } from './support/workspace'

const own = useApplication('calendars')
const copperplate = inject('copperplate')
let radicale: Awaited<ReturnType<typeof startRadicale>>
beforeAll(async () => {
  radicale = await startRadicale(own.folder, inject('serverPort') + 90)
  await own.process.stop()
  await own.start({ ALLOWED_HOSTS: `${own.environment['ALLOWED_HOSTS']},127.0.0.1:${radicale.port}` })
})
afterAll(() => radicale?.process.stop())

/** A day on which everybody is open, at noon. */
const day = Math.floor(Date.now() / 1000 / DAY) * DAY + 10 * DAY
const at = (hours: number) => formatInstant(day + hours * 3600)

interface Host {
  workspace: TestWorkspace
  hostId: string
  headers: Record<string, string>
}

/** A workspace with one host, who signs in. */
async function newHost(): Promise<Host> {
  const workspace = await makeWorkspace(own.context, { hosts: 1, zone: 'UTC', eventTypes: [{ slug: 'talk', settings: { durations: [60], startEveryMinutes: 60, bufferAfterMinutes: 0 } }] })
  const hostId = workspace.hosts[0]?.id ?? ''
  return { workspace, hostId, headers: await signIn(own.url, await addMember(own.context, workspace, 'host', hostId)) }
}

const connect = ({ hostId, headers }: Host, { address, user, password }: TestCalendar) =>
  post(`${own.url}/api/desk/calendar-accounts`, { kind: 'caldav', hostId, address, user, password }, headers)
const look = async ({ headers }: Host, account: AccountView) => (await post(`${own.url}/api/desk/calendar-accounts/${account.id}/look`, {}, headers)).body as AccountView

/** The hours of the day at which a session can be booked. */
async function openHours({ workspace }: Host): Promise<number[]> {
  const date = at(0).slice(0, 10)
  const { body } = await call(`${own.url}/api/public/${workspace.slug}/talk/openings?from=${date}&to=${date}&timeZone=UTC`)
  return (body as { openings: { start: string }[] }).openings.map(({ start }) => Number(start.slice(11, 13)))
}
const allBut = (...taken: number[]) => Array.from({ length: 24 }, (_, hour) => hour).filter(hour => !taken.includes(hour))

describe.each([
  { server: 'Copperplate Calendar', calendar: (name: string) => copperplateCalendar(copperplate, name) },
  { server: 'radicale', calendar: (name: string) => radicaleCalendar(radicale.url, name) },
])('$server', ({ calendar: makeCalendar }) => {
  it('is connected by its address alone; what is put there, changed and deleted takes time within one look', async () => {
    const host = await newHost()
    const calendar = await makeCalendar(`first-${host.hostId.slice(0, 8)}`)
    await calendar.put('a.ics', entry('a', at(9), at(11)))
    const { status, body } = await connect(host, calendar)
    expect([status, body.state, body.kind]).toEqual([201, 'connected', 'caldav'])
    const account = body as AccountView
    expect(account.calendars.some(({ entries, blocks, receives }) => entries === 1 && blocks && receives)).toBe(true)
    expect(await openHours(host)).toEqual(allBut(9, 10))

    await calendar.put('b.ics', entry('b', at(14), at(15)))
    await look(host, account)
    expect(await openHours(host)).toEqual(allBut(9, 10, 14))
    await calendar.put('a.ics', entry('a', at(10), at(11)))
    await calendar.delete('b.ics')
    await look(host, account)
    expect(await openHours(host)).toEqual(allBut(10))

    // Each week since long ago; on this day it is an hour later.
    const since = formatInstant(day - 70 * DAY + 12 * 3600)
    const weekly = entry('c', since, formatInstant(day - 70 * DAY + 13 * 3600), 'RRULE:FREQ=WEEKLY')
    const moved = entry('c', at(16), at(17), `RECURRENCE-ID:${at(12).replaceAll(/[-:]/g, '')}`).split('\r\n').slice(3, -2).join('\r\n')
    await calendar.put('c.ics', weekly.replace('END:VCALENDAR', `${moved}\r\nEND:VCALENDAR`))
    await look(host, account)
    expect(await openHours(host)).toEqual(allBut(10, 16))
  })
})
