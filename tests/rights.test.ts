import { randomUUID } from 'node:crypto'
import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { hasRight, presetReach, type Reach, reaches } from '../core/account/rights'
import type { MemberRole } from '../core/account/roles'
import { until } from '../scripts/run/processes'
import { upload } from '../server/calendar-sync'
import type { Context } from '../server/context'
import { workspaces } from '../server/database/schema'
import { callTable } from '../server/http/calls'
import type { Subject } from '../server/http/calls/call'
import { closeContext, makeContext } from '../server/start'
import { book, call, request, signIn, startsOf } from './support/http'
import { deliveriesOf } from './support/sessions'
import { addMember, connectLantern, makeWorkspace, plan, type TestWorkspace } from './support/workspace'

const app = inject('app')
let context: Context
let workspace: TestWorkspace

/** `other` is a host of other sessions; `stranger` a member of another workspace; `signedOut` comes with a session that was ended. */
const people = ['nobody', 'signedOut', 'stranger', 'owner', 'coordinator', 'host', 'other'] as const
type Role = (typeof people)[number]
const headers = {} as Record<Role, Record<string, string>>
/** Ids that stand in the table's addresses. What is somebody's is the host's own. */
const ids = new Map<string, string>()
/** Today's view of the day of the bookings. */
let bookedOn = ''

const place = { key: 'studio', kind: 'address', label: 'studio', detail: 'Pátio do Prelo 7' } as const

beforeAll(async () => {
  context = await makeContext(inject('environment'))
  workspace = await makeWorkspace(context, {
    hosts: 2,
    eventTypes: [{ slug: 'own', settings: { places: [place] }, hosts: [0] }, { slug: 'other', settings: { places: [place] }, hosts: [1] }],
  })
  const [mine, theirs] = workspace.hosts.map(host => host.id)
  const strange = await makeWorkspace(context, { hosts: 0, eventTypes: [] })
  headers.nobody = {}
  headers.stranger = await signIn(app, strange.owner)
  headers.owner = await signIn(app, workspace.owner)
  headers.coordinator = await signIn(app, await addMember(context, workspace, 'coordinator'))
  headers.host = await signIn(app, await addMember(context, workspace, 'host', mine))
  headers.other = await signIn(app, await addMember(context, workspace, 'host', theirs))
  headers.signedOut = await signIn(app, workspace.owner)
  expect((await call(`${app}/api/desk/sign-out`, { method: 'POST', headers: headers.signedOut })).status).toBe(200)

  for (const [whose, hostId = ''] of [['own', mine], ['other', theirs]] as const) {
    const [start = ''] = await startsOf(app, `${workspace.slug}/${whose}`)
    const client = { name: `Client of ${whose}`, email: `${whose}@parish.example` }
    expect((await book(app, `${workspace.slug}/${whose}`, request(start, { client }))).status).toBe(201)
    await connectLantern(context, workspace.id, hostId)
    ids.set(`${whose}Host`, hostId)
    ids.set('service', 'lantern')
    ids.set('server', 'copperplate')
  }
  const { comingDays: [day] } = await read('/api/desk/today?timeZone=UTC')
  bookedOn = `/api/desk/today?timeZone=UTC&date=${day.date}`
  const { today: cards } = await read(bookedOn)
  const plans = await read('/api/desk/hours')
  const { hosts: accounts } = await read('/api/desk/connections')
  for (const whose of ['own', 'other'] as const) {
    const hostId = ids.get(`${whose}Host`)
    const card = cards.find((item: { hosts: { id: string }[] }) => item.hosts[0]?.id === hostId)
    ids.set(`${whose}Session`, card.id)
    ids.set(`${whose}Client`, card.bookings[0].client)
    ids.set(`${whose}Booking`, card.bookings[0].id)
    await until(
      async () => (await deliveriesOf(context, card.bookings[0].id)).every(delivery => delivery.state === 'sent'),
      20,
      'The mails of a booking do not go out',
    )
    ids.set(`${whose}Delivery`, (await deliveriesOf(context, card.bookings[0].id))[0]?.id ?? '')
    ids.set(
      `${whose}Plan`,
      plans.find((candidate: { host: string }) => candidate.host === `Host ${workspace.hosts.findIndex(host => host.id === hostId)}`).id,
    )
    ids.set(`${whose}Account`, accounts.find((account: { hostId: string }) => account.hostId === hostId).accounts[0].id)
  }
  const file = { hostId: ids.get('ownHost') ?? '', name: 'Rota', text: 'BEGIN:VCALENDAR\r\nEND:VCALENDAR\r\n' }
  const uploaded = await upload(context, workspace.id, file)
  ids.set('ownCalendarAccount', uploaded.kind === 'connected' ? uploaded.id : '')
  ids.set('ownCalendar', (await read('/api/desk/calendar-accounts')).accounts[0].calendars[0].id)
  ids.set('job', '999999')
  ids.set('occasion', 'booked')
  ids.set('audience', 'client')
  ids.set('eventType', (await read('/api/desk/event-types'))[0].id)
})
afterAll(() => closeContext(context))

