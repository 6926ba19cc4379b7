import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import type { WorkspaceSettingsView } from '../core/workspace'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { book, call, request, signIn, startsOf } from './support/http'
import { makeWorkspace } from './support/workspace'

const app = inject('app')
let context: Context
beforeAll(async () => (context = await makeContext(inject('environment'))))
afterAll(() => closeContext(context))

const put = (who: { cookie: string }, body: object) => call(`${app}/api/desk/workspace`, {
  method: 'PUT', headers: { 'content-type': 'application/json', ...who }, body: JSON.stringify(body),
})

it('a workspace changes its name and its address; the old one goes on leading to it, and belongs to nobody else', async () => {
  const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]
  const workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'talk', settings: { places } }] })
  const other = await makeWorkspace(context, { hosts: 0, eventTypes: [] })
  const [owner, stranger] = [await signIn(app, workspace.owner), await signIn(app, other.owner)]
  const view = async (who = owner) => (await call(`${app}/api/desk/workspace`, { headers: who })).body as WorkspaceSettingsView
  const { base: _base, earlier, ...settings } = await view()
  expect([settings.slug, settings.countsCancelled, earlier]).toEqual([workspace.slug, false, []])
  const moved = { ...settings, name: 'Harbour Binders', about: 'We bind.', slug: `moved-${workspace.slug}` }
  expect((await put(owner, moved)).status).toBe(200)
  expect((await view()).earlier).toEqual([workspace.slug])
  for (const slug of [moved.slug, workspace.slug]) {
    const page = await call(`${app}/api/public/${slug}`)
    expect([page.status, page.body.workspace.name, page.body.workspace.slug]).toEqual([200, 'Harbour Binders', moved.slug])
    const html = await call(`${app}/${slug}`)
    expect([html.status, html.body.includes('Harbour Binders')]).toEqual([200, true])
    const [start = ''] = await startsOf(app, `${slug}/talk`)
    expect((await book(app, `${slug}/talk`, request(start))).status).toBe(201)
  }
  const { base: _b, earlier: _e, ...theirs } = await view(stranger)
  for (const slug of [workspace.slug, moved.slug]) {
    expect((await put(stranger, { ...theirs, slug })).body.errors).toMatchObject([{ path: 'slug', code: 'workspaceAddressTaken' }])
  }
  expect((await put(stranger, { ...theirs, slug: 'desk' })).body.errors).toMatchObject([{ code: 'workspaceAddressReserved' }])
  expect((await put(stranger, { ...theirs, name: ' ' })).status).toBe(400)
  const back = await Promise.all([put(owner, { ...moved, slug: workspace.slug }), put(stranger, { ...theirs, slug: moved.slug })])
  expect(back[0].status).toBe(200)
  expect(back[1].status, 'it is the earlier one now, or still the present one').toBe(422)
  expect((await view()).earlier).toEqual([moved.slug])
})
