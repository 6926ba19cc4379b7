import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { calendarAccounts } from '../server/database/schema'
import { seal, unseal } from '../server/secrets'
import { DAY, formatInstant } from '../core/time/civil'
import type { AccountView } from '../core/views/calendars'
import { useApplication } from './support/application'
import { type CalendarHost, calendarHosts } from './support/calendar-hosts'
import { callsOf, copperplateCalendar, entry, setFault, type Radicale, startRadicale, switchOn, type TestCalendar } from './support/calendars'
import { book, call, request } from './support/http'

const own = useApplication('calendars')
const copperplate = inject('copperplate')
let radicale: Radicale
beforeAll(async () => {
  radicale = await startRadicale(own.folder, inject('serverPort') + 90)
  await own.process.stop()
  await own.start({ ALLOWED_HOSTS: `${own.environment['ALLOWED_HOSTS']},127.0.0.1:${radicale.port}` })
})
afterAll(() => radicale?.process.stop())

const { day, at, newHost, connect, look, openHours, allBut } = calendarHosts(own)

describe.each([
  { server: 'Copperplate Calendar', calendar: (name: string) => copperplateCalendar(copperplate, name) },
  { server: 'radicale', calendar: (name: string) => radicale.calendar(name) },
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

describe('a calendar server that is not as one would like', () => {
  const connected = async () => {
    const host = await newHost()
    const calendar = await copperplateCalendar(copperplate, `odd-${host.hostId.slice(0, 8)}`)
    for (let index = 0; index < 45; index++) await calendar.put(`${index}.ics`, entry(`e${index}`, at(24 * index), at(24 * index + 1)))
    return { host, calendar }
  }
  const entriesOf = (account: AccountView) => account.calendars[0]?.entries

  it.each([[['withoutSync']], [['ctagOnly']], [['smallPages']], [['smallPages', 'refuseTokens']], [['wrongEtags']]])('is read all the same: %s', async (names) => {
    const { host, calendar } = await connected()
    await switchOn(copperplate, ...names)
    const account = (await connect(host, calendar)).body as AccountView
    expect(entriesOf(account)).toBe(45)
    expect(await openHours(host)).toEqual(allBut(0))
    await calendar.delete('0.ics')
    await calendar.put('1.ics', entry('e1', at(5), at(6)))
    const { entries } = (await look(host, account)).calendars[0] ?? {}
    expect(entries).toBe(44)
    expect(await openHours(host)).toEqual(allBut(5))
    await switchOn(copperplate)
  })

  it('is asked two times at most where nothing has changed', async () => {
    const { host, calendar } = await connected()
    const account = (await connect(host, calendar)).body as AccountView
    const since = new Date().toISOString()
    await look(host, account)
    expect((await callsOf(copperplate)).filter(({ at: when }) => when >= since).map(({ call: made }) => made.split(' ')[0])).toEqual(['PROPFIND'])
  })

  it('keeps what was last read in force, says what is wrong and recovers', async () => {
    const { host, calendar } = await connected()
    const account = (await connect(host, calendar)).body as AccountView
    for (const [kind, words] of [['failing', /has a problem of its own \(503\)/], ['refusing', /refuses to show this \(403\)/], ['garbled', /cannot be read/], ['losing', /cannot be reached/]] as const) {
      await setFault(copperplate, { kind })
      const { state, fault = '', failingSince } = await look(host, account)
      expect([state, failingSince !== null]).toEqual(['failing', true])
      expect(fault).toMatch(words)
      expect(await openHours(host)).toEqual(allBut(0))
    }
    await setFault(copperplate, { kind: 'none' })
    await switchOn(copperplate, 'refuseAccess')
    expect(await look(host, account)).toMatchObject({ state: 'refused', fault: expect.stringMatching(/refuses the user or the password/) as string })
    const { body: today } = await call(`${own.url}/api/desk/today?timeZone=UTC`, { headers: host.headers })
    expect(today.attention).toMatchObject([{ kind: 'calendar', own: true }])
    await switchOn(copperplate)
    expect(await look(host, account)).toMatchObject({ state: 'connected', failingSince: null })
  })

  it.each([
    ['a wrong password', 'wrongPassword', (calendar: TestCalendar) => ({ ...calendar, password: 'gold' })],
    ['a page that is no calendar', 'notCalDav', (calendar: TestCalendar) => ({ ...calendar, address: own.url })],
    ['a host of this machine', 'notAllowed', (calendar: TestCalendar) => ({ ...calendar, address: 'http://127.0.0.1:1/' })],
    ['no address', 'noAddress', (calendar: TestCalendar) => ({ ...calendar, address: 'ftp://calendar.example' })],
  ])('is refused in words: %s', async (_, code, change) => {
    const { host, calendar } = await connected()
    const { status, body } = await connect(host, change(calendar))
    // The application itself is no allowed host.
    expect([status, body.errors?.[0]?.code, body.errors?.[0]?.values.code]).toEqual([422, 'calendarRefused', code === 'notCalDav' ? 'notAllowed' : code])
    expect((await call(`${own.url}/api/desk/calendar-accounts`, { headers: host.headers })).body.accounts).toEqual([])
  })
})

describe('consent', () => {
  /** The way of a member through the server's own pages; `answer` is what they press there. */
  const consent = async ({ hostId, headers }: CalendarHost, user: string, answer: string) => {
    const begun = await fetch(`${own.url}/api/desk/calendar-servers/copperplate/connect?host=${hostId}`, { headers, redirect: 'manual' })
    const asked = new URL(begun.headers.get('location') ?? '')
    const members = Object.fromEntries(['redirect_uri', 'state', 'code_challenge'].map(name => [name, asked.searchParams.get(name) ?? '']))
    const given = await fetch(`${copperplate}/consent`, { method: 'POST', redirect: 'manual', body: new URLSearchParams({ ...members, user, answer }) })
    const back = await fetch(given.headers.get('location') ?? '', { headers, redirect: 'manual' })
    return new URL(back.headers.get('location') ?? '', own.url).searchParams.get('outcome')
  }

  it('connects an account, renews its token, and says when it was taken back', async () => {
    const host = await newHost()
    const user = `consent-${host.hostId.slice(0, 8)}`
    const calendar = await copperplateCalendar(copperplate, user)
    await calendar.put('a.ics', entry('a', at(9), at(10)))
    expect(await consent(host, user, 'refuse')).toBe('refused')
    expect(await consent(host, user, 'allow')).toBe('calendar')
    expect(await openHours(host)).toEqual(allBut(9))
    const { body } = await call(`${own.url}/api/desk/calendar-accounts`, { headers: host.headers })
    const account = (body as { accounts: AccountView[] }).accounts[0] as AccountView
    // As if its hour were over.
    const [row] = await own.context.db.select().from(calendarAccounts).where(eq(calendarAccounts.id, account.id))
    const { secret } = own.context.settings
    const access = JSON.parse(unseal(secret, row?.sealedAccess ?? '')) as Record<string, unknown>
    await own.context.db.update(calendarAccounts).set({ sealedAccess: seal(secret, JSON.stringify({ ...access, accessToken: 'over', expiresAt: 0 })) })
      .where(eq(calendarAccounts.id, account.id))
    expect(await look(host, account)).toMatchObject({ state: 'connected' })
    await fetch(`${copperplate}/accounts/${user}/withdraw`, { method: 'POST', redirect: 'manual' })
    expect(await look(host, account)).toMatchObject({ state: 'refused', fault: expect.stringMatching(/no longer lets Temporia in/) as string })
  })
})

describe('a booking', () => {
  const bookAt = (host: CalendarHost, hour: number) => book(own.url, `${host.workspace.slug}/talk`, request(at(hour), {}))
  const backdate = (host: CalendarHost) => own.context.db.update(calendarAccounts)
    .set({ lookedAt: new Date(Date.now() - 120_000) }).where(eq(calendarAccounts.workspaceId, host.workspace.id))

  it('is not made over what was put into a calendar since the last look, nor refused for what is gone', async () => {
    const host = await newHost()
    const calendar = await copperplateCalendar(copperplate, `fresh-${host.hostId.slice(0, 8)}`)
    await calendar.put('gone.ics', entry('gone', at(15), at(16)))
    await connect(host, calendar)
    await calendar.put('new.ics', entry('new', at(9), at(10)))
    await backdate(host)
    const { status, body } = await bookAt(host, 9)
    expect(status, JSON.stringify(body)).toBe(409)
    expect([status, (body.nearest as { start: string }[]).map(({ start }) => start).includes(at(10))]).toEqual([409, true])
    // Looked at just now: what has come since is found by the next look.
    await calendar.put('later.ics', entry('later', at(12), at(13)))
    expect((await bookAt(host, 12)).status).toBe(201)
  })

  it('never lies over an entry that stood there a minute before, nor is one refused for what is gone: 100 at once', async () => {
    const host = await newHost()
    const calendar = await copperplateCalendar(copperplate, `crowd-${host.hostId.slice(0, 8)}`)
    for (let hour = 0; hour < 12; hour++) await calendar.put(`gone${hour}.ics`, entry(`gone${hour}`, at(hour), at(hour + 1)))
    const account = (await connect(host, calendar)).body as AccountView
    for (let hour = 0; hour < 12; hour++) {
      await calendar.delete(`gone${hour}.ics`)
      await calendar.put(`new${hour}.ics`, entry(`new${hour}`, at(12 + hour), at(13 + hour)))
    }
    await backdate(host)
    const changing = (async () => {
      for (let round = 0; round < 20; round++) await calendar.put('later.ics', entry('later', at(30 + round), at(31 + round)))
    })()
    const attempt = async (hour: number) => ({ hour, status: (await bookAt(host, hour)).status })
    const answers = await Promise.all(Array.from({ length: 100 }, (_, index) => attempt(index % 24)))
    await changing
    const booked = answers.filter(({ status }) => status === 201).map(({ hour }) => hour).sort((a, b) => a - b)
    expect(booked).toEqual(Array.from({ length: 12 }, (_, hour) => hour))
    expect(answers.every(({ status }) => status === 201 || status === 409)).toBe(true)
    await look(host, account)
  })

  it('does not wait for a server that does not answer', async () => {
    const host = await newHost()
    const calendar = await copperplateCalendar(copperplate, `slow-${host.hostId.slice(0, 8)}`)
    await connect(host, calendar)
    await backdate(host)
    await setFault(copperplate, { kind: 'slow', seconds: '6' })
    const begun = Date.now()
    expect((await bookAt(host, 9)).status).toBe(201)
    expect(Date.now() - begun).toBeLessThan(4000)
    await setFault(copperplate, { kind: 'none' })
  })
})
