import { z } from 'zod'
import { callTable } from './calls'

/** The HTTP interface as OpenAPI 3.1, made from the table of calls. */

const problem = {
  type: 'object',
  required: ['type', 'title', 'status', 'detail'],
  properties: {
    type: { type: 'string' },
    title: { type: 'string' },
    status: { type: 'integer' },
    detail: { type: 'string' },
    reason: { type: 'string', description: 'What went wrong this time, as a code; `values` go with it' },
    values: { type: 'object' },
    errors: {
      type: 'array',
      items: {
        type: 'object',
        properties: { path: { type: 'string' }, code: { type: 'string' }, values: { type: 'object' }, message: { type: 'string' } },
      },
    },
    nearest: {
      type: 'array',
      items: { type: 'object', properties: { start: { type: 'string' }, end: { type: 'string' }, seatsLeft: { type: 'integer' } } },
    },
  },
}

/** What the need for a signed-in member implies. */
const memberProblems = { 401: 'Nobody is signed in', 403: 'The member’s role does not allow it' }

/** Made once for each address: that takes a tenth of a second, and anybody may ask for it. */
const documents = new Map<string, ReturnType<typeof makeDocument>>()

export function openApiDocument(baseUrl: string) {
  const known = documents.get(baseUrl)
  if (known) return known
  const made = makeDocument(baseUrl)
  documents.set(baseUrl, made)
  return made
}

function makeDocument(baseUrl: string) {
  const paths: Record<string, Record<string, object>> = {}
  for (const [name, call] of Object.entries(callTable)) {
    const [method = '', path = ''] = name.split(' ')
    paths[path] = { ...paths[path], [method.toLowerCase()]: describeCall(path, call) }
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Temporia', version: '1', description: 'All JSON, UTF-8. Errors are problem documents (RFC 9457).' },
    servers: [{ url: baseUrl }],
    paths,
    components: { schemas: { Problem: problem } },
  }
}

const jsonSchema = (schema: z.ZodType, io: 'input' | 'output') => z.toJSONSchema(schema, { io, unrepresentable: 'any' })

function describeCall(
  path: string,
  { summary, right, body, upload, query, headers, answer, type, redirects, status, problems }: (typeof callTable)[string],
) {
  const asked = query ? jsonSchema(query, 'input') : null
  const parameters = [
    ...[...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({ name, in: 'path', required: true, schema: { type: 'string' } })),
    ...Object.entries(asked?.properties ?? {}).map(([name, schema]) => ({
      name,
      in: 'query',
      required: asked?.required?.includes(name) ?? false,
      schema,
    })),
    ...Object.entries(headers ?? {}).map(([name, description]) => ({
      name,
      in: 'header',
      required: true,
      description,
      schema: { type: 'string' },
    })),
  ]
  const success = redirects
    ? { 302: { description: 'Sent on' } }
    : status === '204' ? { 204: { description: 'Done' } }
      : { [status ?? '200']: { description: 'Done', content: { [type ?? 'application/json']: { schema: jsonSchema(answer, 'output') } } } }
  return {
    summary,
    ...(parameters.length > 0 ? { parameters } : {}),
    ...(body || upload ? {
      requestBody: {
        required: true,
        content: {
          ...(body ? { 'application/json': { schema: jsonSchema(body, 'input') } } : {}),
          ...Object.fromEntries((upload ?? []).map(each => [each, {}])),
        },
      },
    } : {}),
    responses: {
      ...success,
      ...Object.fromEntries(
        Object.entries({ ...(right ? memberProblems : {}), ...problems }).map(([code, description]) => [
          code,
          { description, content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } } },
        ]),
      ),
    },
  }
}
