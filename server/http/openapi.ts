import { z } from 'zod'
import { bookingRequestSchema } from '../booking'

/** The HTTP interface described as OpenAPI 3.1: each call once, its body from the schema that checks it. */

interface Call {
  summary: string
  body?: z.ZodType
  query?: Record<string, string>
  /** Statuses beside 200 and what they mean. */
  answers?: Record<string, string>
  /** Status of success where it is not 200. */
  done?: string
  text?: string
}

const missing = { 404: 'There is nothing at this address' }
const unfit = { 400: 'The body does not fit; `errors` names each field' }
const desk = { 401: 'Nobody is signed in', 403: 'The member’s role does not allow it' }
const reason = z.object({ reason: z.string().max(500).optional() })

const definitionBody = z.object({ basedOn: z.int(), definition: z.looseObject({}) })

const calls: Record<string, Record<string, Call>> = {
  '/api/public/{workspace}': { get: { summary: 'A workspace and its listed, open event types', answers: missing } },
  '/api/public/{workspace}/{eventType}': { get: { summary: 'What clients are told about an event type before they book', answers: missing } },
  '/api/public/{workspace}/{eventType}/openings': {
    get: {
      summary: 'Starts that can be booked now, dates inclusive in the given zone, at most 92 days a call',
      query: { from: 'YYYY-MM-DD', to: 'YYYY-MM-DD', timeZone: 'IANA name of a time zone', duration: 'Minutes, where there are several', host: 'A host’s id, where the client may choose' },
      answers: { ...missing, 400: 'The query does not fit' },
    },
  },
  '/api/public/{workspace}/{eventType}/bookings': {
    post: {
      summary: 'Book an opening; needs an Idempotency-Key header of 1 to 128 visible characters',
      body: bookingRequestSchema,
      done: '201',
      answers: { ...missing, ...unfit, 409: 'The start is no longer open; `nearest` gives others', 422: 'The answers do not satisfy the questions, or the key came with another body before', 429: 'Too many tries' },
    },
  },
  '/api/public/bookings/{token}': { get: { summary: 'The client’s booking', answers: missing } },
  '/api/public/bookings/{token}/cancel': { post: { summary: 'Cancel the booking; again changes nothing', body: reason, answers: { ...missing, ...unfit } } },
  '/api/public/bookings/{token}/calendar.ics': { get: { summary: 'The calendar entry', text: 'text/calendar', answers: missing } },
  '/api/openapi.json': { get: { summary: 'This document' } },
  '/health/live': { get: { summary: 'The process answers' } },
  '/health/ready': { get: { summary: 'The process can serve', answers: { 503: 'It cannot yet' } } },
  '/api/desk/sign-in': { post: { summary: 'Sign a member in; the answer sets a cookie', body: z.object({ email: z.string(), password: z.string() }), answers: { ...unfit, 422: 'Address and password do not belong together', 429: 'Too many tries' } } },
  '/api/desk/sign-out': { post: { summary: 'Sign out' } },
  '/api/desk/me': { get: { summary: 'Who is signed in', answers: desk } },
  '/api/desk/today': { get: { summary: 'The day, what waits for a person, and the coming days: a host’s own, else all', query: { timeZone: 'IANA name of a time zone', date: 'YYYY-MM-DD, today where it is left out' }, answers: desk } },
  '/api/desk/event-types': {
    get: { summary: 'All event types with their sentence, next opening, worst finding and recent bookings', answers: desk },
    post: { summary: 'Begin a draft', body: z.object({ name: z.string() }), answers: { ...desk, ...unfit } },
  },
  '/api/desk/event-types/{id}': { get: { summary: 'One event type with what its openings are computed from', answers: { ...desk, ...missing } } },
  '/api/desk/event-types/{id}/publish': { post: { summary: 'Publish a definition over the version it was made from', body: definitionBody, answers: { ...desk, ...unfit, ...missing, 409: 'Somebody else published meanwhile; `theirs` is what they published', 422: 'The address is taken, or a host or chair is not the workspace’s' } } },
  '/api/desk/event-types/{id}/draft': {
    put: { summary: 'Keep what is not published yet', body: definitionBody, answers: { ...desk, ...unfit, ...missing } },
    delete: { summary: 'Forget the draft', answers: desk },
  },
  '/api/desk/event-types/{id}/versions': { get: { summary: 'What was published, newest first', answers: { ...desk, ...missing } } },
  '/api/desk/event-types/{id}/duplicate': { post: { summary: 'A draft like this one', answers: { ...desk, ...missing } } },
  '/api/desk/event-types/{id}/archive': { post: { summary: 'Put an event type away, or take it out again', body: z.object({ archived: z.boolean() }), answers: { ...desk, ...unfit, ...missing } } },
  '/api/desk/event-types/order': { post: { summary: 'Put event types into an order', body: z.object({ ids: z.array(z.string()) }), answers: { ...desk, ...unfit, 422: 'One of them is not the workspace’s' } } },
  '/api/desk/hours': { get: { summary: 'Hours plans of all hosts', answers: desk } },
  '/api/desk/hours/{id}': {
    get: { summary: 'An hours plan and where it is used', answers: { ...desk, ...missing } },
    post: { summary: 'Change an hours plan over the version it was read in', body: z.object({ basedOn: z.int(), name: z.string(), plan: z.looseObject({}) }), answers: { ...desk, ...unfit, ...missing, 409: 'Somebody else changed it meanwhile' } },
  },
  '/api/desk/holidays': { get: { summary: 'Countries with a holiday calendar, and their regions', answers: desk } },
  '/api/desk/holidays/dates': { get: { summary: 'The holidays of a calendar, this year and the next', query: { country: 'ISO 3166-1 alpha-2', region: 'A region of it, if any' }, answers: { ...desk, 400: 'There is no such country' } } },
  '/api/desk/sign-up': { post: { summary: 'A new workspace with its owner; the answer sets a cookie', body: z.object({ workspace: z.string(), name: z.string(), email: z.string(), password: z.string(), timeZone: z.string() }), answers: { ...unfit, 422: 'The address has signed up before', 429: 'Too many tries' } } },
  '/api/desk/begin': { post: { summary: 'Set the member’s hours and open a first event type in them', body: z.object({ days: z.array(z.string()), from: z.string(), to: z.string(), timeZone: z.string() }), answers: { ...desk, ...unfit } } },
  '/api/desk/sessions/{id}': { get: { summary: 'Everything about one session, with its trail', answers: { ...desk, ...missing } } },
  '/api/desk/sessions/{id}/room': { post: { summary: 'Try a failing room again now', answers: { ...desk, ...missing, 409: 'The room is not failing' } } },
  '/api/desk/bookings/{id}/approve': { post: { summary: 'Approve a request', answers: { ...desk, ...missing, 409: 'It no longer waits' } } },
  '/api/desk/bookings/{id}/close': { post: { summary: 'Cancel a booking or decline a request', body: z.object({ state: z.enum(['cancelled', 'declined']), reason: z.string().optional() }), answers: { ...desk, ...unfit, ...missing, 409: 'Its state does not allow it' } } },
  '/api/desk/connections': { get: { summary: 'Under whose video account each host’s rooms are made', answers: desk } },
  '/api/desk/connections/{id}/disconnect': { post: { summary: 'Disconnect a video account', answers: { ...desk, ...missing } } },
}

