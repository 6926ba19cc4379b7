import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { book, post, request, signIn, startsOf } from './support/http'
import { bookedOf, textsOf, tokenOf } from './support/sessions'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/** Calendar invitations: one entry per session for its hosts, one per booking for clients and guests, right at every change. */

const app = inject('app')
const soon = { timeout: 20_000, interval: 100 }
let context: Context
beforeAll(async () => (context = await makeContext(inject('environment'))))
afterAll(() => closeContext(context))

const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]
const clinic = () => makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'clinic', settings: { places, seats: 4, name: 'Clinic' } }] })

interface Invitation {
  method: string
  uid: string
  sequence: number
  title: string
  attendees: string[]
}

/** The calendar entries an address was mailed, oldest first. */
async function invitationsTo(address: string): Promise<Invitation[]> {
  return (await textsOf(address)).flatMap((mail) => {
    const entry = /BEGIN:VCALENDAR[\s\S]*?END:VCALENDAR/.exec(mail)?.[0].replace(/\r?\n[ \t]/g, '')
    const value = (name: string) => new RegExp(`^${name}[^:\r\n]*:(.*?)\r?$`, 'm').exec(entry ?? '')?.[1] ?? ''
    return entry ? [{
      method: value('METHOD'), uid: value('UID'), sequence: Number(value('SEQUENCE')), title: value('SUMMARY'),
      attendees: [...entry.matchAll(/^ATTENDEE.*?mailto:(.*?)\r?$/gm)].map(match => match[1] ?? '').sort(),
    }] : []
  })
}

async function join(workspace: TestWorkspace, start: string, name: string, guests: { email: string }[] = []) {
  const client = { name, email: `${name.toLowerCase()}@${workspace.slug}.example` }
  const answer = await book(app, `${workspace.slug}/clinic`, request(start, { client, ...(guests.length > 0 ? { guests } : {}) }))
  expect(answer.status).toBe(201)
  return { ...await bookedOf(context, answer.body), ...client }
}

describe('hosts', () => {
  it('get one entry per session, revised as clients come and go, and taken back with the last', async () => {
    const workspace = await clinic()
    const host = workspace.hosts[0]?.email ?? ''
    const [start = ''] = await startsOf(app, `${workspace.slug}/clinic`)
    const ana = await join(workspace, start, 'Ana')
    await expect.poll(() => invitationsTo(host), soon).toHaveLength(1)
    const bo = await join(workspace, start, 'Bo', [{ email: `guest@${workspace.slug}.example` }])
    await expect.poll(() => invitationsTo(host), soon).toHaveLength(2)
    await post(`${app}/api/public/bookings/${tokenOf(ana)}/cancel`, {})
    await expect.poll(() => invitationsTo(host), soon).toHaveLength(3)
    await post(`${app}/api/public/bookings/${tokenOf(bo)}/cancel`, {})
    await expect.poll(() => invitationsTo(host), soon).toHaveLength(4)

    const all = await invitationsTo(host)
    expect(new Set(all.map(entry => entry.uid))).toEqual(new Set([`${ana.sessionId}@127.0.0.1`]))
    expect(all.map(entry => entry.method)).toEqual(['REQUEST', 'REQUEST', 'REQUEST', 'CANCEL'])
    expect(all.map(entry => entry.title)).toEqual([
      'Clinic (1 of 4 seats)',
      'Clinic (2 of 4 seats)',
      'Clinic (1 of 4 seats)',
      'Clinic (0 of 4 seats)',
    ])
    const sequences = all.map(entry => entry.sequence)
    expect(sequences).toEqual([...new Set(sequences)].sort((a, b) => a - b))
    expect(all.map(entry => entry.attendees.filter(address => address !== host))).toEqual([
      [ana.email],
      [ana.email, bo.email, `guest@${workspace.slug}.example`].sort(),
      [bo.email, `guest@${workspace.slug}.example`].sort(),
      [],
    ])
  })

  it('get nothing to take out of their calendar for a request that was never approved, and an entry once one is', async () => {
    const workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'clinic', settings: { places, approval: true } }] })
    const host = workspace.hosts[0]?.email ?? ''
    const [first = '', second = ''] = await startsOf(app, `${workspace.slug}/clinic`)
    const ana = await join(workspace, first, 'Ana')
    await post(`${app}/api/public/bookings/${tokenOf(ana)}/cancel`, {})
    const bo = await join(workspace, second, 'Bo')
    await post(`${app}/api/desk/bookings/${bo.bookingId}/approve`, {}, await signIn(app, workspace.owner))
    await expect.poll(() => invitationsTo(host), soon).toMatchObject([{ method: 'REQUEST', uid: `${bo.sessionId}@127.0.0.1` }])
    await expect.poll(async () => (await textsOf(ana.email)).length, soon).toBe(2)
    expect(await invitationsTo(ana.email)).toEqual([])
  })
})

it('clients and their guests share an entry of their own, in which other clients do not stand', async () => {
  const workspace = await clinic()
  const [start = ''] = await startsOf(app, `${workspace.slug}/clinic`)
  const guest = `guest@${workspace.slug}.example`
  const ana = await join(workspace, start, 'Ana', [{ email: guest }])
  await join(workspace, start, 'Bo')
  const expected = [
    { method: 'REQUEST', uid: `${ana.bookingId}@127.0.0.1`, sequence: 0, attendees: [ana.email, guest, workspace.hosts[0]?.email].sort() },
  ]
  for (const address of [ana.email, guest]) await expect.poll(() => invitationsTo(address), soon).toMatchObject(expected)
})
