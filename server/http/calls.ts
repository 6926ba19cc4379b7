import { z } from 'zod'
import {
  benchViewSchema,
  connectionsSchema,
  countrySchema,
  eventTypeRowSchema,
  hoursRowSchema,
  hoursViewSchema,
  invitationViewSchema,
  peopleViewSchema,
  workspaceChoiceSchema,
  publishedVersionSchema,
  questionSetViewSchema,
  sessionViewSchema,
  signedInSchema,
  todayViewSchema,
  type MemberRole,
} from '../../core/views/desk'
import { bookingViewSchema, clientPageViewSchema, eventTypePageSchema, openingsSchema, workspacePageSchema } from '../../core/views/client'
import { holidaySchema } from '../../core/hours/plan'
import { editedSetSchema } from '../../core/intake/question-sets'
import { bookingRequestSchema } from '../booking'
import {
  acceptSchema,
  archiveSchema,
  invitationQuerySchema,
  invitationSchema,
  newHostSchema,
  newWorkspaceSchema,
  roleSchema,
  beginSchema,
  cancelSchema,
  changedSetSchema,
  closeSchema,
  confirmSchema,
  eventTypesQuerySchema,
  forgottenPasswordSchema,
  newPasswordSchema,
  preferencesSchema,
  connectQuerySchema,
  consentQuerySchema,
  holidaysQuerySchema,
  hoursSchema,
  newEventTypeSchema,
  newHoursSchema,
  openingsQuerySchema,
  orderSchema,
  pageQuerySchema,
  publishSchema,
  refuseSchema,
  signInSchema,
  signUpSchema,
  stateSchema,
  todayQuerySchema,
} from './requests'

/**
 * Every call of the HTTP interface: who may make it, what it takes and what it answers. Routes are bound to their row, and
 * the OpenAPI document is made from the rows.
 */

/** Which roles may do what. */
export const rights = {
  seeSessions: ['owner', 'coordinator', 'host'],
  changeSessions: ['owner', 'coordinator', 'host'],
  seeEventTypes: ['owner', 'coordinator', 'host'],
  changeEventTypes: ['owner', 'coordinator'],
  seeHours: ['owner', 'coordinator', 'host'],
  connectAccounts: ['owner', 'coordinator', 'host'],
  seePeople: ['owner', 'coordinator', 'host'],
  changePeople: ['owner'],
} as const satisfies Record<string, readonly MemberRole[]>

export type Right = keyof typeof rights

interface Call {
  summary: string
  /** What a member needs to make it; calls without a right are open to all. */
  right?: Right
  body?: z.ZodType
  query?: z.ZodType
  headers?: Record<string, string>
  /** The JSON of a success; text of another type, or an address that the browser is sent on to. */
  answer: z.ZodType
  type?: 'text/calendar'
  redirects?: true
  status?: '201'
  /** Statuses of problems and what they mean, beside those that the right implies. */
  problems?: Record<string, string>
}

const missing = { 404: 'There is nothing at this address' }
const bad = { 400: 'The body or the query is malformed; `errors` names each field' }
const limited = { 429: 'Too many tries' }
const overtaken = { 409: 'Somebody else changed it meanwhile' }

const text = z.string()
const done = <Name extends string>(name: Name) => z.strictObject({ [name]: z.boolean() } as Record<Name, z.ZodBoolean>)
const madeSchema = z.strictObject({ id: text })
const savedSchema = z.strictObject({ version: z.int() })
const bookingSchema = z.strictObject({ booking: bookingViewSchema })
const sentOn = { answer: z.unknown(), redirects: true } as const
const anybody = { answer: signedInSchema } as const

