import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { until } from '../scripts/run/processes'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { book, call, request, signIn, startsOf } from './support/http'
import { deliveriesOf } from './support/sessions'
import { addMember, connectLantern, makeWorkspace, plan, type TestWorkspace } from './support/workspace'

const app = inject('app')
let context: Context
let workspace: TestWorkspace

type Role = 'nobody' | 'stranger' | 'owner' | 'coordinator' | 'host'
const headers = {} as Record<Role, Record<string, string>>
/** Ids that stand in the table's addresses: the host's own, and another host's. */
const ids = new Map<string, string>()

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

  for (const [whose, hostId = ''] of [['own', mine], ['other', theirs]] as const) {
    const [start = ''] = await startsOf(app, `${workspace.slug}/${whose}`)
    expect((await book(app, `${workspace.slug}/${whose}`, request(start))).status).toBe(201)
    await connectLantern(context, workspace.id, hostId)
    ids.set(`${whose}Host`, hostId)
    ids.set('service', 'lantern')
  }
  const today = await read('/api/desk/today?timeZone=UTC')
  const plans = await read('/api/desk/hours')
  const { hosts: accounts } = await read('/api/desk/connections')
  for (const whose of ['own', 'other'] as const) {
    const hostId = ids.get(`${whose}Host`)
    const card = today.coming.find((item: { hosts: { id: string }[] }) => item.hosts[0]?.id === hostId)
    ids.set(`${whose}Session`, card.id)
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
    ids.set(`${whose}Account`, accounts.find((account: { hostId: string }) => account.hostId === hostId).account.id)
  }
  ids.set('job', '999999')
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
 * Each call with the statuses that a stranger of another workspace, the owner, a coordinator and a host are answered with.
 * Bodies do not fit, so that whoever may do a thing is told so (400) and nothing is changed that another line needs.
 */
