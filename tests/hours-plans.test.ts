import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { call, post, signIn } from './support/http'
import { makeWorkspace, plan } from './support/workspace'

/** Several hours plans of one host: the default one applies, or the one that an event type names, and never both. */

const app = inject('app')
let context: Context
beforeAll(async () => (context = await makeContext(inject('environment'))))
afterAll(() => closeContext(context))

it('the default plan applies, another one once it is named or made the default', async () => {
  const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]
  const eventType = { slug: 'talk', settings: { places, durations: [60], startEveryMinutes: 60, bufferAfterMinutes: 0 } }
  const workspace = await makeWorkspace(context, { hosts: 1, zone: 'UTC', hours: 'Mo-Su 09:00-11:00', eventTypes: [eventType] })
  const owner = await signIn(app, workspace.owner)
  const desk = async (path: string) => (await call(`${app}/api/desk/${path}`, { headers: owner })).body
  const hoursOffered = async () =>
    (await call(`${app}/api/public/${workspace.slug}/talk/openings?from=2031-03-04&to=2031-03-04&timeZone=UTC`)).body.openings.map(
      (opening: { start: string }) => opening.start.slice(11, 16),
    )
  const [usual] = await desk('hours')
  const made = await post(`${app}/api/desk/hours`, { like: usual.id, name: 'Evenings' }, owner)
  expect(made.status).toBe(200)
  const evenings = { basedOn: 1, name: 'Evenings', plan: plan('Mo-Su 19:00-21:00', 'UTC') }
  expect((await post(`${app}/api/desk/hours/${made.body.id}`, evenings, owner)).status).toBe(200)
  expect(await hoursOffered()).toEqual(['09:00', '10:00'])

  const [row] = await desk('event-types')
  const bench = await desk(`event-types/${row.id}`)
  const publish = (basedOn: number, hours: object) =>
    post(
      `${app}/api/desk/event-types/${row.id}/publish`,
      { basedOn, definition: { ...bench.definition, settings: { ...bench.definition.settings, hours } } },
      owner,
    )
  const hostId = workspace.hosts[0]?.id ?? ''
  expect((await publish(1, { mode: 'hosts', hostPlans: { [hostId]: row.id } })).body.errors[0].path).toBe(
    `definition.settings.hours.hostPlans.${hostId}`,
  )
  expect((await publish(1, { mode: 'hosts', hostPlans: { [hostId]: made.body.id } })).status).toBe(200)
  expect(await hoursOffered()).toEqual(['19:00', '20:00'])
  expect((await publish(2, { mode: 'hosts' })).status).toBe(200)
  expect(await hoursOffered()).toEqual(['09:00', '10:00'])

  expect((await post(`${app}/api/desk/hours/${made.body.id}/default`, {}, owner)).status).toBe(200)
  expect(await hoursOffered()).toEqual(['19:00', '20:00'])
  expect((await desk('hours')).map((item: { name: string, isDefault: boolean }) => [item.name, item.isDefault])).toEqual([
    ['Evenings', true],
    ['Hours', false],
  ])
})

it('several hosts and event types share a plan of the workspace, which is changed in one place and not deleted while it is used', async () => {
  const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]
  const talk = { places, durations: [60], startEveryMinutes: 60, bufferAfterMinutes: 0 }
  const workspace = await makeWorkspace(context, {
    hosts: 2, zone: 'UTC', hours: 'Mo-Su 09:00-11:00',
    eventTypes: [{ slug: 'a', settings: talk, hosts: [0] }, { slug: 'b', settings: talk, hosts: [1] }],
  })
  const foreign = await makeWorkspace(context, { hosts: 1, eventTypes: [] })
  const owner = await signIn(app, workspace.owner)
  const [first, second] = workspace.hosts.map(host => host.id)
  const get = async (path: string) => (await call(`${app}/api/desk/${path}`, { headers: owner })).body
  const offered = async (slug: string) =>
    (await call(`${app}/api/public/${workspace.slug}/${slug}/openings?from=2031-03-04&to=2031-03-04&timeZone=UTC`)).body.openings
      .map((opening: { start: string }) => opening.start.slice(11, 13))
  const [usual] = await get('hours')
  const { id } = (await post(`${app}/api/desk/hours`, { like: usual.id, name: 'Studio hours', shared: true }, owner)).body
  const change = (basedOn: number, hours: string) => post(`${app}/api/desk/hours/${id}`, { basedOn, name: 'Studio hours', plan: plan(hours, 'UTC') }, owner)
  expect((await change(1, 'Mo-Su 14:00-16:00')).status).toBe(200)
  const share = (hostIds: (string | undefined)[]) => post(`${app}/api/desk/hours/${id}/hosts`, { hostIds }, owner)
  expect((await share([foreign.hosts[0]?.id])).body.errors).toMatchObject([{ path: 'hostIds', code: 'unknownHost' }])
  expect((await share([first])).status).toBe(200)
  expect([await offered('a'), await offered('b')]).toEqual([['09', '10'], ['09', '10']])

  // The default of two hosts: both follow.
  for (const host of [first, second]) expect((await post(`${app}/api/desk/hosts/${host}/default-hours`, { planId: id }, owner)).status).toBe(200)
  expect([await offered('a'), await offered('b')]).toEqual([['14', '15'], ['14', '15']])
  expect((await get(`hours/${id}`)).usedBy.map((use: { name: string }) => use.name)).toHaveLength(2)
  expect((await share([first])).status, 'it is still the default of the other').toBe(409)
  const remove = async () => (await call(`${app}/api/desk/hours/${id}`, { method: 'DELETE', headers: owner })).status
  expect(await remove()).toBe(409)

  // Their own plans again; an event type takes it as its own hours, and follows it too.
  for (const row of await get('hours')) if (row.host) await post(`${app}/api/desk/hours/${row.id}/default`, {}, owner)
  const [eventType] = await get('event-types')
  const bench = await get(`event-types/${eventType.id}`)
  const publish = (basedOn: number, hours: object) => post(`${app}/api/desk/event-types/${eventType.id}/publish`, {
    basedOn, definition: { ...bench.definition, settings: { ...bench.definition.settings, hours } },
  }, owner)
  const anything = plan('Mo 00:00-01:00', 'UTC')
  const unknown = await publish(1, { mode: 'replace', plan: anything, shared: usual.id })
  expect(unknown.body.errors).toMatchObject([{ path: 'definition.settings.hours.shared', code: 'foreignHours' }])
  expect((await publish(1, { mode: 'replace', plan: anything, shared: id })).status).toBe(200)
  expect([await offered('a'), await offered('b')]).toEqual([['14', '15'], ['09', '10']])
  expect((await change(2, 'Mo-Su 18:00-19:00')).status).toBe(200)
  expect([await offered('a'), await offered('b')]).toEqual([['18'], ['09', '10']])
  expect(await remove()).toBe(409)
  expect((await publish(2, { mode: 'hosts' })).status).toBe(200)
  expect(await remove()).toBe(200)
  expect(await offered('a')).toEqual(['09', '10'])
})
