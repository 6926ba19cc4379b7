import { randomUUID } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import fc from 'fast-check'
import type { Context } from '../server/context'
import { sessions } from '../server/database/schema'
import { callTable } from '../server/http/calls'
import { closeContext, makeContext } from '../server/start'
import { campaign, timeLimit } from './support/campaign'
import { book, call, post, request, signIn, startsOf } from './support/http'
import { type Json, nasty, spoiled } from './support/spoil'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/** The described interface: every route is in it, and every described call stands whatever it is sent. */

const app = inject('app')
let context: Context
let workspace: TestWorkspace
let document: { paths: Record<string, Record<string, Described>> }

interface Schema {
  type?: string | string[]
  properties?: Record<string, Schema>
  required?: string[]
  items?: Schema
  enum?: Json[]
  const?: Json
  anyOf?: Schema[]
  oneOf?: Schema[]
  allOf?: Schema[]
  pattern?: string
  format?: string
  minItems?: number
}

interface Described {
  parameters?: { name: string, in: string, schema: Schema }[]
  /** Bytes have a type of their own and no schema. */
  requestBody?: { content: { 'application/json'?: { schema: Schema } } }
}

beforeAll(async () => {
  context = await makeContext(inject('environment'))
  const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]
  workspace = await makeWorkspace(context, { hosts: 2, eventTypes: [{ slug: 'talk', settings: { places, seats: 40 } }] })
  document = (await call(`${app}/api/openapi.json`)).body
})
afterAll(() => closeContext(context))

/** Routes as the framework finds them: `[name].get.ts` below a folder that is the address. */
function routesIn(folder: string, prefix: string): { call: string, file: string }[] {
  return readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter(name => /\.(get|post|put|patch|delete)\.ts$/.test(name))
    .map((name) => {
      const [, path = '', method = ''] = /^(.*)\.(get|post|put|patch|delete)\.ts$/.exec(name) ?? []
      return {
        call: `${method} ${prefix}/${path.replace(/(^|\/)index$/, '').replace(/\[(\w+)\]/g, '{$1}')}`.replace(/\/$/, ''),
        file: join(folder, name),
      }
    })
}

