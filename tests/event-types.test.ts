import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { Definition } from '../core/event-type/definition'
import type { SettingsInput } from '../core/event-type/settings'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { book, call, confirmationLink, post, request, sessionCookie, signIn, startsOf } from './support/http'
import { addMember, makeWorkspace, type TestWorkspace } from './support/workspace'

const app = inject('app')
let context: Context
let workspace: TestWorkspace
let owner: Record<string, string>
let coordinator: Record<string, string>
let host: Record<string, string>

beforeAll(async () => {
  context = await makeContext(inject('environment'))
  const place = { key: 'studio', kind: 'address' as const, label: 'studio', detail: 'Pátio do Prelo 7' }
  workspace = await makeWorkspace(context, {
    hosts: 2,
    eventTypes: ['talk', 'review', 'asked'].map(slug => ({ slug, settings: { name: slug, places: [place] } })),
  })
  owner = await signIn(app, workspace.owner)
  coordinator = await signIn(app, await addMember(context, workspace, 'coordinator'))
  host = await signIn(app, await addMember(context, workspace, 'host'))
})
afterAll(() => closeContext(context))

const rows = async () =>
  (await call(`${app}/api/desk/event-types`, { headers: owner })).body as { id: string, slug: string, name: string, archived: boolean }[]
const idOf = async (slug: string) => (await rows()).find(row => row.slug === slug)?.id ?? ''
const bench = async (id: string, who = owner) => (await call(`${app}/api/desk/event-types/${id}`, { headers: who })).body
const publish = (id: string, basedOn: number, definition: Definition, who = owner) =>
  post(`${app}/api/desk/event-types/${id}/publish`, { basedOn, definition }, who)
const withSettings = (definition: Definition, settings: Partial<SettingsInput>) =>
  ({ ...definition, settings: { ...definition.settings, ...settings } }) as Definition
const page = (slug: string) => call(`${app}/api/public/${workspace.slug}/${slug}`)

