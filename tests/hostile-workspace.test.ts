import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { campaign } from './support/campaign'
import { book, call, post, request, signIn, startsOf } from './support/http'
import { deliveriesOf } from './support/sessions'
import { makeWorkspace, plan, settings, type TestWorkspace } from './support/workspace'

/** A second workspace whose owner tries everything at once: nothing of the first is read, changed or slowed. */

const app = inject('app')
let context: Context
let first: TestWorkspace
let second: TestWorkspace
beforeAll(async () => {
  context = await makeContext(inject('environment'))
  const places = [{ key: 'studio', kind: 'address' as const, label: 'studio', detail: 'Secret address 7' }]
  first = await makeWorkspace(context, {
    hosts: 4,
    hours: 'Mo-Fr 09:00-17:00',
    eventTypes: [{ slug: 'talk', settings: { places, startEveryMinutes: 15 } }],
  })
  second = await makeWorkspace(context, { hosts: 3, eventTypes: [{ slug: 'talk', settings: { places } }] })
})
afterAll(() => closeContext(context))

/** Everything the first workspace has, as the database holds it. */
async function snapshot(): Promise<string> {
  const tables = [
    'workspaces',
    'members',
    'hosts',
    'hours_plans',
    'event_types',
    'event_type_versions',
    'event_type_drafts',
    'chairs',
    'chair_hosts',
    'turns',
    'assignments',
    'sessions',
    'session_hosts',
    'bookings',
    'answers',
    'deliveries',
    'rooms',
    'video_accounts',
    'trail',
  ]
  const rows = await Promise.all(
    tables.map(
      async table =>
        (
          await context.pool.query(
            `select to_jsonb(t) - 'seen_at' as row from ${table} t where ${table === 'workspaces' ? 'id' : 'workspace_id'} = $1 order by to_jsonb(t)::text`,
            [first.id],
          )
        ).rows,
    ),
  )
  return JSON.stringify(rows)
}

/** Milliseconds that each of so many askings for the first workspace's openings took. */
async function ask(many: number): Promise<number[]> {
  const taken: number[] = []
  for (let index = 0; index < many; index++) {
    const startedAt = performance.now()
    expect((await call(`${app}/api/public/${first.slug}/talk/openings?from=2030-01-07&to=2030-01-20&timeZone=Europe/Lisbon`)).status).toBe(
      200,
    )
    taken.push(performance.now() - startedAt)
  }
  return taken
}

const percentile95 = (taken: number[]) => taken.sort((a, b) => a - b)[Math.floor(taken.length * 0.95)] ?? Infinity

const SLICES = campaign(6, 40)

