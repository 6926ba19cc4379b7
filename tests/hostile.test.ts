import { randomUUID } from 'node:crypto'
import fc from 'fast-check'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import type { QuestionKind } from '../core/intake'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { call, request, signIn, startsOf } from './support/http'
import { type Json, nasty, spoiled } from './support/spoil'
import { makeWorkspace, plan, type TestWorkspace } from './support/workspace'

/** Bodies and queries that fit, with one thing in them replaced by something nasty: whoever sends it is told, and nothing breaks. */

const app = inject('app')
let context: Context
let workspace: TestWorkspace
let owner: Record<string, string>
let calls: Hostile[]

interface Hostile {
  method: string
  path: string
  headers?: () => Record<string, string>
  /** A body that fits, or the words of a query that does. */
  body?: () => Promise<Json> | Json
  query?: Record<string, string>
}

const questions = (
  ['text', 'paragraph', 'email', 'phone', 'choice', 'choices', 'yesNo', 'date', 'number'] as const satisfies readonly QuestionKind[]
).map(kind => ({
  key: kind,
  kind,
  label: `A ${kind}`,
  required: false,
  ...(kind === 'choice' || kind === 'choices' ? { options: ['one', 'two'].map(value => ({ value, label: value })) } : {}),
}))
const answers = {
  text: 'x',
  paragraph: 'x\ny',
  email: 'a@b.example',
  phone: '+351 912 345 678',
  choice: 'one',
  choices: ['one'],
  yesNo: true,
  date: '2027-03-08',
  number: 3,
}

beforeAll(async () => {
  context = await makeContext(inject('environment'))
  const place = { key: 'studio', kind: 'address' as const, label: 'studio', detail: 'Pátio do Prelo 7' }
  workspace = await makeWorkspace(context, {
    hosts: 2,
    eventTypes: [{ slug: 'talk', settings: { places: [place], questions, guests: true, seats: 50 } }],
  })
  owner = await signIn(app, workspace.owner)
  const read = async (path: string) => (await call(app + path, { headers: owner })).body
  const { id } = (await read('/api/desk/event-types'))[0]
  const hours = (await read('/api/desk/hours'))[0].id
  const [start = ''] = await startsOf(app, `${workspace.slug}/talk`)
  const page = `/api/public/${workspace.slug}/talk`
  const signedIn = () => owner
  const definition = async () => {
    const bench = await read(`/api/desk/event-types/${id}`)
    return { basedOn: bench.version, definition: bench.definition }
  }
  const kept = {
    ...plan('Mo-Fr 09:00-12:00,13:00-17:00', 'Europe/Lisbon'),
    recurring: [{ rrule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TH', start: '2027-03-08', from: '18:00', to: '19:00' }],
    exceptions: [{ date: '2027-03-09', windows: [{ from: '10:00', to: '11:00' }] }],
    holidays: [{ country: 'PT', region: null }],
  }
  calls = [
    {
      method: 'POST',
      path: `${page}/bookings`,
      headers: () => ({ 'idempotency-key': randomUUID() }),
      body: () =>
        ({
          ...request(start),
          answers,
          place: 'studio',
          guests: [{ email: `${randomUUID()}@guest.example`, name: 'Guest' }],
          source: 'newsletter',
        }) as Json,
    },
    { method: 'POST', path: `/api/public/bookings/${randomUUID()}/cancel`, body: () => ({ reason: 'Ill' }) },
    {
      method: 'GET',
      path: `${page}/openings`,
      query: { from: '2027-03-08', to: '2027-03-12', timeZone: 'Asia/Kolkata', duration: '30', host: randomUUID() },
    },
    { method: 'POST', path: '/api/desk/event-types', headers: signedIn, body: () => ({ name: 'Another' }) },
    { method: 'POST', path: '/api/desk/event-types/order', headers: signedIn, body: () => ({ ids: [id] }) },
    { method: 'POST', path: `/api/desk/event-types/${id}/archive`, headers: signedIn, body: () => ({ archived: false }) },
    { method: 'POST', path: `/api/desk/event-types/${id}/publish`, headers: signedIn, body: definition },
    { method: 'PUT', path: `/api/desk/event-types/${id}/draft`, headers: signedIn, body: definition },
    {
      method: 'POST',
      path: `/api/desk/hours/${hours}`,
      headers: signedIn,
      body: async () => ({ basedOn: (await read(`/api/desk/hours/${hours}`)).version, name: 'Hours', plan: kept as unknown as Json }),
    },
    {
      method: 'POST',
      path: '/api/desk/begin',
      headers: signedIn,
      body: () => ({ days: ['MO'], from: '09:00', to: '17:00', timeZone: 'Europe/Lisbon' }),
    },
    {
      method: 'POST',
      path: `/api/desk/bookings/${randomUUID()}/close`,
      headers: signedIn,
      body: () => ({ state: 'cancelled', reason: 'Ill' }),
    },
    { method: 'GET', path: '/api/desk/today', headers: signedIn, query: { timeZone: 'UTC', date: '2027-03-08' } },
    { method: 'GET', path: '/api/desk/holidays/dates', headers: signedIn, query: { country: 'PT', region: '' } },
  ]
})
afterAll(() => closeContext(context))

async function send({ method, path, headers, body, query }: Hostile, where: number, by: Json) {
  const sent = { ...headers?.(), 'content-type': 'application/json' }
  if (query) {
    const names = Object.keys(query)
    const text = typeof by === 'string' ? by : JSON.stringify(by)
    return call(`${app}${path}?${new URLSearchParams({ ...query, [names[where % names.length] ?? '']: text })}`, { method, headers: sent })
  }
  return call(app + path, { method, headers: sent, body: JSON.stringify(spoiled(await body?.() ?? null, where, by)) })
}

it('is answered with what is wrong, at every place of every call', async () => {
  const answered = new Map<number, number>()
  await fc.assert(fc.asyncProperty(fc.nat(), fc.nat(), fc.constantFrom(...nasty), async (which, where, by) => {
    const one = calls[which % calls.length] as Hostile
    const { status, type, body } = await send(one, where, by)
    answered.set(status, (answered.get(status) ?? 0) + 1)
    expect(status, `${one.method} ${one.path}: ${JSON.stringify(body).slice(0, 300)}`).toBeLessThan(500)
    if (status >= 400) {
      expect(type).toContain('application/problem+json')
      expect(body).toMatchObject({ status, title: expect.stringMatching(/./), detail: expect.stringMatching(/./) })
    }
  }), { numRuns: 400 })
  // What was taken in after all can be read and shown again.
  for (const path of [
    '/api/desk/event-types',
    '/api/desk/hours',
    '/api/desk/today?timeZone=UTC',
    `/api/public/${workspace.slug}`,
    `/${workspace.slug}`,
  ]) {
    expect((await call(app + path, { headers: owner })).status, path).toBe(200)
  }
  expect(answered.get(400) ?? 0, 'bodies that did not fit').toBeGreaterThan(100)
})
