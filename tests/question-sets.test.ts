import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import type { Definition } from '../core/event-type/definition'
import type { SentBench, QuestionSetView } from '../core/views/event-types'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { book, call, post, request, signIn, startsOf } from './support/http'
import { addMember, makeWorkspace, type TestWorkspace } from './support/workspace'

/** Questions that several event types share. */

const app = inject('app')
const path = `${app}/api/desk/question-sets`
let context: Context
let workspace: TestWorkspace
let owner: { cookie: string }
beforeAll(async () => {
  context = await makeContext(inject('environment'))
  workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'talk' }, { slug: 'review' }, { slug: 'plain' }] })
  owner = await signIn(app, workspace.owner)
})
afterAll(() => closeContext(context))

const question = (key: string, more: object = {}) => ({ key, kind: 'text', label: `What about ${key}?`, required: false, ...more })
const sets = async (): Promise<QuestionSetView[]> => (await call(path, { headers: owner })).body
const setOf = async (id: string) => (await sets()).find(set => set.id === id)
async function createSet(name: string, ...keys: string[]) {
  const questions = keys.map(key => question(key))
  const { status, body } = await post(path, { name, questions }, owner)
  expect(status).toBe(200)
  return { id: body.id as string, name, questions }
}

async function benchOf(slug: string): Promise<SentBench> {
  const rows = (await call(`${app}/api/desk/event-types`, { headers: owner })).body as { id: string, slug: string }[]
  return (await call(`${app}/api/desk/event-types/${rows.find(row => row.slug === slug)?.id}`, { headers: owner })).body
}

const asking = (definition: Definition, questionSets: object[], more: object = {}) =>
  ({ ...definition, settings: { ...definition.settings, questionSets, ...more } })
async function publish(slug: string, questionSets: object[], more: object = {}) {
  const { id, version, definition } = await benchOf(slug)
  return post(`${app}/api/desk/event-types/${id}/publish`, { basedOn: version, definition: asking(definition, questionSets, more) }, owner)
}

const keysAsked = async (slug: string): Promise<string[]> =>
  (await call(`${app}/api/public/${workspace.slug}/${slug}`)).body.eventType.questions.map((asked: { key: string }) => asked.key)

it('a set is changed once for all who ask it, drafts included, and its answers are checked', async () => {
  const set = await createSet('Before we meet', 'light')
  expect((await publish('talk', [set], { questions: [question('own')] })).status).toBe(200)
  expect((await publish('review', [{ ...set, name: 'Stale', questions: [question('stale')] }])).status).toBe(200)
  expect([await keysAsked('talk'), await keysAsked('review')]).toEqual([['own', 'light'], ['light']])
  const { id, version, definition } = await benchOf('talk')
  await call(`${app}/api/desk/event-types/${id}/draft`, {
    method: 'PUT', headers: { ...owner, 'content-type': 'application/json' }, body: JSON.stringify({ basedOn: version, definition }),
  })

  const questions = [question('light'), question('heavy', { required: true })]
  const change = { basedOn: 1, name: 'Before', questions }
  expect(await post(`${path}/${set.id}`, change, owner)).toMatchObject({ status: 200, body: { version: 2 } })
  expect([await keysAsked('talk'), await keysAsked('review')]).toEqual([['own', 'light', 'heavy'], ['light', 'heavy']])
  expect((await benchOf('talk')).draft?.definition.settings.questionSets).toMatchObject([{ name: 'Before', questions }])
  const list = (await call(`${app}/api/desk/event-types`, { headers: owner })).body
  expect(list.find((row: { slug: string }) => row.slug === 'talk')).toMatchObject({ unpublishedChanges: 0 })
  expect((await setOf(set.id))?.usedBy.map(({ name }) => name).sort()).toEqual((await Promise.all(['talk', 'review'].map(benchOf)))
    .map(bench => bench.definition.settings.name).sort())

  const [start = ''] = await startsOf(app, `${workspace.slug}/review`, 3)
  const refused = await book(app, `${workspace.slug}/review`, request(start))
  expect([refused.status, refused.body.errors[0].path]).toEqual([422, 'answers.heavy'])
  expect((await book(app, `${workspace.slug}/review`, request(start, { answers: { heavy: 'Very' } }))).status).toBe(201)
})

it('refuses to overwrite what another saved, to delete what is asked, and what is not the workspace’s', async () => {
  const set = await createSet('Insurance', 'insurer')
  await publish('plain', [set])
  await post(`${path}/${set.id}`, { basedOn: 1, name: 'Cover', questions: set.questions }, owner)
  const late = await post(`${path}/${set.id}`, { basedOn: 1, name: 'Mine', questions: set.questions }, owner)
  expect([late.status, late.body.reason]).toEqual([409, 'questionSetChanged'])
  const remove = (who: Record<string, string>) => call(`${path}/${set.id}`, { method: 'DELETE', headers: who })
  expect(await remove(owner)).toMatchObject({ status: 409, body: { reason: 'questionSetInUse' } })
  const other = await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'theirs' }] })
  const stranger = await signIn(app, other.owner)
  expect((await remove(stranger)).status).toBe(404)
  expect((await post(`${path}/${set.id}`, { basedOn: 2, name: 'Theirs', questions: set.questions }, stranger)).status).toBe(404)
  const host = await signIn(app, await addMember(context, workspace, 'host'))
  expect([(await remove(host)).status, (await call(path, { headers: host })).status]).toEqual([403, 200])
  expect(await setOf(set.id)).toMatchObject({ name: 'Cover', version: 2 })
  expect((await post(path, { name: 'Empty', questions: [] }, owner)).body.errors[0].path).toBe('questions')

  expect((await publish('plain', [])).status).toBe(200)
  expect((await remove(owner)).status).toBe(200)
  expect((await publish('plain', [set])).body.errors).toMatchObject([{ path: 'definition.settings.questionSets.0', code: 'unknownQuestionSet' }])
})

it('never asks two questions under one key', async () => {
  const set = await createSet('Keys', 'twice')
  expect((await publish('plain', [set], { questions: [question('twice')] })).body.errors).toMatchObject([{ code: 'keyTaken' }])
  expect((await publish('plain', [set], { questions: [question('once')] })).status).toBe(200)
  const change = { basedOn: 1, name: 'Keys', questions: [question('new'), question('once')] }
  expect((await post(`${path}/${set.id}`, change, owner)).body.errors).toMatchObject([{ path: 'questions.1.key', code: 'keyTaken' }])
  await publish('plain', [], { questions: [] })
})

it('published and deleted at once, a set is either asked or gone', async () => {
  for (let round = 0; round < 6; round++) {
    const set = await createSet(`Round ${round}`, 'round')
    const [published, deleted] = await Promise.all([
      publish('plain', [set]),
      call(`${path}/${set.id}`, { method: 'DELETE', headers: owner }),
    ])
    expect([[200, 409], [422, 200]]).toContainEqual([published.status, deleted.status])
    expect(await keysAsked('plain')).toEqual(published.status === 200 ? ['round'] : [])
    if (published.status === 200) await publish('plain', [])
  }
})
