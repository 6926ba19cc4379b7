import { z } from 'zod'
import {
  givenBeforeSchema,
  bookingViewSchema,
  clientListViewSchema,
  clientPageViewSchema,
  eventTypePageSchema,
  guestsViewSchema,
  hostPageSchema,
  moveOpeningsSchema,
  openingsSchema,
  remindersViewSchema,
  workspacePageSchema,
} from '../../../core/views/client'
import { bookingRequestSchema, guestsRequestSchema, peopleRequestSchema } from '../../booking'
import { cancelSchema, listRequestSchema, moveQuerySchema, moveSchema, openingsQuerySchema, pageQuerySchema, remindersSchema } from '../requests'
import { bad, type Call, done, limited, missing, sentOn, text } from './call'

/** What clients and anybody may ask. */

const bookingSchema = z.strictObject({ booking: bookingViewSchema })

export const publicCalls = {
  'GET /api/public/{workspace}': {
    summary: 'A workspace and its listed, open event types',
    answer: workspacePageSchema,
    problems: missing,
  },
  'GET /api/public/{workspace}/with/{host}': {
    summary: 'A host with a page of their own, and the listed, open event types that clients book with them',
    answer: hostPageSchema,
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
  'POST /api/public/bookings/lists': {
    summary: 'Have the link to all bookings of an address with a workspace mailed to it; the answer does not tell whether there are any',
    body: listRequestSchema, answer: done('asked'), status: '202', problems: { ...missing, ...bad, ...limited },
  },
  'GET /api/public/bookings/lists/{token}': {
    summary: 'All bookings of the client whom the link was mailed to, for 24 hours',
    answer: clientListViewSchema, problems: { ...missing, ...limited },
  },
  'GET /api/public/bookings/reminders/{token}': {
    summary: 'Whether the reader of a reminder wants further ones', answer: remindersViewSchema, problems: { ...missing, ...limited },
  },
  'POST /api/public/bookings/reminders/{token}': {
    summary: 'End reminders of a workspace for the reader of one, or have them again',
    body: remindersSchema, answer: remindersViewSchema, problems: { ...missing, ...bad, ...limited },
  },
  'POST /bookings/reminders/{token}': {
    summary: 'End reminders by one click in a mail program (RFC 8058), which sends the address in each reminder; the body is not read',
    answer: z.void(), status: '204', problems: { ...missing, ...limited },
  },
  'GET /api/public/bookings/{token}': { summary: 'The client’s booking', answer: bookingSchema, problems: { ...missing, ...limited } },
  'GET /api/public/bookings/{token}/page': {
    summary: 'What the client’s own page shows',
    query: pageQuerySchema,
    answer: clientPageViewSchema,
    problems: { ...missing, ...limited },
  },
  'GET /api/public/bookings/{token}/again': {
    summary: 'What the client gave, to fill another booking in with', answer: givenBeforeSchema, problems: { ...missing, ...limited },
  },
  'GET /api/public/bookings/{token}/events': {
    summary: 'Server-sent events, one for each change of the session: `changed`',
    answer: z.void(), type: 'text/event-stream', problems: { ...missing, ...limited, 503: 'Too many listen already' },
  },
  'GET /api/public/bookings/{token}/openings': {
    summary: 'Times that the booking can be moved to, dates inclusive in the given zone, at most 92 days a call',
    query: moveQuerySchema, answer: moveOpeningsSchema, problems: { ...missing, ...bad, ...limited },
  },
  'POST /api/public/bookings/{token}/move': {
    summary: 'Move the booking to another opening; to where it is already changes nothing',
    body: moveSchema,
    answer: bookingSchema,
    problems: { ...missing, ...bad, ...limited, 409: 'The start is no longer open (`nearest` gives others), or it is too late to move it' },
  },
  'POST /api/public/bookings/{token}/guests': {
    summary: 'Invite guests, or take them off the list; who is invited already, or is not, changes nothing',
    body: guestsRequestSchema,
    answer: z.strictObject({ guests: guestsViewSchema }),
    problems: { ...missing, ...bad, ...limited, 409: 'The session has begun, or the booking has ended', 422: 'The event type allows no guests, or they are too many' },
  },
  'POST /api/public/bookings/{token}/people': {
    summary: 'Change for how many people the booking is; each takes a seat',
    body: peopleRequestSchema,
    answer: bookingSchema,
    problems: { ...missing, ...bad, ...limited, 409: 'It is too late, or the booking has ended', 422: 'So many cannot be booked, or too few seats are left' },
  },
  'POST /api/public/bookings/{token}/payment': {
    summary: 'Ask the payment service at once whether a held booking was paid, and answer the booking as it is then',
    answer: bookingSchema, problems: { ...missing, ...limited },
  },
  'GET /bookings/{token}/pay': {
    summary: 'Send the client of a held booking on to where they pay', ...sentOn, problems: { ...missing, ...limited },
  },
  'GET /bookings/returned/{payment}': {
    summary: 'Where a payment service sends a client back to', ...sentOn, problems: { ...missing, ...limited },
  },
  'POST /api/payments/{account}/notifications': {
    summary: 'What a payment service says of a payment, signed as the Standard Webhooks specification has it; the body is the service’s own',
    upload: ['*/*'], answer: z.void(), status: '204', problems: { ...missing, ...limited },
  },
  'POST /api/public/bookings/{token}/cancel': {
    summary: 'Cancel the booking; again changes nothing',
    body: cancelSchema,
    answer: bookingSchema,
    problems: { ...missing, ...bad, 409: 'The session has begun, or the event type’s deadline is past' },
  },
  'GET /api/public/bookings/{token}/calendar.ics': {
    summary: 'The calendar entry',
    answer: text,
    type: 'text/calendar',
    problems: missing,
  },
  'GET /feeds/{name}': {
    summary: 'A host’s sessions as an iCalendar feed, `{token}.ics`; the address stands with the host',
    answer: z.unknown(),
    type: 'text/calendar',
    problems: { ...missing, ...limited },
  },
  'GET /freebusy/{name}': {
    summary: 'When a host has sessions (VFREEBUSY), `{token}.ifb`',
    answer: z.unknown(),
    type: 'text/calendar',
    problems: { ...missing, ...limited },
  },
  'GET /assets/pictures/{name}': {
    summary: 'A host’s picture, `{hash}-small.webp` or `{hash}-large.webp`; the hash stands with the host',
    answer: z.unknown(),
    type: 'image/webp',
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
} as const satisfies Record<string, Call>
