import sharp from 'sharp'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import type { HostView } from '../core/views/host'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { book, call, post, request, signIn } from './support/http'
import { addMember, makeWorkspace, type TestWorkspace } from './support/workspace'

/** One host's page: profile, picture, days away, and the page that clients see. */

const app = inject('app')
let context: Context
let workspace: TestWorkspace
let owner: { cookie: string }
let hostId: string
const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]

beforeAll(async () => {
  context = await makeContext(inject('environment'))
  workspace = await makeWorkspace(context, {
    hosts: 2, zone: 'UTC', hours: 'Mo-Su 09:00-11:00',
    eventTypes: [
      { slug: 'alone', settings: { places, durations: [60], startEveryMinutes: 60 }, hosts: [0] },
      { slug: 'shared', settings: { places } },
      { slug: 'replaced', settings: { places, durations: [60], startEveryMinutes: 60 }, hosts: [0] },
    ],
  })
  owner = await signIn(app, workspace.owner)
  hostId = workspace.hosts[0]?.id ?? ''
})
afterAll(() => closeContext(context))

const view = async (headers = owner, id = hostId) => (await call(`${app}/api/desk/hosts/${id}`, { headers })).body as HostView
const save = (basedOn: number, profile: object, headers = owner, id = hostId) => post(`${app}/api/desk/hosts/${id}`, { basedOn, ...profile }, headers)
const upload = (bytes: Buffer, type = 'image/png') =>
  call(`${app}/api/desk/hosts/${hostId}/picture`, { method: 'PUT', headers: { ...owner, 'content-type': type }, body: new Uint8Array(bytes) })
async function daysOffered(slug: string): Promise<string[]> {
  const { body } = await call(`${app}/api/public/${workspace.slug}/${slug}/openings?from=2031-03-03&to=2031-03-09&timeZone=UTC`)
  return [...new Set<string>(body.openings.map((opening: { start: string }) => opening.start.slice(8, 10)))]
}

it('is away on the days it names, in every event type, and the reason is told', async () => {
  const { profile } = await view()
  const away = [{ from: '2031-03-04', to: '2031-03-05', note: 'Fair' }, { from: '2031-03-08', to: '2031-03-08', note: '' }]
  expect((await save(1, { ...profile, away: [{ from: '2031-03-05', to: '2031-03-04', note: '' }] })).body.errors).toMatchObject([{ path: 'away.0.to' }])
  expect((await save(1, { ...profile, away: [{ from: '2031-03-05', to: '2033-03-04', note: '' }] })).body.errors).toMatchObject([{ code: 'awayTooLong' }])
  expect((await save(1, { ...profile, away })).status).toBe(200)
  expect(await daysOffered('alone')).toEqual(['03', '06', '07', '09'])
  // Hours that the event type puts in their place do not call a host back.
  const [, , row] = (await call(`${app}/api/desk/event-types`, { headers: owner })).body
  const bench = (await call(`${app}/api/desk/event-types/${row.id}`, { headers: owner })).body
  const hours = { mode: 'replace', plan: { ...bench.time[0].plans[0].plan, holidays: [] } }
  const definition = { ...bench.definition, settings: { ...bench.definition.settings, hours } }
  expect((await post(`${app}/api/desk/event-types/${row.id}/publish`, { basedOn: 1, definition }, owner)).status).toBe(200)
  expect(await daysOffered('replaced')).toEqual(['03', '06', '07', '09'])
  const taken = await book(app, `${workspace.slug}/alone`, request('2031-03-04T09:00:00Z'))
  expect([taken.status, taken.body.nearest.some(({ start }: { start: string }) => /-0[45]T/.test(start))]).toEqual([409, false])
})

