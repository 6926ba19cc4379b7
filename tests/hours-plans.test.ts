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
