import { z } from 'zod'
import { bookingRequestSchema } from '../booking'
import {
  archiveSchema, beginSchema, cancelSchema, closeSchema, confirmSchema, connectQuerySchema, consentQuerySchema, holidaysQuerySchema, hoursSchema, newEventTypeSchema, openingsQuerySchema,
  orderSchema, pageQuerySchema, publishSchema, refuseSchema, signInSchema, signUpSchema, todayQuerySchema,
} from './requests'

/** The HTTP interface described as OpenAPI 3.1: every route once, its body and query from the schemas that check them. */

interface Call {
  summary: string
  body?: z.ZodType
  query?: z.ZodType
  headers?: Record<string, string>
  /** Statuses beside that of success and what they mean. */
  answers?: Record<string, string>
  /** Status of success where it is not 200. */
  done?: string
  text?: string
  /** A call by a browser, which is sent on to another address. */
  redirects?: boolean
}

const missing = { 404: 'There is nothing at this address' }
const bad = { 400: 'The body or the query is malformed; `errors` names each field' }
const desk = { 401: 'Nobody is signed in', 403: 'The member’s role does not allow it' }
const limited = { 429: 'Too many tries' }
const published = { 409: 'Somebody else changed it meanwhile' }

const calls: Record<string, Record<string, Call>> = {
  '/api/public/{workspace}': { get: { summary: 'A workspace and its listed, open event types', answers: missing } },
  '/api/public/{workspace}/{eventType}': { get: { summary: 'What clients are told about an event type before they book', answers: missing } },
  '/api/public/{workspace}/{eventType}/openings': {
    get: {
      summary: 'Starts that can be booked now, dates inclusive in the given zone, at most 92 days and 10,000 openings a call',
      query: openingsQuerySchema,
      answers: { ...missing, ...bad, ...limited },
    },
  },
  '/api/public/{workspace}/{eventType}/bookings': {
    post: {
      summary: 'Book an opening',
      headers: { 'Idempotency-Key': '1 to 128 visible characters; the same key with the same body gives the first answer again' },
      body: bookingRequestSchema,
      done: '201',
      answers: { ...missing, ...bad, 409: 'The start is no longer open; `nearest` gives others', 422: 'The answers do not satisfy the questions, or the key came with another body before', ...limited },
    },
  },
  '/api/public/bookings/{token}': { get: { summary: 'The client’s booking', answers: { ...missing, ...limited } } },
  '/api/public/bookings/{token}/page': { get: { summary: 'What the client’s own page shows', query: pageQuerySchema, answers: { ...missing, ...limited } } },
  '/api/public/bookings/{token}/cancel': { post: { summary: 'Cancel the booking; again changes nothing', body: cancelSchema, answers: { ...missing, ...bad, 409: 'The session is over' } } },
  '/api/public/bookings/{token}/calendar.ics': { get: { summary: 'The calendar entry', text: 'text/calendar', answers: missing } },
  '/api/openapi.json': { get: { summary: 'This document' } },
  '/health/live': { get: { summary: 'The process answers' } },
  '/health/ready': { get: { summary: 'The process can serve: the database answers and jobs are run', answers: { 503: 'It cannot just now' } } },
  '/api/desk/sign-in': { post: { summary: 'Sign a member in; the answer sets a cookie', body: signInSchema, answers: { ...bad, 422: 'Address and password do not belong together', ...limited } } },
  '/api/desk/sign-out': { post: { summary: 'End this browser’s session' } },
  '/api/desk/sign-up': { post: { summary: 'A new workspace with its owner; the answer sets a cookie, and a mail asks to confirm the address', body: signUpSchema, answers: { ...bad, 422: 'The password is easy to guess', ...limited } } },
  '/api/desk/confirm': { post: { summary: 'Confirm an address by the mailed token, as its signed-in member or with the password', body: confirmSchema, answers: { ...missing, ...bad, 409: 'The address belongs to another member', 422: 'The password is needed or wrong', ...limited } } },
  '/api/desk/confirm/send': { post: { summary: 'Mail the confirmation again', answers: { ...desk, 409: 'The address is confirmed already', ...limited } } },
  '/api/desk/confirm/refuse': { post: { summary: 'Delete what somebody else has signed up with this address', body: refuseSchema, answers: { ...missing, ...bad, ...limited } } },
  '/api/desk/me': { get: { summary: 'Who is signed in', answers: desk } },
  '/api/desk/today': { get: { summary: 'The day, what waits for a person, and the coming days: a host’s own, else all', query: todayQuerySchema, answers: { ...desk, ...bad } } },
  '/api/desk/event-types': {
    get: { summary: 'All event types with their sentence, next opening, worst finding and recent bookings', answers: desk },
    post: { summary: 'Begin a draft', body: newEventTypeSchema, answers: { ...desk, ...bad } },
  },
  '/api/desk/event-types/{id}': { get: { summary: 'One event type with what its openings are computed from', answers: { ...desk, ...missing } } },
  '/api/desk/event-types/{id}/publish': { post: { summary: 'Publish a definition over the version it was made from', body: publishSchema, answers: { ...desk, ...bad, ...missing, 409: 'Somebody else published meanwhile; `theirs` is what they published', 422: 'The address is taken, or a host or chair is not the workspace’s' } } },
  '/api/desk/event-types/{id}/draft': {
    put: { summary: 'Save what is not published yet', body: publishSchema, answers: { ...desk, ...bad, ...missing } },
    delete: { summary: 'Delete the draft', answers: desk },
  },
  '/api/desk/event-types/{id}/versions': { get: { summary: 'What was published, newest first', answers: { ...desk, ...missing } } },
  '/api/desk/event-types/{id}/duplicate': { post: { summary: 'A draft like this one', answers: { ...desk, ...missing } } },
  '/api/desk/event-types/{id}/archive': { post: { summary: 'Archive an event type, or restore it', body: archiveSchema, answers: { ...desk, ...bad, ...missing } } },
  '/api/desk/event-types/order': { post: { summary: 'Put event types into an order', body: orderSchema, answers: { ...desk, ...bad, 422: 'One of them is not the workspace’s' } } },
  '/api/desk/hours': { get: { summary: 'Hours plans of all hosts', answers: desk } },
  '/api/desk/hours/{id}': {
    get: { summary: 'An hours plan and where it is used', answers: { ...desk, ...missing } },
    post: { summary: 'Change an hours plan over the version it was read in', body: hoursSchema, answers: { ...desk, ...bad, ...missing, ...published, 422: 'The plan is too large' } },
  },
  '/api/desk/holidays': { get: { summary: 'Countries with a holiday calendar, and their regions', answers: desk } },
  '/api/desk/holidays/dates': { get: { summary: 'The holidays of a calendar, this year and the next', query: holidaysQuerySchema, answers: { ...desk, ...bad } } },
  '/api/desk/begin': { post: { summary: 'Set the member’s hours and open a first event type in them, once', body: beginSchema, answers: { ...desk, ...bad, ...missing, 409: 'There is an event type already; `begun` leads to it' } } },
  '/api/desk/sessions/{id}': { get: { summary: 'Everything about one session, with its trail', answers: { ...desk, ...missing } } },
  '/api/desk/sessions/{id}/room': { post: { summary: 'Try a failing room again now', answers: { ...desk, ...missing, 409: 'The room is not failing' } } },
  '/api/desk/bookings/{id}/approve': { post: { summary: 'Approve a request', answers: { ...desk, ...missing, 409: 'It no longer waits, or its session is over' } } },
  '/api/desk/bookings/{id}/close': { post: { summary: 'Cancel a booking or decline a request', body: closeSchema, answers: { ...desk, ...bad, ...missing, 409: 'It has ended, or its session is over' } } },
  '/api/desk/deliveries/{id}/send': { post: { summary: 'Send a message again that did not go out or whose outcome is unknown', answers: { ...desk, ...missing, 409: 'It was sent, or a later change has replaced it' } } },
  '/api/desk/jobs/{id}/run': { post: { summary: 'Run a job at once that keeps failing', answers: { ...desk, ...missing } } },
  '/api/desk/connections': { get: { summary: 'Under whose video account each host’s rooms are made', answers: desk } },
  '/api/desk/connections/{id}/disconnect': { post: { summary: 'Disconnect a video account', answers: { ...desk, ...missing } } },
  '/api/desk/video-services/{service}/connect': { get: { summary: 'Send a member on to the video service to give consent', query: connectQuerySchema, redirects: true, answers: { ...desk, ...bad, 404: 'There is no such video service' } } },
  '/api/desk/video-services/{service}/return': { get: { summary: 'Where the video service sends a member back to', query: consentQuerySchema, redirects: true, answers: { ...desk, ...bad } } },
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

const jsonSchema = (schema: z.ZodType) => z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' })

function describe(path: string, call: Call) {
  const query = call.query ? jsonSchema(call.query) : null
  const parameters = [
    ...[...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({ name, in: 'path', required: true, schema: { type: 'string' } })),
    ...Object.entries(query?.properties ?? {}).map(([name, schema]) => ({ name, in: 'query', required: query?.required?.includes(name) ?? false, schema })),
    ...Object.entries(call.headers ?? {}).map(([name, description]) => ({ name, in: 'header', required: true, description, schema: { type: 'string' } })),
  ]
  const done = call.redirects ? { 302: { description: 'Sent on' } } : { [call.done ?? '200']: { description: 'Done', content: { [call.text ?? 'application/json']: {} } } }
  return {
    summary: call.summary,
    ...(parameters.length > 0 ? { parameters } : {}),
    ...(call.body ? { requestBody: { required: true, content: { 'application/json': { schema: jsonSchema(call.body) } } } } : {}),
    responses: {
      ...done,
      ...Object.fromEntries(Object.entries(call.answers ?? {}).map(([status, description]) =>
        [status, { description, content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } } }])),
    },
  }
}
