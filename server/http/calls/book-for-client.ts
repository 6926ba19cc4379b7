import { z } from 'zod'
import { bookableViewSchema, knownClientSchema } from '../../../core/views/book-for-client'
import { openingsSchema } from '../../../core/views/client'
import { deskBookingSchema } from '../../booking'
import { clientsQuerySchema, deskOpeningsQuerySchema } from '../requests'
import { bad, type Call, missing, text } from './call'

/** Booking a client in, which members do. */

export const bookForClientCalls = {
  'GET /api/desk/bookable': {
    summary: 'What a member can book a client into: event types, and hosts of sessions without one; a host’s own only, unless hosts may change others’ sessions',
    right: 'changeSessions', answer: bookableViewSchema,
  },
  'GET /api/desk/clients': {
    summary: 'Up to eight clients of sessions that the member may see, by a part of their name or address',
    right: 'seeSessions', query: clientsQuerySchema, answer: z.array(knownClientSchema), problems: bad,
  },
  'GET /api/desk/openings': {
    summary: 'Openings of an event type, or of hosts for a session without one, whom `hosts` names; dates inclusive, at most 92 days a call',
    right: 'changeSessions', query: deskOpeningsQuerySchema, answer: openingsSchema,
    problems: { ...bad, ...missing },
  },
  'POST /api/desk/bookings': {
    summary: 'Book a client into an event type, or into a session of its own (`oneOff`); it is confirmed at once, and what it costs is paid at the session',
    right: 'changeSessions', body: deskBookingSchema, status: '201', answer: z.strictObject({ sessionId: text }),
    headers: { 'Idempotency-Key': '1 to 128 visible characters; the same key with the same body is answered the same' },
    problems: {
      ...bad, ...missing, 422: 'It does not suit the event type, the time is over already, or the key came with another body',
      409: 'It is not open then: with `reasons` it can be booked all the same (`despite`), else another session is in the way; `nearest` gives other times',
    },
  },
} as const satisfies Record<string, Call>