const calls: [call: string, stranger: number, owner: number, coordinator: number, host: number, body?: string][] = [
  ['GET /api/desk/me', 200, 200, 200, 200],
  ['GET /api/desk/today?timeZone=UTC', 200, 200, 200, 200],
  ['GET /api/desk/event-types', 200, 200, 200, 200],
  ['GET /api/desk/event-types/names', 200, 200, 200, 200],
  ['POST /api/desk/event-types', 400, 400, 400, 403, '{}'],
  ['POST /api/desk/event-types/order', 400, 400, 400, 403, '{}'],
  ['GET /api/desk/event-types/{eventType}', 404, 200, 200, 200],
  ['POST /api/desk/event-types/{eventType}/publish', 400, 400, 400, 403, '{}'],
  ['PUT /api/desk/event-types/{eventType}/draft', 400, 400, 400, 403, '{}'],
  ['DELETE /api/desk/event-types/{eventType}/draft', 200, 200, 200, 403],
  ['GET /api/desk/event-types/{eventType}/versions', 404, 200, 200, 200],
  ['POST /api/desk/event-types/{nothing}/duplicate', 404, 404, 404, 403, '{}'],
  ['POST /api/desk/event-types/{eventType}/archive', 400, 400, 400, 403, '{}'],
  ['POST /api/desk/event-types/{eventType}/state', 404, 200, 200, 403, '{"state":"open"}'],
  ['DELETE /api/desk/event-types/{eventType}', 404, 409, 409, 403],
  ['GET /api/desk/question-sets', 200, 200, 200, 200],
  ['POST /api/desk/question-sets', 400, 400, 400, 403, '{}'],
  ['POST /api/desk/question-sets/{nothing}', 400, 400, 400, 403, '{}'],
  ['DELETE /api/desk/question-sets/{nothing}', 404, 404, 404, 403],
  ['GET /api/desk/groups', 200, 200, 200, 200],
  ['POST /api/desk/groups', 400, 400, 400, 403, '{}'],
  ['POST /api/desk/groups/{nothing}', 400, 400, 400, 403, '{}'],
  ['POST /api/desk/groups/{nothing}/preview', 400, 400, 400, 403, '{}'],
  ['DELETE /api/desk/groups/{nothing}', 404, 404, 404, 403],
  ['GET /api/desk/rotation', 200, 200, 200, 200],
  ['GET /api/desk/rotation/{nothing}/what-if', 404, 404, 404, 404],
  ['GET /api/desk/rotation/{nothing}/ledger', 200, 200, 200, 200],
  ['GET /api/desk/workspace', 200, 200, 200, 200],
  ['PUT /api/desk/workspace', 400, 400, 403, 403, '{}'],
  ['GET /api/desk/people', 200, 200, 200, 200],
  ['POST /api/desk/people/invitations', 400, 400, 403, 403, '{}'],
  ['POST /api/desk/people/invitations/{nothing}/send', 404, 404, 403, 403, '{}'],
  ['DELETE /api/desk/people/invitations/{nothing}', 404, 404, 403, 403],
  ['POST /api/desk/people/members/{nothing}/role', 404, 404, 403, 403, '{"role":"host"}'],
  ['DELETE /api/desk/people/members/{nothing}', 404, 404, 403, 403],
  ['DELETE /api/desk/people/hosts/{nothing}', 404, 404, 403, 403],
  ['POST /api/desk/people/hosts', 400, 400, 403, 403, '{}'],
  ['GET /api/desk/workspaces', 200, 200, 200, 200],
  ['POST /api/desk/workspaces', 400, 400, 400, 400, '{}'],
  ['POST /api/desk/workspaces/{nothing}/enter', 404, 404, 404, 404, '{}'],
  ['GET /api/desk/account', 200, 200, 200, 200],
  ['GET /api/desk/account/devices', 200, 200, 200, 200],
  ['DELETE /api/desk/account/devices/{nothing}', 404, 404, 404, 404],
  ['POST /api/desk/account/second-factor', 400, 400, 400, 400, '{}'],
  ['POST /api/desk/account/second-factor/confirm', 400, 400, 400, 400, '{}'],
  ['POST /api/desk/account/second-factor/end', 400, 400, 400, 400, '{}'],
  ['POST /api/desk/account/address', 400, 400, 400, 400, '{}'],
  ['DELETE /api/desk/account/address', 200, 200, 200, 200],
  ['POST /api/desk/account/devices/end-others', 200, 200, 200, 200, '{}'],
  ['PUT /api/desk/me', 400, 400, 400, 400, '{}'],
  ['GET /api/desk/hours', 200, 200, 200, 200],
  ['POST /api/desk/hours', 400, 400, 400, 400, '{}'],
  ['POST /api/desk/hours/{ownPlan}/default', 404, 200, 200, 200, '{}'],
  ['POST /api/desk/hours/{otherPlan}/default', 404, 200, 200, 403, '{}'],
  ['GET /api/desk/hours/{ownPlan}', 404, 200, 200, 200],
  ['POST /api/desk/hours/{ownPlan}', 404, 409, 409, 409, outdated],
  ['POST /api/desk/hours/{otherPlan}', 404, 409, 409, 403, outdated],
  ['GET /api/desk/holidays', 200, 200, 200, 200],
  ['GET /api/desk/holidays/dates?country=PT', 200, 200, 200, 200],
  ['POST /api/desk/begin', 400, 400, 400, 403, '{}'],
  ['GET /api/desk/sessions?timeZone=UTC', 200, 200, 200, 200],
  ['GET /api/desk/hosts', 200, 200, 200, 200],
  ['GET /api/desk/sessions/{ownSession}', 404, 200, 200, 200],
  ['GET /api/desk/sessions/{otherSession}', 404, 200, 200, 404],
  ['GET /api/desk/sessions/{ownSession}/assignments', 404, 200, 200, 200],
  ['GET /api/desk/sessions/{otherSession}/assignments', 404, 200, 200, 404],
  ['GET /api/desk/hosts/{ownHost}/hand-over', 404, 200, 200, 200],
  ['GET /api/desk/hosts/{otherHost}/hand-over', 404, 200, 200, 404],
  ['POST /api/desk/hosts/{ownHost}/hand-over', 404, 400, 400, 400, '{}'],
  ['POST /api/desk/hosts/{otherHost}/hand-over', 404, 400, 400, 404, '{}'],
  ['POST /api/desk/sessions/{ownSession}/room', 404, 409, 409, 409, '{}'],
  ['POST /api/desk/sessions/{otherSession}/room', 404, 409, 409, 404, '{}'],
  ['POST /api/desk/bookings/{ownBooking}/close', 404, 400, 400, 400, '{}'],
  ['POST /api/desk/bookings/{otherBooking}/close', 404, 400, 400, 404, '{}'],
  ['POST /api/desk/bookings/{ownBooking}/approve', 404, 409, 409, 409, '{}'],
  ['POST /api/desk/bookings/{otherBooking}/approve', 404, 409, 409, 404, '{}'],
  ['POST /api/desk/confirm/send', 409, 409, 409, 409, '{}'],
  ['POST /api/desk/deliveries/{ownDelivery}/send', 404, 409, 409, 409, '{}'],
  ['POST /api/desk/deliveries/{otherDelivery}/send', 404, 409, 409, 404, '{}'],
  ['POST /api/desk/jobs/{job}/run', 404, 404, 404, 403, '{}'],
  ['GET /api/desk/connections', 200, 200, 200, 200],
  ['GET /api/desk/video-services/{service}/connect?host={otherHost}', 403, 302, 302, 403],
  ['GET /api/desk/video-services/{service}/connect?host={ownHost}', 403, 302, 302, 302],
  ['GET /api/desk/video-services/{service}/return?state=made-up', 400, 400, 400, 400],
  ['POST /api/desk/connections/{otherAccount}/disconnect', 404, 200, 200, 404, '{}'],
  ['POST /api/desk/connections/{ownAccount}/disconnect', 404, 200, 200, 200, '{}'],
]