export const calls = {
  'GET /api/public/{workspace}': {
    summary: 'A workspace and its listed, open event types',
    answer: workspacePageSchema,
    problems: missing,
  },
  'GET /api/public/{workspace}/{eventType}': {
    summary: 'What clients need to know about an event type before they book',
    answer: eventTypePageSchema,
    problems: missing,
  },
  'GET /api/public/{workspace}/{eventType}/openings': {
    summary: 'Starts that can be booked now, dates inclusive in the given zone, at most 92 days and 10,000 openings a call',
    query: openingsQuerySchema,
    answer: openingsSchema,
    problems: { ...missing, ...bad, ...limited },
  },
  'POST /api/public/{workspace}/{eventType}/bookings': {
    summary: 'Book an opening',
    headers: { 'Idempotency-Key': '1 to 128 visible characters; the same key with the same body gives the first answer again' },
    body: bookingRequestSchema,
    answer: bookingSchema.extend({ manage: text }),
    status: '201',
    problems: {
      ...missing,
      ...bad,
      ...limited,
      409: 'The start is no longer open; `nearest` gives others',
      422: 'The answers do not satisfy the questions, or the key came with another body before',
    },
  },
  'GET /api/public/bookings/{token}': { summary: 'The client’s booking', answer: bookingSchema, problems: { ...missing, ...limited } },
  'GET /api/public/bookings/{token}/page': {
    summary: 'What the client’s own page shows',
    query: pageQuerySchema,
    answer: clientPageViewSchema,
    problems: { ...missing, ...limited },
  },
  'POST /api/public/bookings/{token}/cancel': {
    summary: 'Cancel the booking; again changes nothing',
    body: cancelSchema,
    answer: bookingSchema,
    problems: { ...missing, ...bad, 409: 'The session is over' },
  },
  'GET /api/public/bookings/{token}/calendar.ics': {
    summary: 'The calendar entry',
    answer: text,
    type: 'text/calendar',
    problems: missing,
  },
  'GET /api/openapi.json': { summary: 'This document', answer: z.looseObject({ openapi: text, paths: z.record(text, z.unknown()) }) },
  'GET /problems/{code}': {
    summary: 'What the `type` of a problem document means',
    answer: z.strictObject({ type: text, status: z.int(), title: text, meaning: text }),
    problems: missing,
  },
  'GET /health/live': { summary: 'The process answers', answer: done('live') },
  'GET /health/ready': {
    summary: 'The process can serve: the database answers and some process runs the jobs',
    answer: done('ready'),
    problems: { 503: 'It cannot just now' },
  },

  'POST /api/desk/sign-in': {
    summary: 'Sign a member in; the answer sets a cookie',
    body: signInSchema,
    ...anybody,
    problems: { ...bad, ...limited, 422: 'Address and password do not belong together' },
  },
  'POST /api/desk/sign-out': { summary: 'End this browser’s session', answer: done('signedOut') },
  'POST /api/desk/sign-up': {
    summary: 'A new workspace with its owner; the answer sets a cookie, and a mail asks to confirm the address',
    body: signUpSchema,
    ...anybody,
    problems: { ...bad, ...limited, 422: 'The password is easy to guess' },
  },
  'POST /api/desk/confirm': {
    summary: 'Confirm an address by the mailed token, as its signed-in member or with the password',
    body: confirmSchema,
    ...anybody,
    problems: { ...missing, ...bad, ...limited, 409: 'The address belongs to another member', 422: 'The password is needed or wrong' },
  },
  'POST /api/desk/confirm/send': {
    summary: 'Mail the confirmation again',
    right: 'seeSessions',
    answer: done('sent'),
    problems: { ...limited, 409: 'The address is confirmed already' },
  },
  'POST /api/desk/confirm/refuse': {
    summary: 'Delete what somebody else has signed up with this address',
    body: refuseSchema,
    answer: done('refused'),
    problems: { ...missing, ...bad, ...limited },
  },
  'POST /api/desk/password/forgotten': {
    summary: 'Mail a link to a new password to a member’s address; the answer does not say whether there is one',
    body: forgottenPasswordSchema,
    answer: done('sent'),
    problems: { ...bad, ...limited },
  },
  'POST /api/desk/password/new': {
    summary: 'Set a new password by the mailed token and end all other sessions; the answer sets a cookie',
    body: newPasswordSchema,
    ...anybody,
    problems: { ...missing, ...bad, ...limited, 422: 'The password is easy to guess' },
  },
  'GET /api/desk/people': { summary: 'Members, invitations that wait, and hosts who do not sign in', right: 'seePeople', answer: peopleViewSchema },
  'POST /api/desk/people/invitations': {
    summary: 'Invite somebody by mail; the link holds for 30 days',
    right: 'changePeople',
    body: invitationSchema,
    answer: madeSchema,
    problems: { ...bad, ...limited, 409: 'The own address is not confirmed', 422: 'The address is a member’s, or is invited already' },
  },
  'POST /api/desk/people/invitations/{id}/send': {
    summary: 'Mail an invitation again, and let it wait another 30 days',
    right: 'changePeople',
    answer: done('sent'),
    problems: { ...missing, ...limited },
  },
  'DELETE /api/desk/people/invitations/{id}': {
    summary: 'Withdraw an invitation', right: 'changePeople', answer: done('withdrawn'), problems: missing,
  },
  'POST /api/desk/people/members/{id}/role': {
    summary: 'Give a member another role',
    right: 'changePeople',
    body: roleSchema,
    answer: roleSchema,
    problems: { ...bad, ...missing, 409: 'It is the last owner' },
  },
  'POST /api/desk/people/hosts': {
    summary: 'Add a host who does not sign in', right: 'changePeople', body: newHostSchema, answer: madeSchema, problems: bad,
  },
  'GET /api/desk/invitation': {
    summary: 'What the link of an invitation shows to whoever follows it',
    query: invitationQuerySchema,
    answer: invitationViewSchema,
    problems: { ...missing, ...limited },
  },
  'POST /api/desk/invitation': {
    summary: 'Accept an invitation by the mailed token; the answer sets a cookie',
    body: acceptSchema,
    ...anybody,
    problems: { ...missing, ...bad, ...limited, 409: 'It is over, or somebody else is signed in', 422: 'The password is needed, wrong or easy to guess' },
  },
  'GET /api/desk/workspaces': {
    summary: 'The workspaces one is a member of', right: 'seePeople', answer: z.array(workspaceChoiceSchema),
  },
  'POST /api/desk/workspaces': {
    summary: 'Create another workspace of one’s own and go on in it; the answer sets a cookie',
    right: 'seePeople',
    body: newWorkspaceSchema,
    ...anybody,
    problems: { ...bad, ...limited, 409: 'The own address is not confirmed' },
  },
  'POST /api/desk/workspaces/{id}/enter': {
    summary: 'Go on in another workspace; the answer sets a cookie', right: 'seePeople', ...anybody, problems: missing,
  },
  'PUT /api/desk/me': { summary: 'Set one’s own zone and clock', right: 'seeSessions', body: preferencesSchema, ...anybody, problems: bad },
  'GET /api/desk/me': { summary: 'Who is signed in', right: 'seeSessions', answer: signedInSchema },
  'GET /api/desk/today': {
    summary: 'A day, what waits for a person, and the coming days: a host’s own, else all; 304 while its ETag is still right',
    right: 'seeSessions',
    query: todayQuerySchema,
    answer: todayViewSchema,
    problems: bad,
  },
  'GET /api/desk/event-types': {
    summary: 'All event types with their sentence, next opening, worst finding and recent bookings',
    right: 'seeEventTypes',
    query: eventTypesQuerySchema,
    answer: z.array(eventTypeRowSchema),
    problems: bad,
  },
  'POST /api/desk/event-types': {
    summary: 'Create a draft',
    right: 'changeEventTypes',
    body: newEventTypeSchema,
    answer: madeSchema,
    problems: bad,
  },
  'GET /api/desk/event-types/{id}': {
    summary: 'One event type with what its openings are computed from',
    right: 'seeEventTypes',
    answer: benchViewSchema,
    problems: missing,
  },
  'POST /api/desk/event-types/{id}/publish': {
    summary: 'Publish a definition over the version it was made from',
    right: 'changeEventTypes',
    body: publishSchema,
    answer: savedSchema,
    problems: {
      ...bad,
      ...missing,
      409: 'Somebody else published meanwhile; `theirs` is what they published',
      422: 'The address is taken, or a host or chair is not the workspace’s',
    },
  },
  'PUT /api/desk/event-types/{id}/draft': {
    summary: 'Save what is not published yet',
    right: 'changeEventTypes',
    body: publishSchema,
    answer: done('saved'),
    problems: { ...bad, ...missing },
  },
  'DELETE /api/desk/event-types/{id}/draft': { summary: 'Delete the draft', right: 'changeEventTypes', answer: done('saved') },
  'GET /api/desk/event-types/{id}/versions': {
    summary: 'What was published, newest first',
    right: 'seeEventTypes',
    answer: z.array(publishedVersionSchema),
    problems: missing,
  },
  'POST /api/desk/event-types/{id}/duplicate': {
    summary: 'Create a draft like this one',
    right: 'changeEventTypes',
    answer: madeSchema,
    problems: missing,
  },
  'POST /api/desk/event-types/{id}/archive': {
    summary: 'Archive an event type, or restore it',
    right: 'changeEventTypes',
    body: archiveSchema,
    answer: archiveSchema,
    problems: { ...bad, ...missing },
  },
  'POST /api/desk/event-types/{id}/state': {
    summary: 'Open an event type for clients, or close it',
    right: 'changeEventTypes',
    body: stateSchema,
    answer: stateSchema,
    problems: { ...bad, ...missing },
  },
  'DELETE /api/desk/event-types/{id}': {
    summary: 'Delete an event type that nobody ever booked',
    right: 'changeEventTypes',
    answer: done('deleted'),
    problems: { ...missing, 409: 'It was booked; it can be archived' },
  },
  'POST /api/desk/event-types/order': {
    summary: 'Put event types into an order',
    right: 'changeEventTypes',
    body: orderSchema,
    answer: orderSchema,
    problems: { ...bad, 422: 'One of them is not the workspace’s' },
  },
  'GET /api/desk/question-sets': {
    summary: 'Questions that several event types share, and which event types ask them',
    right: 'seeEventTypes',
    answer: z.array(questionSetViewSchema),
  },
  'POST /api/desk/question-sets': {
    summary: 'Create a set of shared questions',
    right: 'changeEventTypes',
    body: editedSetSchema,
    answer: madeSchema,
    problems: { ...bad, 422: 'The workspace has too many sets' },
  },
  'POST /api/desk/question-sets/{id}': {
    summary: 'Change shared questions over the version they were read in, for every event type that asks them',
    right: 'changeEventTypes',
    body: changedSetSchema,
    answer: savedSchema,
    problems: { ...bad, ...missing, ...overtaken, 422: 'An event type has a question of its own under the same key' },
  },
  'DELETE /api/desk/question-sets/{id}': {
    summary: 'Delete shared questions that no event type asks',
    right: 'changeEventTypes',
    answer: done('deleted'),
    problems: { ...missing, 409: 'An event type asks them' },
  },
  'GET /api/desk/hours': { summary: 'Hours plans of all hosts', right: 'seeHours', answer: z.array(hoursRowSchema) },
  'POST /api/desk/hours': {
    summary: 'Create an hours plan of a host like another one',
    right: 'seeHours',
    body: newHoursSchema,
    answer: madeSchema,
    problems: { ...bad, ...missing, 422: 'The host has too many plans' },
  },
  'GET /api/desk/hours/{id}': {
    summary: 'An hours plan and where it is used',
    right: 'seeHours',
    answer: hoursViewSchema,
    problems: missing,
  },
  'POST /api/desk/hours/{id}': {
    summary: 'Change an hours plan over the version it was read in',
    right: 'seeHours',
    body: hoursSchema,
    answer: savedSchema,
    problems: { ...bad, ...missing, ...overtaken, 422: 'The plan is too large' },
  },
  'POST /api/desk/hours/{id}/default': {
    summary: 'Make a plan the default one of its host',
    right: 'seeHours',
    answer: done('isDefault'),
    problems: missing,
  },
  'GET /api/desk/holidays': {
    summary: 'Countries with a holiday calendar, and their regions',
    right: 'seeEventTypes',
    answer: z.array(countrySchema),
  },
  'GET /api/desk/holidays/dates': {
    summary: 'The holidays of a calendar, this year and the next',
    right: 'seeEventTypes',
    query: holidaysQuerySchema,
    answer: z.array(holidaySchema),
    problems: bad,
  },
  'POST /api/desk/begin': {
    summary: 'Set the member’s hours and open a first event type in them, once',
    right: 'changeEventTypes',
    body: beginSchema,
    answer: z.strictObject({ id: text, page: text }),
    problems: { ...bad, ...missing, 409: 'There is an event type already; `created` leads to it' },
  },
  'GET /api/desk/sessions/{id}': {
    summary: 'Everything about one session, with its trail',
    right: 'seeSessions',
    answer: sessionViewSchema,
    problems: missing,
  },
  'POST /api/desk/sessions/{id}/room': {
    summary: 'Try a failing room again now',
    right: 'changeSessions',
    answer: done('tried'),
    problems: { ...missing, 409: 'The room is not failing' },
  },
  'POST /api/desk/bookings/{id}/approve': {
    summary: 'Approve a request',
    right: 'changeSessions',
    answer: done('approved'),
    problems: { ...missing, 409: 'It no longer waits, or its session is over' },
  },
  'POST /api/desk/bookings/{id}/close': {
    summary: 'Cancel a booking or decline a request',
    right: 'changeSessions',
    body: closeSchema,
    answer: done('closed'),
    problems: { ...bad, ...missing, 409: 'It has ended, or its session is over' },
  },
  'POST /api/desk/deliveries/{id}/send': {
    summary: 'Send a message again that did not go out or whose outcome is unknown',
    right: 'changeSessions',
    answer: done('planned'),
    problems: { ...missing, 409: 'It was sent, or a later change has replaced it' },
  },
  'POST /api/desk/jobs/{id}/run': {
    summary: 'Run a job at once that keeps failing',
    right: 'changeEventTypes',
    answer: done('planned'),
    problems: missing,
  },
  'GET /api/desk/connections': {
    summary: 'Under whose video account each host’s rooms are made',
    right: 'connectAccounts',
    answer: connectionsSchema,
  },
  'POST /api/desk/connections/{id}/disconnect': {
    summary: 'Disconnect a video account',
    right: 'connectAccounts',
    answer: done('disconnected'),
    problems: missing,
  },
  'GET /api/desk/video-services/{service}/connect': {
    summary: 'Send a member on to a video service to give consent',
    right: 'connectAccounts',
    query: connectQuerySchema,
    ...sentOn,
    problems: { ...bad, ...missing },
  },
  'GET /api/desk/video-services/{service}/return': {
    summary: 'Where a video service sends a member back to',
    right: 'connectAccounts',
    query: consentQuerySchema,
    ...sentOn,
    problems: bad,
  },
} as const satisfies Record<string, Call>

export type CallName = keyof typeof calls

/** Calls that only members may make. */
export type DeskCallName = { [Name in CallName]: (typeof calls)[Name] extends { right: Right } ? Name : never }[CallName]

export type AnswerOf<Name extends CallName> = z.input<(typeof calls)[Name]['answer']>

/** The rows in their general shape. */
export const callTable: Readonly<Record<string, Call>> = calls
