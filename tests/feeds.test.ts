import { createHash } from 'node:crypto'
import { convertIcsCalendar } from 'ts-ics'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import { readCalendar, takenTime } from '../core/calendar/taken'
import { DAY } from '../core/time/civil'
import { zoneOf } from '../core/time/zone'
import type { HostAddresses } from '../core/views/host'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { book, call, post, request, signIn, startsOf } from './support/http'
import { tokenOf } from './support/sessions'
import { addMember, makeWorkspace, type TestWorkspace } from './support/workspace'

const app = inject('app')
let context: Context
let workspace: TestWorkspace
let headers: Record<string, string>
beforeAll(async () => {
  context = await makeContext(inject('environment'))
  const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Pátio 1; 2\u00ba, Lisbon' }]
  workspace = await makeWorkspace(context, {
    hosts: 2, eventTypes: [{ slug: 'first', settings: { places }, hosts: [0] }, { slug: 'second', settings: { places }, hosts: [1] }],
  })
  headers = await signIn(app, workspace.owner)
})
afterAll(() => closeContext(context))

const addressesOf = async (index: number, method = 'GET') =>
  (await call(`${app}/api/desk/hosts/${workspace.hosts[index]?.id}/addresses`, { method, headers })).body as HostAddresses
const bookWith = async (slug: string, name: string, index = 0) => {
  const start = (await startsOf(app, `${workspace.slug}/${slug}`))[index] ?? ''
  const { status, body } = await book(app, `${workspace.slug}/${slug}`, request(start, { client: { name, email: 'client@parish.example' } }))
  expect(status).toBe(201)
  return { start, token: tokenOf(body) }
}

/** What RFC 5545 §3.1 asks of lines, and which names come how often in one component. */
function checkLines(text: string): void {
  expect(text.endsWith('\r\n') && !/[^\r]\n/.test(text)).toBe(true)
  for (const line of text.split('\r\n')) expect(Buffer.byteLength(line), line).toBeLessThanOrEqual(75)
  for (const event of text.replaceAll('\r\n ', '').split('BEGIN:VEVENT').slice(1))
    for (const name of ['UID', 'DTSTAMP', 'DTSTART', 'DTEND', 'SEQUENCE', 'SUMMARY', 'STATUS'])
      expect(event.match(new RegExp(`^${name}[:;]`, 'gm')), name).toHaveLength(1)
}

it('offers a host’s sessions as a feed that other readers take, changes its tag with them alone, and has nothing of others', async () => {
  const { feed } = await addressesOf(0)
  const first = await bookWith('first', 'Anna, of “Old Mint”; and company')
  await bookWith('second', 'Secret Somebody')
  const answer = await fetch(feed)
  const text = await answer.text()
  expect([answer.status, answer.headers.get('content-type')]).toEqual([200, 'text/calendar; charset=utf-8'])
  checkLines(text)
  expect(text).not.toMatch(/METHOD|ORGANIZER|ATTENDEE|Secret Somebody/)
  const { events = [] } = convertIcsCalendar(undefined, text)
  expect(events.map(event => event.start.date.toISOString())).toEqual([new Date(first.start).toISOString()])
  expect(events[0]).toMatchObject({ status: 'CONFIRMED', location: 'Pátio 1; 2\u00ba, Lisbon' })
  expect(events[0]?.description).toContain('Client: Anna, of “Old Mint”; and company, client@parish.example')

  const tag = answer.headers.get('etag') ?? ''
  const again = await fetch(feed, { headers: { 'if-none-match': tag } })
  expect([again.status, again.headers.get('etag'), await again.text()]).toEqual([304, tag, ''])
  await bookWith('second', 'Somebody else', 1)
  expect((await fetch(feed, { headers: { 'if-none-match': `"other", ${tag}` } })).status).toBe(304)
  expect((await post(`${app}/api/public/bookings/${first.token}/cancel`, {})).status).toBe(200)
  const after = await fetch(feed, { headers: { 'if-none-match': tag } })
  expect([after.status, (await after.text()).includes('BEGIN:VEVENT')]).toEqual([200, false])
})

it('says when a host has sessions, and nothing else of them', async () => {
  const { freeBusy } = await addressesOf(1)
  const text = await (await fetch(freeBusy)).text()
  checkLines(text)
  expect(text).not.toMatch(/SUMMARY|Secret|Somebody|parish/)
  const now = context.now()
  const settings = { zone: null, hostZone: zoneOf('UTC'), addresses: new Set<string>(), countsAllDay: true, countsUnconfirmed: true }
  const { busy, unread } = takenTime([readCalendar(text)], { from: now, to: now + 60 * DAY }, settings)
  const { rows } = await context.pool.query<{ at: number }>(
    `select extract(epoch from starts_at)::float8 as at from session_hosts h join sessions s on s.workspace_id = h.workspace_id and s.id = h.session_id
      where h.workspace_id = $1 and h.host_id = $2 and h.active order by 1`, [workspace.id, workspace.hosts[1]?.id])
  expect(unread).toEqual([])
  expect(rows.length).toBeGreaterThan(1)
  const isBusy = (at: number) => busy.some((bound, index) => index % 2 === 0 && bound <= at && (busy[index + 1] ?? 0) > at)
  expect(rows.filter(({ at }) => !isBusy(at))).toEqual([])
})

it('makes addresses anew for the host and whoever sets up, and knows no others', async () => {
  const [own, other] = await Promise.all([addressesOf(0), addressesOf(1)])
  expect(new Set([own.feed, own.freeBusy, other.feed, other.freeBusy]).size).toBe(4)
  const host = await signIn(app, await addMember(context, workspace, 'host', workspace.hosts[1]?.id))
  expect((await call(`${app}/api/desk/hosts/${workspace.hosts[0]?.id}/addresses`, { headers: host })).status).toBe(404)
  const anew = await addressesOf(0, 'POST')
  const answers = await Promise.all([own.feed, own.freeBusy, anew.feed, other.feed].map(address => fetch(address)))
  expect(answers.map(answer => answer.status)).toEqual([404, 404, 200, 200])
  const token = anew.feed.slice(anew.feed.lastIndexOf('/') + 1, -4)
  const guessed = token.slice(0, 22) + createHash('sha256').update(token).digest('base64url').slice(0, 32)
  for (const name of [`${guessed}.ics`, `${token}.ifb`, 'x.ics', `${token}`])
    expect((await fetch(`${app}/feeds/${name}`)).status, name).toBe(404)
  expect((await fetch(`${app}/freebusy/${token}.ifb`)).status).toBe(404)
})