describe('the document', () => {
  const routes = [...routesIn('server/api', '/api'), ...routesIn('server/routes', '')]
  const described = () =>
    Object.entries(document.paths).flatMap(([path, methods]) =>
      Object.entries(methods).map(([method, about]) => ({ call: `${method} ${path}`, about })),
    )

  it('names every route, and no other', () => {
    expect(described().map(item => item.call).sort()).toEqual(routes.map(route => route.call).sort())
  })

  it('gives the body of every route that reads one, and the query of every route that checks one', () => {
    for (const { call: name, file } of routes) {
      const source = readFileSync(file, 'utf8')
      const about = described().find(item => item.call === name)?.about
      expect(about?.requestBody !== undefined, `${name} reads a body`).toBe(/readBodyOf\(|readBytes\(/.test(source))
      expect(about?.parameters?.some(parameter => parameter.in === 'query') ?? false, `${name} reads a query`).toBe(
        source.includes('getQuery('),
      )
    }
  })

  it('binds every route to its row: who may make the call, and what it answers', () => {
    for (const { call: name, file } of routes) {
      const [method = '', path = ''] = name.split(' ')
      const source = readFileSync(file, 'utf8')
      if (!source.includes('defineEventHandler(')) expect(source, file).toContain(`Call('${method.toUpperCase()} ${path}', `)
      expect(callTable[`${method.toUpperCase()} ${path}`], name).toBeDefined()
    }
  })
})

/** Ids of things that are there, of all kinds, so that a body often names a thing of another kind than is meant. */
let ids: string[] = []
let nextId = 0

/** A value that may fit a schema, made from it alone. */
function sample(schema: Schema): Json {
  if (schema.const !== undefined) return schema.const
  if (schema.enum) return schema.enum[0] ?? null
  const [option] = schema.anyOf ?? schema.oneOf ?? schema.allOf ?? []
  if (option) return sample(option)
  switch (Array.isArray(schema.type) ? schema.type[0] : schema.type) {
    case 'object':
      return Object.fromEntries(Object.entries(schema.properties ?? {}).map(([name, inner]) => [name, sample(inner)]))
    case 'array':
      return schema.items && (schema.minItems ?? 1) > 0 ? [sample(schema.items)] : []
    case 'integer':
    case 'number':
      return 1
    case 'boolean':
      return true
    case 'null':
      return null
    default:
      return schema.format === 'email'
        ? 'a@b.example'
        : schema.format === 'uuid'
          ? ids[nextId++ % ids.length] ?? randomUUID()
          : schema.pattern?.includes('\\d{2}:')
            ? '2027-03-08T09:00:00Z'
            : 'x'
  }
}

/** Calls that would take the ground from under the others: signing out, going elsewhere, and making workspaces without end. */
const LEFT_OUT = new Set([
  'post /api/desk/sign-out', 'post /api/desk/sign-up', 'post /api/desk/workspaces', 'post /api/desk/workspaces/{id}/enter',
  // It goes on for minutes.
  'get /api/public/bookings/{token}/events',
])
const RUNS = campaign(1000, 20_000)

it(`stands ${RUNS.toLocaleString('en')} calls made from the document: no error of ours, no wait, no growth`, async () => {
  const owner = await signIn(app, workspace.owner)
  const [eventType] = (await call(`${app}/api/desk/event-types`, { headers: owner })).body
  const [hours] = (await call(`${app}/api/desk/hours`, { headers: owner })).body
  const path = `${workspace.slug}/talk`
  const booked = (await book(app, path, request((await startsOf(app, path))[0] ?? ''))).body
  const inGroup = workspace.hosts.map(({ id }) => ({ id, weight: 1 }))
  const group = (await post(`${app}/api/desk/groups`, { name: 'Both', hosts: inGroup }, owner)).body.id
  const { definition, version } = (await call(`${app}/api/desk/event-types/${eventType.id}`, { headers: owner })).body
  const drawing = { ...definition.chairs[0], groups: [{ id: group, name: 'Both' }], hosts: inGroup.map(host => ({ ...host, name: '', group })) }
  await post(`${app}/api/desk/event-types/${eventType.id}/publish`, { basedOn: version, definition: { ...definition, chairs: [drawing] } }, owner)
  const [session] = await context.db.select().from(sessions).where(eq(sessions.workspaceId, workspace.id))
  ids = [eventType.id, hours.id, booked.booking.id, session?.id ?? '', group, ...workspace.hosts.map(({ id }) => id), randomUUID()]
  const known = [...ids, '1', 'x', '..', '%00', '%']
  const token = new URL(booked.manage).pathname.split('/').at(-1) ?? ''
  const params: Record<string, string[]> = {
    workspace: [workspace.slug, 'nowhere', '%ff', '..'],
    eventType: ['talk', 'nothing', '\u0000'],
    occasion: ['booked', 'moved', 'own', 'x'],
    audience: ['client', 'host', 'x'],
    token: [token, `${token.slice(0, -1)}x`, 'x'],
    id: known,
  }
  const calls = Object.entries(document.paths)
    .flatMap(([path, methods]) => Object.entries(methods).map(([method, about]) => ({ method, path, about })))
    .filter(({ method, path }) => !LEFT_OUT.has(`${method} ${path}`))
  const real: Record<string, () => Promise<Json> | Json> = {
    // Guessing at one account is slowed down on purpose.
    'post /api/desk/sign-in': () => ({ email: `${randomUUID()}@place.example`, password: 'a guess' }),
    'post /api/public/{workspace}/{eventType}/bookings': async () => ({ ...request(booked.booking.start) } as Json),
    'put /api/desk/event-types/{id}/draft': async () => {
      const bench = (await call(`${app}/api/desk/event-types/${eventType.id}`, { headers: owner })).body
      return { basedOn: bench.version, definition: bench.definition }
    },
  }
  real['post /api/desk/event-types/{id}/publish'] = real['put /api/desk/event-types/{id}/draft'] as () => Promise<Json>

  const slow: string[] = []
  const memory: number[] = []
  const statuses = new Map<number, number>()
  const answeredAsDescribed = new Set<string>()
  let made = 0
  await fc.assert(
    fc.asyncProperty(
      fc.nat(),
      fc.nat(),
      fc.nat(),
      fc.constantFrom(...nasty),
      fc.boolean(),
      fc.boolean(),
      async (which, where, param, by, spoil, signedIn) => {
        const { method, path, about } = calls[which % calls.length] as (typeof calls)[number]
        const filled = path.replace(/\{(\w+)\}/g, (_, name: string) =>
          encodeURIComponent(params[name]?.[param % (params[name]?.length ?? 1)] ?? 'x').replaceAll('%25', '%'),
        )
        const queries = about.parameters?.filter(parameter => parameter.in === 'query') ?? []
        const query = new URLSearchParams(
          queries.map(({ name, schema }, index) => [
            name,
            spoil && index === where % queries.length
              ? String(typeof by === 'object' ? JSON.stringify(by) : by)
              : name === 'timeZone'
                ? 'Asia/Kolkata'
                : name === 'from'
                  ? '2027-03-08'
                  : name === 'to'
                    ? '2027-03-12'
                    : String(sample(schema)),
          ]),
        )
        const schema = about.requestBody?.content['application/json']?.schema
        const fitting = schema && ((await real[`${method} ${path}`]?.()) ?? sample(schema))
        const body = fitting === undefined ? undefined : JSON.stringify(spoil ? spoiled(fitting, where, by) : fitting)
        const headers = { ...(signedIn ? owner : {}), 'content-type': 'application/json', 'idempotency-key': randomUUID() }
        const startedAt = performance.now()
        const answer = await call(`${app}${filled}${queries.length > 0 ? `?${query}` : ''}`, {
          method: method.toUpperCase(),
          headers,
          redirect: 'manual',
          ...(body === undefined || method === 'get' ? {} : { body }),
        })
        const taken = performance.now() - startedAt
        statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1)
        expect(
          answer.status,
          `${method} ${filled}?${query}: ${JSON.stringify(answer.body).slice(0, 300)}\n${body?.slice(0, 500)}`,
        ).toBeLessThan(500)
        const row = callTable[`${method.toUpperCase()} ${path}`]
        if (answer.status < 300 && !row?.redirects) {
          expect(row?.answer.safeParse(answer.body).error?.issues ?? [], `the answer of ${method} ${filled} is as described`).toEqual([])
          answeredAsDescribed.add(`${method} ${path}`)
        }
        if (answer.status >= 400) expect(answer.type, `${method} ${filled}`).toContain('application/problem+json')
        if (taken > timeLimit(1000)) slow.push(`${method} ${filled} took ${Math.round(taken)} ms`)
        if (++made % Math.ceil(RUNS / 10) === 0) memory.push(residentMegabytes())
      },
    ),
    { numRuns: RUNS, endOnFailure: true },
  )

  expect(slow).toEqual([])
  expect(answeredAsDescribed.size).toBeGreaterThan(15)
  expect(statuses.get(400) ?? 0, JSON.stringify([...statuses])).toBeGreaterThan(RUNS / 20)
  expect(statuses.get(200) ?? 0, JSON.stringify([...statuses])).toBeGreaterThan(RUNS / 20)
  // What is remembered fills up first; after that nothing may pile up call by call.
  const [middle = 0, last = 0] = [Math.max(...memory.slice(3, 6)), memory.at(-1)]
  expect(last, `resident megabytes along the way: ${memory.join(', ')}`).toBeLessThan(middle * 1.25 + 60)
}, campaign(300_000, 3_600_000))

/** Of the process that serves the application. */
function residentMegabytes(): number {
  const status = readFileSync(`/proc/${inject('serverPid')}/status`, 'utf8')
  return Math.round(Number(/VmRSS:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1024)
}