it('keeps nothing of a picture but its pixels, and refuses what is none', async () => {
  const photo = await sharp({ create: { width: 900, height: 600, channels: 3, background: '#884422' } })
    .withExif({ IFD0: { Copyright: 'Somebody', ImageDescription: 'At home' } }).jpeg().toBuffer()
  expect((await sharp(photo).metadata()).exif).toBeDefined()
  const made = await upload(photo, 'image/jpeg')
  expect(made.status).toBe(200)
  expect((await view()).picture).toBe(made.body.picture)
  for (const [size, pixels] of [['small', 96], ['large', 384]] as const) {
    const answer = await fetch(`${app}/assets/pictures/${made.body.picture}-${size}.webp`)
    expect([answer.status, answer.headers.get('content-type')]).toEqual([200, 'image/webp'])
    expect(answer.headers.get('cache-control')).toContain('immutable')
    const { format, width, height, exif } = await sharp(Buffer.from(await answer.arrayBuffer())).metadata()
    expect({ format, width, height, exif }).toEqual({ format: 'webp', width: pixels, height: pixels, exif: undefined })
  }
  const svg = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="10" height="10"><script>1</script></svg>')
  const bomb = await sharp({ create: { width: 9000, height: 9000, channels: 3, background: '#000' }, limitInputPixels: false }).png().toBuffer()
  for (const bytes of [svg, bomb, photo.subarray(0, 400), Buffer.from('GIF89a'), Buffer.alloc(0)])
    expect((await upload(bytes)).body.errors).toMatchObject([{ path: 'picture', code: 'notAPicture' }])
  expect((await upload(Buffer.alloc(9 * 1024 * 1024))).status).toBe(413)
  expect((await view()).picture, 'the one there was stays').toBe(made.body.picture)
  for (const name of [`${made.body.picture}-huge.webp`, `${'0'.repeat(40)}-small.webp`, '..%2f..%2fetc%2fpasswd'])
    expect((await fetch(`${app}/assets/pictures/${name}`)).status).toBe(404)
  expect((await call(`${app}/api/desk/hosts/${hostId}/picture`, { method: 'DELETE', headers: owner })).status).toBe(200)
  expect((await fetch(`${app}/assets/pictures/${made.body.picture}-small.webp`)).status).toBe(404)
})

it('has a page for clients with what is booked with them for certain, at an address of their own', async () => {
  const slug = 'host-of-doors'
  const before = await view()
  expect((await call(`${app}/api/public/${workspace.slug}/with/${slug}`)).status).toBe(404)
  expect((await save(before.version, { ...before.profile, slug, about: '<b>Binds</b>', phone: '+351 21 345 6789' })).status).toBe(200)
  expect((await view()).profile.phone).toBe('+351213456789')
  const page = await call(`${app}/api/public/${workspace.slug}/with/${slug}`)
  expect(page.body.host).toMatchObject({ name: 'Host 0', about: '<b>Binds</b>', picture: null })
  expect(JSON.stringify(page.body)).not.toContain('+35121')
  expect(page.body.eventTypes.map((item: { slug: string, isChoice: boolean }) => [item.slug, item.isChoice])).toEqual([['alone', false], ['replaced', false]])
  const html = await call(`${app}/${workspace.slug}/with/${slug}`)
  expect([html.status, html.body.includes('&lt;b&gt;Binds')]).toEqual([200, true])

  // Another host cannot have the same address, two people who save at once notice, and a host changes only themselves.
  const other = workspace.hosts[1]?.id ?? ''
  const theirs = await view(owner, other)
  expect((await save(theirs.version, { ...theirs.profile, slug }, owner, other)).body.errors).toMatchObject([{ path: 'slug', code: 'addressTaken' }])
  const now = await view()
  const both = await Promise.all([save(now.version, { ...now.profile, about: 'One' }), save(now.version, { ...now.profile, about: 'Two' })])
  expect(both.map(answer => answer.status).sort()).toEqual([200, 409])
  const host = await signIn(app, await addMember(context, workspace, 'host', hostId))
  const own = await view(host)
  expect([own.own, own.mayChange, (await view(host, other)).mayChange]).toEqual([true, true, false])
  expect((await save(own.version, { ...own.profile, about: 'Mine' }, host)).status).toBe(200)
  expect((await save(1, theirs.profile, host, other)).status).toBe(404)
})

it('is named by clients who come from the page where they choose', async () => {
  const [, row] = (await call(`${app}/api/desk/event-types`, { headers: owner })).body
  const bench = (await call(`${app}/api/desk/event-types/${row.id}`, { headers: owner })).body
  const definition = { ...bench.definition, chairs: bench.definition.chairs.map((chair: object) => ({ ...chair, policy: 'client' })) }
  expect((await post(`${app}/api/desk/event-types/${row.id}/publish`, { basedOn: 1, definition }, owner)).status).toBe(200)
  const { body: page } = await call(`${app}/api/public/${workspace.slug}/with/host-of-doors`)
  expect(page.eventTypes.find((item: { slug: string }) => item.slug === 'shared')).toMatchObject({ isChoice: true })
  const { body: choice } = await call(`${app}/api/public/${workspace.slug}/shared`)
  expect(choice.eventType.hosts).toEqual([
    { id: hostId, name: 'Host 0', about: 'Mine', timeZone: 'UTC' }, { id: workspace.hosts[1]?.id, name: 'Host 1', timeZone: 'UTC' },
  ])
  const html = (await call(`${app}/${workspace.slug}/shared?host=${hostId}`)).body as string
  expect(html.split('class="chosen"')[1]).toContain('Host 0')
  expect((await call(`${app}/${workspace.slug}/shared?host=nobody`)).status).toBe(200)
})