describe('who may do what', () => {
  it.each(calls)('%s', async (which, stranger, owner, coordinator, host, body) => {
    const [method = '', path = ''] = which.split(' ')
    const expected = { nobody: 401, stranger, owner, coordinator, host }
    const answered = await Promise.all(
      (Object.keys(expected) as Role[]).map(async role => [role, (await ask(method, path, role, body)).status]),
    )
    expect(Object.fromEntries(answered)).toEqual(expected)
  })

  it('is told of every call of the desk', async () => {
    const { body } = await call(`${app}/api/openapi.json`)
    const open = ['/api/desk/sign-in', '/api/desk/sign-up', '/api/desk/sign-out', '/api/desk/confirm', '/api/desk/confirm/refuse',
      '/api/desk/password/forgotten', '/api/desk/password/new', '/api/desk/invitation', '/api/desk/account-address/confirm']
    const described = Object.entries<object>(body.paths).filter(([path]) => path.startsWith('/api/desk/') && !open.includes(path))
      .flatMap(([path, methods]) => Object.keys(methods).map(method => `${method.toUpperCase()} ${path.replace(/\{\w+\}/, '{}')}`))
    const tried = new Set(calls.map(([which]) => which.replace(/\?.*/, '').replace(/\{\w+\}/, '{}')))
    expect(described.filter(item => !tried.has(item))).toEqual([])
  })

  it('shows a host the own sessions and nobody else’s, and no clients beside them', async () => {
    const { body } = await ask('GET', '/api/desk/today?timeZone=UTC', 'host')
    expect(body.hosts.map((host: { id: string }) => host.id)).toEqual([ids.get('ownHost')])
    expect(body.coming.map((item: { id: string }) => item.id)).toEqual([ids.get('ownSession')])
    const booked = async (role: Role) => (await ask('GET', '/api/desk/event-types/{eventType}', role)).body.booked.length
    expect([await booked('owner'), await booked('host')]).toEqual([1, 0])
  })
})