describe('publishing', () => {
  it('refuses what does not fit, each at its field', async () => {
    const id = await idOf('talk')
    const { definition, version } = await bench(id)
    const [first, second] = definition.chairs[0].hosts
    const refusals: [object, number, string][] = [
      [withSettings(definition, { durations: [0] }), 400, 'definition.settings.durations.0'],
      [withSettings(definition, { description: 'x'.repeat(100_000) }), 400, 'definition.settings.description'],
      [withSettings(definition, { timeZone: 'Atlantis/Capital' }), 400, 'definition.settings.timeZone'],
      [withSettings(definition, { calendarTitle: '{{ nobody.name }}' }), 422, 'definition.settings.calendarTitle'],
      [{ ...definition, slug: 'review' }, 422, 'definition.slug'],
      [{ ...definition, chairs: [] }, 400, 'definition.chairs'],
      [
        { ...definition, chairs: [{ ...definition.chairs[0], hosts: [first, { ...second, weight: 0 }] }] },
        400,
        'definition.chairs.0.hosts.1.weight',
      ],
      [
        { ...definition, chairs: [{ ...definition.chairs[0], hosts: [{ ...first, id: randomUUID() }] }] },
        422,
        'definition.chairs.0.hosts.0',
      ],
      [{ ...definition, chairs: (await bench(await idOf('review'))).definition.chairs }, 422, 'definition.chairs.0.id'],
    ]
    for (const [wrong, status, path] of refusals)
      expect(await publish(id, version, wrong as Definition), path).toMatchObject({ status, body: { errors: [{ path }] } })
    expect(await publish(id, version, definition, host)).toMatchObject({ status: 403 })
    expect((await bench(id)).version).toBe(version)
  })

  it('tells the second whose change came first and what it was, and keeps every version', async () => {
    const id = await idOf('talk')
    const { definition, version } = await bench(id)
    expect(await publish(id, version, withSettings(definition, { durations: [45] }), coordinator)).toMatchObject({
      status: 200,
      body: { version: version + 1 },
    })
    const late = await publish(id, version, withSettings(definition, { durations: [20] }))
    expect(late).toMatchObject({
      status: 409,
      body: {
        detail: expect.stringContaining('Test coordinator'),
        theirs: { version: version + 1, definition: { settings: { durations: [45] } } },
      },
    })
    const { body: versions } = await call(`${app}/api/desk/event-types/${id}/versions`, { headers: owner })
    expect(versions.map((item: { version: number, by: string }) => [item.version, item.by])).toEqual([
      [version + 1, 'Test coordinator'],
      [version, 'Test Owner'],
    ])
    expect(await publish(id, version + 1, versions[1].definition)).toMatchObject({ status: 200 })
    expect((await page('talk')).body.eventType.durations).toEqual(definition.settings.durations)
  })

  it('by many at once lets one through', async () => {
    const id = await idOf('talk')
    const { definition, version } = await bench(id)
    const answers = await Promise.all(
      Array.from({ length: 8 }, (_, i) => publish(id, version, withSettings(definition, { summary: `Number ${i}` }))),
    )
    expect(answers.map(answer => answer.status).sort()).toEqual([200, ...Array.from({ length: 7 }, () => 409)])
  })

  it('keeps what fair share remembers of the hosts who stay, and the chair of sessions already booked', async () => {
    const id = await idOf('review')
    const [start = ''] = await startsOf(app, `${workspace.slug}/review`)
    expect((await book(app, `${workspace.slug}/review`, request(start))).status).toBe(201)
    const credits = async () =>
      (
        await context.db.execute<{ credit: number }>(
          `select t.credit from turns t join chairs c on c.id = t.pool_id where c.event_type_id = '${id}' and c.active order by t.host_id`,
        )
      ).rows.map(row => row.credit)
    const before = await credits()
    expect(before).toContain(-0.5)
    const { definition, version } = await bench(id)
    expect(
      (
        await publish(id, version, {
          ...definition,
          chairs: definition.chairs.map((chair: Definition['chairs'][number]) => ({ ...chair, hosts: [...chair.hosts].reverse() })),
        })
      ).status,
    ).toBe(200)
    expect(await credits()).toEqual(before)
    const { definition: now, version: next } = await bench(id)
    const moved = { ...now, chairs: [{ id: randomUUID(), name: 'New', policy: 'order', hosts: now.chairs[0].hosts }] }
    expect((await publish(id, next, moved)).status).toBe(200)
    expect((await bench(id)).booked).toHaveLength(1)
  })
})

describe('an address', () => {
  it('that was changed goes on leading there, also for who books', async () => {
    const id = await idOf('review')
    const { definition, version } = await bench(id)
    expect((await publish(id, version, { ...definition, slug: 'second-look' })).status).toBe(200)
    expect((await page('review')).body.eventType.slug).toBe('second-look')
    const [start = ''] = await startsOf(app, `${workspace.slug}/review`)
    expect((await book(app, `${workspace.slug}/review`, request(start))).status).toBe(201)
    const asked = await fetch(`${app}/${workspace.slug}/review`, { redirect: 'manual' })
    expect([asked.status, asked.headers.get('location')]).toEqual([301, `/${workspace.slug}/second-look`])
    const talk = await idOf('talk')
    const other = await bench(talk)
    expect(await publish(talk, other.version, { ...other.definition, slug: 'review' })).toMatchObject({
      status: 422,
      body: { errors: [{ path: 'definition.slug', message: 'This address leads to “review”' }] },
    })
    expect((await publish(id, version + 1, { ...definition, slug: 'review' })).status).toBe(200)
    expect((await page('second-look')).body.eventType.slug).toBe('review')
  })
})