const read = async (path: string) => (await ask('GET', path, 'owner')).body

function ask(method: string, path: string, role: Role, body?: string) {
  const filled = path.replace(/\{(\w+)\}/g, (_, name: string) => ids.get(name) ?? randomUUID())
  return call(app + filled, {
    method,
    redirect: 'manual',
    headers: { ...headers[role], ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
    ...(body === undefined ? {} : { body }),
  })
}

/** Hours as they were read in a version that is not the present one. */
const outdated = JSON.stringify({ basedOn: 999, name: 'Hours', plan: plan('Mo 09:00-10:00', 'UTC') })

/**
 * Each call with what the owner of the workspace is answered, which whoever may make it is too. Bodies do not fit, so that
 * this is a 400 and nothing is changed that another line needs. `stranger` is what a member of another workspace gets: for
 * what is theirs to ask too, as a rule the same, and 404 for what is named and not theirs.
 */
const rows: [call: string, allowed: number, stranger: number, body?: string][] = [
  ['GET /api/desk/me', 200, 200],
  ['GET /api/desk/today?timeZone=UTC', 200, 200],
  ['GET /api/desk/event-types', 200, 200],
  ['GET /api/desk/event-types/names', 200, 200],
  ['POST /api/desk/event-types', 400, 400, '{}'],
  ['POST /api/desk/event-types/order', 400, 400, '{}'],
  ['GET /api/desk/event-types/{eventType}', 200, 404],
  ['GET /api/desk/event-types/{eventType}/time?hosts=x', 400, 400],
  ['POST /api/desk/event-types/{eventType}/publish', 400, 400, '{}'],
  ['PUT /api/desk/event-types/{eventType}/draft', 400, 400, '{}'],
  ['DELETE /api/desk/event-types/{eventType}/draft', 200, 200],
  ['GET /api/desk/event-types/{eventType}/versions', 200, 404],
  ['POST /api/desk/event-types/{nothing}/duplicate', 404, 404, '{}'],
  ['POST /api/desk/event-types/{eventType}/archive', 400, 400, '{}'],
  ['POST /api/desk/event-types/{eventType}/state', 200, 404, '{"state":"open"}'],
  ['DELETE /api/desk/event-types/{eventType}', 409, 404],
  ['GET /api/desk/bookable', 200, 200],
  ['GET /api/desk/clients?search=nobody', 200, 200],
  ['GET /api/desk/openings?from=x', 400, 400],
  ['POST /api/desk/bookings', 400, 400, '{}'],
  ['GET /api/desk/messages', 200, 200],
  ['GET /api/desk/messages/{occasion}/{audience}', 200, 200],
  ['PUT /api/desk/messages/{occasion}/{audience}', 400, 400, '{}'],
  ['POST /api/desk/messages/{occasion}/{audience}/preview', 400, 400, '{}'],
  ['POST /api/desk/messages/{occasion}/{audience}/test', 400, 400, '{}'],
  ['POST /api/desk/own-messages', 400, 400, '{}'],
  ['PUT /api/desk/own-messages/{nothing}', 400, 400, '{}'],
  ['DELETE /api/desk/own-messages/{nothing}', 404, 404],
  ['GET /api/desk/question-sets', 200, 200],
  ['POST /api/desk/question-sets', 400, 400, '{}'],
  ['POST /api/desk/question-sets/{nothing}', 400, 400, '{}'],
  ['DELETE /api/desk/question-sets/{nothing}', 404, 404],
  ['GET /api/desk/groups', 200, 200],
  ['POST /api/desk/groups', 400, 400, '{}'],
  ['POST /api/desk/groups/{nothing}', 400, 400, '{}'],
  ['POST /api/desk/groups/{nothing}/preview', 400, 400, '{}'],
  ['DELETE /api/desk/groups/{nothing}', 404, 404],
  ['GET /api/desk/rotation', 200, 200],
  ['GET /api/desk/rotation/{nothing}/what-if', 404, 404],
  ['GET /api/desk/rotation/{nothing}/ledger', 200, 200],
  ['GET /api/desk/workspace', 200, 200],
  ['PUT /api/desk/workspace', 400, 400, '{}'],
  ['POST /api/desk/workspace/deletion', 400, 400, '{}'],
  ['DELETE /api/desk/workspace/deletion', 200, 200],
  ['GET /api/desk/people', 200, 200],
  ['POST /api/desk/people/invitations', 400, 400, '{}'],
  ['POST /api/desk/people/invitations/{nothing}/send', 404, 404, '{}'],
  ['DELETE /api/desk/people/invitations/{nothing}', 404, 404],
  ['POST /api/desk/people/members/{nothing}/role', 404, 404, '{"role":"host"}'],
  ['DELETE /api/desk/people/hosts/{nothing}', 404, 404],
  ['POST /api/desk/people/hosts', 400, 400, '{}'],
  ['GET /api/desk/workspaces', 200, 200],
  ['POST /api/desk/workspaces', 400, 400, '{}'],
  ['POST /api/desk/workspaces/{nothing}/enter', 404, 404, '{}'],
  ['GET /api/desk/account', 200, 200],
  ['GET /api/desk/account/devices', 200, 200],
  ['DELETE /api/desk/account/devices/{nothing}', 404, 404],
  ['POST /api/desk/account/second-factor', 400, 400, '{}'],
  ['POST /api/desk/account/second-factor/confirm', 400, 400, '{}'],
  ['POST /api/desk/account/second-factor/end', 400, 400, '{}'],
  ['POST /api/desk/account/address', 400, 400, '{}'],
  ['DELETE /api/desk/account/address', 200, 200],
  ['POST /api/desk/account/devices/end-others', 200, 200, '{}'],
  ['PUT /api/desk/me', 400, 400, '{}'],
  ['GET /api/desk/hours', 200, 200],
  ['POST /api/desk/hours', 400, 400, '{}'],
  ['POST /api/desk/hours/{ownPlan}/default', 200, 404, '{}'],
  ['GET /api/desk/hours/{ownPlan}', 200, 404],
  ['POST /api/desk/hours/{ownPlan}', 409, 404, outdated],
  ['POST /api/desk/hours/{nothing}/hosts', 404, 404, '{"hostIds":[]}'],
  ['DELETE /api/desk/hours/{ownPlan}', 409, 404],
  ['GET /api/desk/holidays', 200, 200],
  ['GET /api/desk/holidays/dates?country=PT', 200, 200],
  ['POST /api/desk/begin', 400, 400, '{}'],
  ['GET /api/desk/sessions?timeZone=UTC', 200, 200],
  ['GET /api/desk/hosts', 200, 200],
  ['GET /api/desk/hosts/{ownHost}', 200, 404],
  ['POST /api/desk/hosts/{ownHost}', 400, 404, '{}'],
  ['POST /api/desk/hosts/{ownHost}/default-hours', 400, 404, '{}'],
  ['GET /api/desk/hosts/{ownHost}/addresses', 200, 404],
  ['POST /api/desk/hosts/{ownHost}/addresses', 200, 404],
  ['PUT /api/desk/hosts/{ownHost}/free-busy', 400, 404, '{}'],
  ['PUT /api/desk/hosts/{ownHost}/picture', 422, 404, '{}'],
  ['DELETE /api/desk/hosts/{ownHost}/picture', 200, 404],
  ['GET /api/desk/sessions/{ownSession}', 200, 404],
  ['GET /api/desk/sessions/{ownSession}/assignments', 200, 404],
  ['GET /api/desk/hosts/{ownHost}/hand-over', 200, 404],
  ['POST /api/desk/hosts/{ownHost}/hand-over', 400, 404, '{}'],
  ['POST /api/desk/sessions/{ownSession}/room', 409, 404, '{}'],
  ['POST /api/desk/sessions/{ownSession}/room/renew', 409, 404, '{}'],
  ['POST /api/desk/sessions/{ownSession}/room/link', 400, 404, '{}'],
  ['POST /api/desk/sessions/{ownSession}/entry/put-back', 409, 404, '{}'],
  ['POST /api/desk/sessions/{ownSession}/entry/follow', 409, 404, '{}'],
  ['POST /api/desk/bookings/{ownBooking}/close', 400, 404, '{}'],
  ['GET /api/desk/bookings/{ownBooking}/openings?from=2031-03-03&to=2031-03-04&timeZone=UTC', 200, 404],
  ['POST /api/desk/bookings/{ownBooking}/move', 400, 404, '{}'],
  ['POST /api/desk/bookings/{ownBooking}/guests', 400, 404, '{"add":0}'],
  ['POST /api/desk/bookings/{ownBooking}/people', 400, 404, '{"people":0}'],
  ['POST /api/desk/bookings/{ownBooking}/payment', 400, 404, '{}'],
  ['POST /api/desk/bookings/{ownBooking}/refund', 409, 404, '{}'],
  ['GET /api/desk/payments', 200, 200],
  ['POST /api/desk/payments/{service}/connect', 404, 404, '{}'],
  ['POST /api/desk/payments/disconnect', 404, 404, '{}'],
  ['POST /api/desk/bookings/{ownBooking}/approve', 409, 404, '{}'],
  ['POST /api/desk/bookings/{ownBooking}/attendance', 400, 404, '{}'],
  ['POST /api/desk/confirm/send', 409, 409, '{}'],
  ['POST /api/desk/deliveries/{ownDelivery}/send', 409, 404, '{}'],
  ['POST /api/desk/jobs/{job}/run', 404, 404, '{}'],
  ['GET /api/desk/connections', 200, 200],
  ['GET /api/desk/calendar-accounts', 200, 200],
  ['POST /api/desk/calendar-accounts', 400, 400, '{}'],
  ['GET /api/desk/calendar-discovery', 400, 400],
  ['GET /api/desk/hosts/{ownHost}/taken', 400, 404],
  ['GET /api/desk/video-services/{service}/return?state=made-up', 400, 400],
  ['GET /api/desk/calendar-servers/{server}/return?state=made-up', 400, 400],
  ['POST /api/desk/connections/{ownAccount}/look', 200, 404, '{}'],
  ['PUT /api/desk/connections/{ownAccount}/users/{ownHost}', 404, 404, '{}'],
  ['DELETE /api/desk/connections/{ownAccount}/users/{ownHost}', 404, 404],
  ['POST /api/desk/connections/hosts/{nothing}/ask', 404, 404, '{}'],
  ['POST /api/desk/video-services/{service}/connect', 404, 404, '{}'],
  ['POST /api/desk/video-services/{service}/accept', 400, 400, '{}'],
  ['POST /api/desk/event-types/by-video', 400, 400, '{}'],
  ['DELETE /api/desk/sessions/{ownSession}/room', 409, 404],
  ['GET /api/desk/sessions/{ownSession}/room/ways', 200, 404],
  ['PUT /api/desk/sessions/{ownSession}/place', 400, 404, '{}'],
  ['PUT /api/desk/sessions/{ownSession}/notes', 400, 404, '{}'],
  ['POST /api/desk/connections/{ownAccount}/disconnect', 200, 404, '{}'],
]

/** Calls that say in their body or query what they are about, or that one may make about oneself alone. */
const others: [call: string, answers: Record<Role, number>, body?: string][] = [
  // Hosts who sign in connect their calendars themselves.
  ...(['POST /api/desk/calendar-accounts/{ownCalendarAccount}/look', 'PATCH /api/desk/calendars/{ownCalendar}'] as const).map(
    (name): [string, Record<Role, number>, string] =>
      [name, { nobody: 401, signedOut: 401, stranger: 404, owner: 404, coordinator: 404, host: 200, other: 404 }, '{}']),
  ['DELETE /api/desk/calendar-accounts/{ownCalendarAccount}',
    { nobody: 401, signedOut: 401, stranger: 404, owner: 404, coordinator: 404, host: 204, other: 404 }],
  ['DELETE /api/desk/people/members/{nothing}',
    { nobody: 401, signedOut: 401, stranger: 404, owner: 404, coordinator: 403, host: 403, other: 403 }],
  ['GET /api/desk/calendar-servers/{server}/connect?host={ownHost}',
    { nobody: 401, signedOut: 401, stranger: 403, owner: 403, coordinator: 403, host: 302, other: 403 }],
  ['GET /api/desk/video-services/{service}/connect?host={ownHost}',
    { nobody: 401, signedOut: 401, stranger: 403, owner: 403, coordinator: 403, host: 302, other: 403 }],
]

/** What everybody is answered, from the row that the call is checked by, as a workspace has let its hosts reach. */
function expected(name: string, allowed: number, stranger: number, reach: Reach): Record<Role, number> {
  const { right, subject } = callTable[nameInTable(name)] ?? {}
  if (!right) throw new Error(`${name} has no right`)
  const has = (role: MemberRole, status: number) => (hasRight(role, right) ? status : 403)
  return {
    nobody: 401,
    signedOut: 401,
    stranger,
    owner: allowed,
    coordinator: has('coordinator', allowed),
    host: has('host', allowed),
    other: has('host', !subject || isReached(subject, reach) ? allowed : subject.kind === 'hours' && reaches(reach, { hours: 'see' }) ? 403 : 404),
  }
}

function isReached(subject: Subject, reach: Reach): boolean {
  if (subject.needs === 'own') return false
  return subject.kind === 'hours' ? reaches(reach, { hours: subject.needs }) : reaches(reach, { sessions: subject.needs })
}

/** The name of a row: addresses name the same parameter otherwise there. */
function nameInTable(name: string): string {
  const shape = (text: string) => text.replace(/\?.*/, '').replace(/\{\w+\}/g, '{}')
  return Object.keys(callTable).find(candidate => shape(candidate) === shape(name)) ?? ''
}

async function answers(which: string, body: string | undefined): Promise<Record<string, number>> {
  const [method = '', path = ''] = which.split(' ')
  // One after the other where something is changed, so that nobody meets what another has done.
  const statuses: Record<string, number> = {}
  for (const role of [...people].reverse()) statuses[role] = (await ask(method, path, role, body)).status
  return statuses
}

const setReach = (reach: Reach) => context.db.update(workspaces).set({ hostReach: reach }).where(eq(workspaces.id, workspace.id))

describe('who may do what', () => {
  it.each(rows)('%s', async (which, allowed, stranger, body) => {
    expect(await answers(which, body)).toEqual(expected(which, allowed, stranger, presetReach))
  })

  it.each(others)('%s', async (which, statuses, body) => {
    expect(await answers(which, body)).toEqual(statuses)
  })

  const named = rows.filter(([which]) => callTable[nameInTable(which)]?.subject)
  it.each<Reach>([
    { sessions: 'own', hours: 'own' }, { sessions: 'times', hours: 'see' }, { sessions: 'clients', hours: 'see' },
    { sessions: 'change', hours: 'change' },
  ])('as far as hosts reach with %o', async (reach) => {
    await setReach(reach)
    for (const [which, allowed, stranger, body] of named)
      expect([which, await answers(which, body)]).toEqual([which, expected(which, allowed, stranger, reach)])
    await setReach(presetReach)
  })

  it('is told of every call of the desk', async () => {
    const { body } = await call(`${app}/api/openapi.json`)
    const open = ['/api/desk/sign-in', '/api/desk/sign-up', '/api/desk/sign-out', '/api/desk/confirm', '/api/desk/confirm/refuse',
      '/api/desk/password/forgotten', '/api/desk/password/new', '/api/desk/invitation', '/api/desk/account-address/confirm']
    const described = Object.entries<object>(body.paths).filter(([path]) => path.startsWith('/api/desk/') && !open.includes(path))
      .flatMap(([path, methods]) => Object.keys(methods).map(method => `${method.toUpperCase()} ${path.replace(/\{\w+\}/g, '{}')}`))
    const tried = new Set([...rows, ...others].map(([which]) => which.replace(/\?.*/, '').replace(/\{\w+\}/g, '{}')))
    expect(described.filter(item => !tried.has(item))).toEqual([])
  })

  it.each<[Reach['sessions'], { lanes: number, booked: number, clients: number, details: number, passcode: boolean, found: number }]>([
    ['own', { lanes: 1, booked: 1, clients: 1, details: 404, passcode: false, found: 1 }],
    ['times', { lanes: 2, booked: 2, clients: 1, details: 404, passcode: false, found: 1 }],
    ['clients', { lanes: 2, booked: 2, clients: 2, details: 200, passcode: false, found: 2 }],
    ['change', { lanes: 2, booked: 2, clients: 2, details: 200, passcode: true, found: 2 }],
  ])('shows a host who reaches %s the sessions of others so far, on Today, in lists and searches', async (sessions, seen) => {
    await setReach({ ...presetReach, sessions })
    const { body: view } = await ask('GET', bookedOn, 'host')
    const { body: list } = await ask('GET', '/api/desk/sessions?timeZone=UTC', 'host')
    const { body: search } = await ask('GET', '/api/desk/sessions?timeZone=UTC&search=client', 'host')
    const { body: byState } = await ask('GET', '/api/desk/sessions?timeZone=UTC&state=confirmed', 'host')
    const details = await ask('GET', '/api/desk/sessions/{otherSession}', 'host')
    expect({
      lanes: view.hosts.length,
      booked: view.today.length,
      clients: view.today.filter((card: { bookings: unknown[] }) => card.bookings.length > 0).length,
      details: details.status,
      passcode: Boolean(details.body.bookings?.[0].page),
      found: search.rows.length,
    }).toEqual(seen)
    expect(list.rows.filter((row: { clients: unknown[] }) => row.clients.length > 0)).toHaveLength(seen.clients)
    expect(byState.rows).toHaveLength(seen.found)
    expect(JSON.stringify([view, list, search]).includes(ids.get('otherClient') ?? '-')).toBe(sessions === 'clients' || sessions === 'change')
    await setReach(presetReach)
  })

  it.each<[Reach['hours'], number]>([['own', 1], ['see', 2], ['change', 2]])('shows a host who reaches %s the hours of others so far', async (hours, plans) => {
    await setReach({ ...presetReach, hours })
    expect((await ask('GET', '/api/desk/hours', 'host')).body).toHaveLength(plans)
    const { body } = await ask('GET', '/api/desk/people', 'host')
    expect(body.people.filter((person: { host: { hours: unknown } | null }) => person.host?.hours)).toHaveLength(plans)
    expect((await ask('GET', '/api/desk/hosts/{otherHost}', 'host')).body.plans === null).toBe(hours === 'own')
    await setReach(presetReach)
  })

  it('lets a host compute only with what they may see: of other hosts nothing, unless their times are open', async () => {
    const timeFor = async (role: Role) =>
      (await ask('GET', `/api/desk/event-types/{eventType}/time?hosts=${ids.get('ownHost')},${ids.get('otherHost')}`, role)).body.length
    expect([await timeFor('owner'), await timeFor('host')]).toEqual([2, 1])
    await setReach({ sessions: 'times', hours: 'see' })
    expect(await timeFor('host')).toBe(2)
    await setReach(presetReach)
    const booked = async (role: Role) => (await ask('GET', '/api/desk/event-types/{eventType}', role)).body.booked.length
    expect([await booked('owner'), await booked('host')]).toEqual([1, 0])
  })
})
