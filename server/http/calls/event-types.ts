import { z } from 'zod'
import { sentHostTimeSchema } from '../../../core/event-type/host-time'
import { editedSetSchema } from '../../../core/intake/question-sets'
import { sentBenchSchema, eventTypeRowSchema, publishedVersionSchema, questionSetViewSchema } from '../../../core/views/event-types'
import {
  archiveSchema,
  byVideoSchema,
  changedSetSchema,
  eventTypesQuerySchema,
  hostsTimeQuerySchema,
  newEventTypeSchema,
  orderSchema,
  publishSchema,
  stateSchema,
} from '../requests'
import { type Call, missing, bad, overtaken, done, madeSchema, savedSchema } from './call'

/** Event types and the questions that they share. */

export const eventTypesCalls = {
  'GET /api/desk/event-types': {
    summary: 'All event types with their sentence, next opening, worst finding and recent bookings',
    right: 'seeEventTypes',
    query: eventTypesQuerySchema,
    answer: z.array(eventTypeRowSchema),
    problems: bad,
  },
  'GET /api/desk/event-types/names': {
    summary: 'All event types by what the team calls them', right: 'seeEventTypes',
    answer: z.array(z.strictObject({ id: z.string(), name: z.string() })),
  },
  'POST /api/desk/event-types/by-video': {
    summary: 'Let clients choose video in some event types, beside the places there are',
    right: 'changeEventTypes', body: byVideoSchema, answer: z.strictObject({ changed: z.int() }), problems: bad,
  },
  'POST /api/desk/event-types': {
    summary: 'Create a draft',
    right: 'changeEventTypes',
    body: newEventTypeSchema,
    answer: madeSchema,
    problems: { ...bad, 409: 'Nobody hosts in this workspace' },
  },
  'GET /api/desk/event-types/{id}': {
    summary: 'One event type with what its openings are computed from',
    right: 'seeEventTypes',
    answer: sentBenchSchema,
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
  'GET /api/desk/event-types/{id}/time': {
    summary: 'Hours and taken time of hosts whom somebody tries in a chair, as far as the member may see them',
    right: 'seeEventTypes', query: hostsTimeQuerySchema, answer: z.array(sentHostTimeSchema), problems: bad,
  },
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
} as const satisfies Record<string, Call>