it('reads and changes nothing of another workspace, whatever its owner sends, and does not slow it down', async () => {
  const path = `${first.slug}/talk`
  const [start = ''] = await startsOf(app, path, 5)
  const booked = (await book(app, path, request(start))).body
  const firstOwner = await signIn(app, first.owner)
  const read = async (where: string) => (await call(`${app}/api/desk/${where}`, { headers: firstOwner })).body
  const [eventType] = await read('event-types')
  const bench = await read(`event-types/${eventType.id}`)
  const [hours] = await read('hours')
  const { rows: [{ id: session }] } = await read('sessions?timeZone=UTC')
  await expect
    .poll(async () => (await deliveriesOf(context, booked.booking.id)).every(candidate => candidate.state === 'sent'), { timeout: 20_000 })
    .toBe(true)
  const [delivery] = await deliveriesOf(context, booked.booking.id)

  await ask(30)
  const before = await snapshot()
  const stranger = await signIn(app, second.owner)
  const own = await (async () => {
    const list = (await call(`${app}/api/desk/event-types`, { headers: stranger })).body
    return (await call(`${app}/api/desk/event-types/${list[0].id}`, { headers: stranger })).body
  })()
  const ids = [
    eventType.id,
    hours.id,
    session,
    booked.booking.id,
    delivery?.id,
    first.id,
    ...first.hosts.map(host => host.id),
    bench.definition.chairs[0].id,
  ]
  const definition = (change: object, chairs = own.definition.chairs) => ({
    basedOn: own.version,
    definition: { ...own.definition, ...change, chairs },
  })
  const titles = [
    '{% include ".npmrc" %}',
    '{% render "package.json" %}',
    '{% for i in (1..99999999) %}{{ i }}{% endfor %}',
    `{{ client.name${' | replace: "x", "xxxxxxxxxx"'.repeat(6)} }}`,
    '{{ workspace.secret }}',
    '{{ "a" | constructor }}',
  ]
  const heavy = {
    ...plan('Mo-Su 00:00-24:00', 'UTC'),
    recurring: Array.from({ length: 20 }, (_, index) => ({
      rrule: `FREQ=YEARLY;BYYEARDAY=${index + 1},${index + 40};COUNT=10000`,
      start: '2025-01-01',
      from: '01:00',
      to: '02:00',
    })),
  }
  const finest = settings({
    startEveryMinutes: 1,
    durations: [1],
    bufferAfterMinutes: 0,
    places: [{ key: 'here', kind: 'address', label: '', detail: 'x' }],
    hours: { mode: 'narrow', plan: heavy },
  })

  const attempts: (() => Promise<{ status: number, body: unknown }>)[] = [
    ...ids.flatMap(id =>
      ['event-types', 'hours', 'sessions'].map(kind => () => call(`${app}/api/desk/${kind}/${id}`, { headers: stranger })),
    ),
    ...ids.flatMap(id => [
      () => post(`${app}/api/desk/event-types/${id}/publish`, definition({}), stranger),
      () => post(`${app}/api/desk/event-types/${id}/archive`, { archived: true }, stranger),
      () => post(`${app}/api/desk/event-types/${id}/duplicate`, {}, stranger),
      () => post(`${app}/api/desk/hours/${id}`, { basedOn: 1, name: 'Taken', plan: heavy }, stranger),
      () => post(`${app}/api/desk/bookings/${id}/close`, { state: 'cancelled' }, stranger),
      () => post(`${app}/api/desk/bookings/${id}/approve`, {}, stranger),
      () => post(`${app}/api/desk/sessions/${id}/room`, {}, stranger),
      () => post(`${app}/api/desk/deliveries/${id}/send`, {}, stranger),
      () => post(`${app}/api/desk/connections/${id}/disconnect`, {}, stranger),
      () => post(`${app}/api/desk/event-types/order`, { ids: [id] }, stranger),
      () => call(`${app}/api/desk/video-services/lantern/connect?host=${id}`, { headers: stranger, redirect: 'manual' }),
    ]),
    // Its own event type with the hosts and chairs of the first, with nasty titles, texts and addresses, and as expensive as it may be.
    ...first.hosts.map(
      host => () =>
        post(
          `${app}/api/desk/event-types/${own.id}/publish`,
          definition({}, [{ ...own.definition.chairs[0], hosts: [{ id: host.id, name: 'x', weight: 1 }] }]),
          stranger,
        ),
    ),
    () =>
      post(
        `${app}/api/desk/event-types/${own.id}/publish`,
        definition({}, [{ ...own.definition.chairs[0], id: bench.definition.chairs[0].id }]),
        stranger,
      ),
    ...titles.map(
      calendarTitle => () =>
        post(
          `${app}/api/desk/event-types/${own.id}/publish`,
          definition({ settings: { ...own.definition.settings, calendarTitle } }),
          stranger,
        ),
    ),
    ...['../first', '..%2f', `${first.slug}`, 'desk', 'api', '<script>'].map(
      slug => () => post(`${app}/api/desk/event-types/${own.id}/publish`, definition({ slug }), stranger),
    ),
    ...['javascript:alert(1)', 'http://127.0.0.1/', `${app}/desk`].map(
      address => () =>
        post(
          `${app}/api/desk/event-types/${own.id}/publish`,
          definition({ settings: { ...own.definition.settings, afterwards: { text: '<img src=x onerror=alert(1)>', address } } }),
          stranger,
        ),
    ),
    () => post(`${app}/api/desk/event-types/${own.id}/publish`, definition({ settings: finest, state: 'open' }), stranger),
    () => call(`${app}/api/public/${second.slug}/${own.definition.slug}/openings?from=2030-01-07&to=2030-04-07&timeZone=UTC`),
    () => call(`${app}/api/public/${second.slug}/${own.definition.slug}/openings?from=2030-01-07&to=2030-01-20&timeZone=UTC`),
    () => call(`${app}/api/desk/event-types`, { headers: stranger }),
    () => call(`${app}/api/desk/event-types/${own.id}`, { headers: stranger }),
    () => post(`${app}/api/desk/hours/${own.definition.chairs[0].id}`, { basedOn: 1, name: 'x'.repeat(200_000), plan: heavy }, stranger),
  ]

  const answered = new Map<number, number>()
  const foreign: string[] = []
  let next = 0
  const storm = async (going: () => boolean) => {
    while (going()) {
      const attempt = attempts[next++ % attempts.length] as typeof attempts[number]
      const { status, body } = await attempt()
      answered.set(status, (answered.get(status) ?? 0) + 1)
      const text = status < 400 ? JSON.stringify(body) : ''
      for (const secret of [first.owner.email, booked.booking.id, ...first.hosts.map(host => host.email)])
        if (text.includes(secret)) foreign.push(`${status} ${secret}`)
    }
  }
  // Alone and beside the storm in turn, so that a slow moment of the machine weighs on both.
  const alone: number[] = []
  const beside: number[] = []
  for (let slice = 0; slice < SLICES || next < 2 * attempts.length; slice++) {
    alone.push(...await ask(20))
    let going = true
    const stormy = storm(() => going)
    beside.push(...await ask(20))
    going = false
    await stormy
  }

  expect(foreign).toEqual([])
  expect([...answered.keys()].filter(status => status >= 500), JSON.stringify([...answered])).toEqual([])
  expect(await snapshot()).toBe(before)
  const [quiet, stormy] = [percentile95(alone), percentile95(beside)]
  process.stdout.write(
    `p95 of the first workspace's openings: alone ${quiet.toFixed(1)} ms, beside the hostile one ${stormy.toFixed(1)} ms\n`,
  )
  // Beside other tests the machine is too restless for the figure, which the long run holds.
  expect(stormy, 'p95 beside the hostile workspace').toBeLessThan(campaign(40, 2) * quiet)
})