const problem = {
  type: 'object',
  required: ['type', 'title', 'status', 'detail'],
  properties: {
    type: { type: 'string' },
    title: { type: 'string' },
    status: { type: 'integer' },
    detail: { type: 'string' },
    errors: { type: 'array', items: { type: 'object', properties: { path: { type: 'string' }, message: { type: 'string' } } } },
    nearest: { type: 'array', items: { type: 'object', properties: { start: { type: 'string' }, end: { type: 'string' }, seatsLeft: { type: 'integer' } } } },
  },
}

export function openApiDocument(baseUrl: string) {
  return {
    openapi: '3.1.0',
    info: { title: 'Temporia', version: '1', description: 'All JSON, UTF-8. Errors are problem documents (RFC 9457).' },
    servers: [{ url: baseUrl }],
    paths: Object.fromEntries(Object.entries(calls).map(([path, methods]) =>
      [path, Object.fromEntries(Object.entries(methods).map(([method, call]) => [method, describe(path, call)]))])),
    components: { schemas: { Problem: problem } },
  }
}

function describe(path: string, call: Call) {
  const parameters = [
    ...[...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({ name, in: 'path', required: true, schema: { type: 'string' } })),
    ...Object.entries(call.query ?? {}).map(([name, description]) => ({ name, in: 'query', description, schema: { type: 'string' } })),
  ]
  return {
    summary: call.summary,
    ...(parameters.length > 0 ? { parameters } : {}),
    ...(call.body ? { requestBody: { required: true, content: { 'application/json': { schema: z.toJSONSchema(call.body, { io: 'input', unrepresentable: 'any' }) } } } } : {}),
    responses: {
      [call.done ?? '200']: { description: 'Done', content: { [call.text ?? 'application/json']: {} } },
      ...Object.fromEntries(Object.entries(call.answers ?? {}).map(([status, description]) =>
        [status, { description, content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } } }])),
    },
  }
}
