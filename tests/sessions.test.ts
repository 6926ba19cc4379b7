import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import type { SessionList } from '../core/views/session-list'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { book, call, post, request, signIn, startsOf } from './support/http'
import { bookedOf, shiftSession, tokenOf } from './support/sessions'
import { addMember, makeWorkspace } from './support/workspace'

const app = inject('app')
let context: Context
beforeAll(async () => (context = await makeContext(inject('environment'))))
afterAll(() => closeContext(context))

it('lists sessions by page, client, date, host, event type and state, and to a host only their own', async () => {
  const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]
  const workspace = await makeWorkspace(context, {
    hosts: 2, eventTypes: [{ slug: 'one', settings: { places }, hosts: [0] }, { slug: 'two', settings: { places, name: 'Second' }, hosts: [1] }],
  })
  const owner = await signIn(app, workspace.owner)
  const host = await signIn(app, await addMember(context, workspace, 'host', workspace.hosts[0]?.id))
  const list = async (query = '', who = owner) =>
    (await call(`${app}/api/desk/sessions?timeZone=UTC&${query}`, { headers: who })).body as SessionList
  const starts = await startsOf(app, `${workspace.slug}/one`, 2, 6)
  const many = starts.filter((_, index) => index % 2 === 0).slice(0, 55)
  await Promise.all(many.map((start, index) => book(app, `${workspace.slug}/one`, request(start, {
    client: { name: index === 7 ? '100% Wool_Works' : `Client ${index}`, email: `client${index}@list.example` },
  }))))
  const [start = ''] = await startsOf(app, `${workspace.slug}/two`)
  const booked = await bookedOf(context, (await book(app, `${workspace.slug}/two`, request(start))).body)

  const first = await list()
  expect([first.rows.length, first.hasMore]).toEqual([50, true])
  expect(first.rows.map(row => row.start)).toEqual([...first.rows.map(row => row.start)].sort((a, b) => a - b))
  const second = await list('page=2')
  expect([second.rows.length, second.hasMore]).toEqual([6, false])
  expect(new Set([...first.rows, ...second.rows].map(row => row.id)).size).toBe(56)
  expect((await list('search=WOOL_w')).rows.map(row => row.clients[0]?.name)).toEqual(['100% Wool_Works'])
  expect((await list('search=%25')).rows, 'no sign stands for any text').toHaveLength(1)
  expect((await list('search=client12@')).rows).toHaveLength(1)
  expect((await list(`host=${workspace.hosts[1]?.id}`)).rows).toMatchObject([{ id: booked.sessionId, eventType: 'Second', hosts: ['Host 1'] }])
  expect((await list('state=cancelled')).rows).toEqual([])
  const [day = ''] = many[0]?.split('T') ?? []
  expect((await list(`from=${day}&to=${day}`)).rows.length).toBe(many.filter(at => at.startsWith(day)).length + (start.startsWith(day) ? 1 : 0))

  expect((await list('', host)).rows).toHaveLength(50)
  expect((await list(`host=${workspace.hosts[1]?.id}`, host)).rows, 'not those of another host').toEqual([])
  expect((await list('search=Nandini', host)).rows).toEqual([])

  expect((await post(`${app}/api/public/bookings/${tokenOf(booked)}/cancel`, {})).status).toBe(200)
  expect((await list('state=cancelled')).rows).toMatchObject([{ id: booked.sessionId, cancelled: true, clients: [{ state: 'cancelled' }] }])
  await shiftSession(context, booked.sessionId, new Date(Date.now() - 7_200_000), new Date(Date.now() - 3_600_000))
  expect((await list('when=past')).rows.map(row => row.id)).toEqual([booked.sessionId])
  const wrong = await call(`${app}/api/desk/sessions?timeZone=UTC&page=0`, { headers: owner })
  expect([wrong.status, wrong.body.errors[0].path]).toEqual([400, 'page'])
})