describe('what clients read', () => {
  it('is Markdown made safe, and a text once they have booked; guests come only where they may', async () => {
    const id = await idOf('review')
    const { definition, version } = await bench(id)
    const description =
      'Bring **it**.\n\n- a box\n\n<script>alert(1)</script> [here](javascript:alert(1)) ![x](https://place.example/x.png)'
    expect(
      (
        await publish(
          id,
          version,
          withSettings(definition, { description, guests: false, afterwards: { text: 'Keep it dry.', address: '' } }),
        )
      ).status,
    ).toBe(200)
    const { descriptionHtml } = (await page('review')).body.eventType
    expect(descriptionHtml).toContain('<strong>it</strong>')
    expect(descriptionHtml).toContain('<li>a box</li>')
    expect(descriptionHtml).toContain('&lt;script&gt;')
    expect(descriptionHtml).not.toMatch(/<script|<img|href="javascript/)
    const [start = ''] = (await startsOf(app, `${workspace.slug}/review`)).slice(4)
    const guests = [{ email: 'guest@client.example' }]
    expect(await book(app, `${workspace.slug}/review`, request(start, { guests }))).toMatchObject({
      status: 422,
      body: { errors: [{ path: 'guests' }] },
    })
    const { body } = await book(app, `${workspace.slug}/review`, request(start))
    expect((await call(`${app}/api/public/bookings/${new URL(body.manage).pathname.split('/').at(-1)}/page`)).body.afterwards).toEqual({
      text: 'Keep it dry.',
      address: '',
    })
  })
})

describe('a draft', () => {
  it('is kept for its member alone, until it is published', async () => {
    const id = await idOf('asked')
    const { definition, version } = await bench(id)
    const draft = withSettings(definition, { seats: 4 })
    const put = (body: object, who = owner) =>
      call(`${app}/api/desk/event-types/${id}/draft`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json', ...who },
        body: JSON.stringify(body),
      })
    expect((await put({ basedOn: version, definition: draft })).status).toBe(200)
    expect((await put({ basedOn: version, definition: withSettings(definition, { seats: 0 }) })).status).toBe(400)
    expect((await bench(id)).draft).toMatchObject({ basedOn: version, definition: { settings: { seats: 4 } } })
    expect((await bench(id, coordinator)).draft).toBeNull()
    expect((await page('asked')).body.eventType.seats).toBe(1)
    expect((await publish(id, version, draft)).status).toBe(200)
    expect((await bench(id)).draft).toBeNull()
    expect((await page('asked')).body.eventType.seats).toBe(4)
  })
})

describe('the list', () => {
  it('begins drafts, duplicates, puts in order, and puts away', async () => {
    const { body: created } = await post(`${app}/api/desk/event-types`, { name: 'First talk, à deux' }, coordinator)
    const { definition } = await bench(created.id)
    expect(definition).toMatchObject({ slug: 'first-talk-a-deux', state: 'draft', chairs: [{ hosts: [{}] }] })
    const talk = await idOf('talk')
    const { body: copy } = await post(`${app}/api/desk/event-types/${talk}/duplicate`, {}, owner)
    const copied = await bench(copy.id)
    expect(copied.definition).toMatchObject({ state: 'draft', settings: { name: 'talk (copy)' } })
    expect(copied.definition.chairs[0].id).not.toBe((await bench(talk)).definition.chairs[0].id)

    const order = [copy.id, talk]
    expect((await post(`${app}/api/desk/event-types/order`, { ids: order }, owner)).status).toBe(200)
    expect((await rows()).slice(0, 2).map(row => row.id)).toEqual(order)
    expect((await post(`${app}/api/desk/event-types/order`, { ids: [randomUUID()] }, owner)).status).toBe(422)

    expect((await page('talk')).status).toBe(200)
    await post(`${app}/api/desk/event-types/${talk}/archive`, { archived: true }, owner)
    expect((await page('talk')).status).toBe(404)
    expect((await rows()).find(row => row.id === talk)?.archived).toBe(true)
    await post(`${app}/api/desk/event-types/${talk}/archive`, { archived: false }, owner)
    expect((await page('talk')).status).toBe(200)
    expect((await post(`${app}/api/desk/event-types/${talk}/archive`, { archived: true }, host)).status).toBe(403)
  })

  it('says that a host is needed first where nobody hosts', async () => {
    const hostless = await makeWorkspace(context, { hosts: 0, eventTypes: [] })
    const { status, body } = await post(`${app}/api/desk/event-types`, { name: 'Talk' }, await signIn(app, hostless.owner))
    expect([status, body.reason]).toEqual([409, 'nobodyHosts'])
  })
})

describe('hours', () => {
  it('are changed over what was read, by those who may, and close on chosen holidays', async () => {
    const { body: plans } = await call(`${app}/api/desk/hours`, { headers: owner })
    const where = `${app}/api/desk/hours/${plans[0].id}`
    const { body: view } = await call(where, { headers: owner })
    expect(view).toMatchObject({ mayChange: true, version: 1 })
    expect(view.usedBy.map((item: { name: string }) => item.name)).toContain('talk')
    const christmas = `${new Date().getUTCFullYear()}-12-25`
    const { body: dates } = await call(`${app}/api/desk/holidays/dates?country=PT`, { headers: owner })
    expect(dates).toContainEqual({ date: christmas, name: 'Christmas Day' })
    const plan = { ...view.plan, holidays: [{ country: 'PT', region: null }] }
    expect(
      await post(where, { basedOn: 1, name: 'Hours', plan: { ...plan, weekly: [{ days: ['MO'], from: '12:00', to: '09:00' }] } }, owner),
    ).toMatchObject({ status: 400, body: { errors: [{ path: 'plan.weekly.0.to' }] } })
    expect((await post(where, { basedOn: 1, name: 'Hours', plan }, host)).status).toBe(403)
    for (const item of plans)
      expect((await post(`${app}/api/desk/hours/${item.id}`, { basedOn: 1, name: 'Hours', plan }, coordinator)).status).toBe(200)
    expect((await post(where, { basedOn: 1, name: 'Hours', plan }, owner)).status).toBe(409)
    const query = new URLSearchParams({ from: christmas, to: christmas, timeZone: 'Europe/Lisbon' })
    expect((await call(`${app}/api/public/${workspace.slug}/talk/openings?${query}`)).body.openings).toEqual([])
    expect((await call(`${app}/api/desk/holidays/dates?country=portugal`, { headers: owner })).status).toBe(400)
  })
})

describe('a beginning', () => {
  it('takes an address once, and opens a page in the hours that were answered', async () => {
    const person = {
      workspace: 'Desk',
      name: 'Ines Cardoso',
      email: `${randomUUID()}@place.example`,
      password: 'marble under the snow',
      timeZone: 'Europe/Lisbon',
    }
    expect(await post(`${app}/api/desk/sign-up`, { ...person, password: 'short' })).toMatchObject({
      status: 400,
      body: { errors: [{ path: 'password' }] },
    })
    const both = await Promise.all(
      [0, 1].map(() =>
        fetch(`${app}/api/desk/sign-up`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(person) }),
      ),
    )
    // Whether an address is known is told to nobody but the address itself.
    expect(both.map(response => response.status)).toEqual([200, 200])
    const confirmed = await fetch(`${app}/api/desk/confirm`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ token: new URL(await confirmationLink(person.email)).searchParams.get('token'), password: person.password }),
    })
    expect(await confirmed.json()).toMatchObject({ confirmed: true })
    const cookie = sessionCookie(confirmed)
    const begin = (body: object) =>
      post(`${app}/api/desk/begin`, { days: ['MO', 'WE'], from: '10:00', to: '12:00', timeZone: 'Asia/Kolkata', ...body }, { cookie })
    expect(await begin({ days: [] })).toMatchObject({
      status: 400,
      body: { errors: [{ path: 'days', code: 'tooFew', message: 'At least one is required' }] },
    })
    expect(await begin({ to: '09:00' })).toMatchObject({ status: 400, body: { errors: [{ path: 'to' }] } })
    expect(await begin({ to: '25:00' })).toMatchObject({ status: 400 })
    const { status, body } = await begin({})
    expect(status).toBe(200)
    expect(body.page).toMatch(/\/desk-\d+\/meeting-with-ines$/)
    const starts = await startsOf(app, new URL(body.page).pathname.slice(1), 1, 13)
    expect(starts.length).toBeGreaterThan(8)
    for (const start of starts) expect(start).toMatch(/T(04:30|05:00|05:30|06:00):00Z$/)
  })
})
