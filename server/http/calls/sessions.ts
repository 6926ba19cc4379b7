import { z } from 'zod'
import { guestsViewSchema, moveOpeningsSchema } from '../../../core/views/client'
import { ledgerSchema } from '../../../core/rotation/ledger'
import { roomWayViewSchema, sessionViewSchema, todayViewSchema } from '../../../core/views/desk'
import { handOverResultSchema, handOverViewSchema } from '../../../core/views/rotation'
import { sessionListSchema } from '../../../core/views/session-list'
import { givenLinkSchema } from '../../../core/rooms/ways'
import { attendanceSchema, closeSchema, deskMoveQuerySchema, deskMoveSchema, handOverSchema, newPlaceSchema, renewedRoomSchema, savedNotesSchema, sessionsQuerySchema, todayQuerySchema } from '../requests'
import { guestsRequestSchema, peopleRequestSchema } from '../../booking'
import { bad, type Call, done, missing, overtaken, savedSchema } from './call'

const movedSchema = z.strictObject({ moved: z.literal(true), sessionId: z.string() })

const hostsSchema = z.strictObject({
  hosts: z.array(z.strictObject({ id: z.string(), name: z.string(), email: z.string(), timeZone: z.string() })),
})

/** Sessions, their bookings and messages, and what waits for a person. */

export const sessionsCalls = {
  'GET /api/desk/today': {
    summary: 'A day, what waits for a person, and the coming days: a host’s own, else all; 304 while its ETag is still right',
    right: 'seeSessions',
    query: todayQuerySchema,
    answer: todayViewSchema,
    problems: bad,
  },
  'GET /api/desk/sessions': {
    summary: 'A page of sessions, past or to come, by client, date, host, event type, state and tag: a host’s own, else all',
    right: 'seeSessions', query: sessionsQuerySchema, answer: sessionListSchema, problems: bad,
  },
  'GET /api/desk/hosts': {
    summary: 'Everybody who can be given sessions', right: 'seePeople', answer: hostsSchema,
  },
  'GET /api/desk/sessions/{id}': {
    summary: 'Everything about one session, with its trail',
    right: 'seeSessions', subject: { kind: 'session', needs: 'clients' },
    answer: sessionViewSchema,
    problems: missing,
  },
  'GET /api/desk/sessions/{id}/assignments': {
    summary: 'How the session came to its hosts, as it was decided, which `npm run rotation` replays',
    right: 'seeSessions', subject: { kind: 'session', needs: 'clients' }, answer: ledgerSchema, problems: missing,
  },
  'PUT /api/desk/sessions/{id}/notes': {
    summary: 'Save the team’s notes and tags of a session over the version that was read; clients see none of it',
    right: 'changeSessions', subject: { kind: 'session', needs: 'change' }, body: savedNotesSchema, answer: savedSchema,
    problems: { ...bad, ...missing, ...overtaken },
  },
  'POST /api/desk/sessions/{id}/room': {
    summary: 'Try a failing room again now',
    right: 'changeSessions', subject: { kind: 'session', needs: 'change' },
    answer: done('tried'),
    problems: { ...missing, 409: 'The room is not failing' },
  },
  'POST /api/desk/sessions/{id}/room/renew': {
    summary: 'Have a new room made in place of the one there is; everybody is told',
    right: 'changeSessions', subject: { kind: 'session', needs: 'change' }, body: renewedRoomSchema, answer: done('planned'),
    problems: { ...missing, 409: 'It is over, cancelled, not by video, or nobody is confirmed' },
  },
  'POST /api/desk/sessions/{id}/room/link': {
    summary: 'Give a session a link in place of its room; everybody is told',
    right: 'changeSessions', subject: { kind: 'session', needs: 'change' }, body: givenLinkSchema, answer: done('given'),
    problems: { ...bad, ...missing, 409: 'It is over, cancelled, not by video, or nobody is confirmed' },
  },
  'DELETE /api/desk/sessions/{id}/room': {
    summary: 'Remove a session’s link; everybody is told',
    right: 'changeSessions', subject: { kind: 'session', needs: 'change' }, answer: done('removed'),
    problems: { ...missing, 409: 'It has no link, is over or cancelled, or nobody is confirmed' },
  },
  'GET /api/desk/sessions/{id}/room/ways': {
    summary: 'The ways to a room that are open to a session at present, in the order in which they are tried',
    right: 'changeSessions', subject: { kind: 'session', needs: 'change' }, answer: z.array(roomWayViewSchema), problems: missing,
  },
  'PUT /api/desk/sessions/{id}/place': {
    summary: 'Let a session take place elsewhere, or by video; everybody is told',
    right: 'changeSessions', subject: { kind: 'session', needs: 'change' }, body: newPlaceSchema, answer: done('changed'),
    problems: { ...bad, ...missing, 409: 'It is over or cancelled, or nobody is confirmed' },
  },
  'GET /api/desk/hosts/{id}/hand-over': {
    summary: 'A host’s sessions to come, with who would take each by rotation and who else is free', right: 'changeSessions', subject: { kind: 'hostsSessions', needs: 'change' },
    answer: handOverViewSchema, problems: missing,
  },
  'POST /api/desk/hosts/{id}/hand-over': {
    summary: 'Hand sessions of a host over, each to whoever is next in turn or to whom is named; everybody is told',
    right: 'changeSessions', subject: { kind: 'hostsSessions', needs: 'change' }, body: handOverSchema, answer: handOverResultSchema, problems: { ...bad, ...missing },
  },
  'POST /api/desk/bookings/{id}/approve': {
    summary: 'Approve a request',
    right: 'changeSessions', subject: { kind: 'booking', needs: 'change' },
    answer: done('approved'),
    problems: { ...missing, 409: 'It no longer waits, or its session is over' },
  },
  'POST /api/desk/sessions/{id}/entry/put-back': {
    summary: 'Write a session into its hosts’ calendars again, as somebody has moved or deleted its entry there',
    right: 'changeSessions', subject: { kind: 'session', needs: 'change' }, answer: done('planned'),
    problems: { ...missing, 409: 'Nobody has changed its entry' },
  },
  'POST /api/desk/sessions/{id}/entry/follow': {
    summary: 'Move or cancel a session as somebody has moved or deleted its entry in a host’s calendar; its clients are told',
    right: 'changeSessions', subject: { kind: 'session', needs: 'change' }, answer: done('followed'),
    problems: { ...missing, 409: 'Nobody has changed its entry, or another session is in the way' },
  },
  'GET /api/desk/bookings/{id}/openings': {
    summary: 'Times that a booking, or its whole session, can be moved to, dates inclusive in the given zone, at most 92 days a call',
    right: 'changeSessions', subject: { kind: 'booking', needs: 'change' }, query: deskMoveQuerySchema, answer: moveOpeningsSchema,
    problems: { ...missing, ...bad },
  },
  'POST /api/desk/bookings/{id}/move': {
    summary: 'Move a booking, or its whole session; everybody it concerns is told',
    right: 'changeSessions', subject: { kind: 'booking', needs: 'change' }, body: deskMoveSchema, answer: movedSchema,
    problems: {
      ...bad, ...missing, 422: 'The time is over already',
      409: 'It is not open then: with `reasons` it can be moved all the same (`despite`), else another session is in the way; `nearest` gives other times. Or it has ended',
    },
  },
  'POST /api/desk/bookings/{id}/guests': {
    summary: 'Invite guests of a client, or take them off the list; everybody it concerns is told',
    right: 'changeSessions', subject: { kind: 'booking', needs: 'change' },
    body: guestsRequestSchema, answer: z.strictObject({ guests: guestsViewSchema }),
    problems: { ...bad, ...missing, 409: 'It has ended, or its session is over', 422: 'They are too many' },
  },
  'POST /api/desk/bookings/{id}/people': {
    summary: 'Change for how many people a booking is; its client and the hosts are told',
    right: 'changeSessions', subject: { kind: 'booking', needs: 'change' },
    body: peopleRequestSchema, answer: z.strictObject({ people: z.int() }),
    problems: { ...bad, ...missing, 409: 'It has ended, or its session is over', 422: 'So many cannot be booked, or too few seats are left' },
  },
  'POST /api/desk/bookings/{id}/close': {
    summary: 'Cancel a booking or decline a request',
    right: 'changeSessions', subject: { kind: 'booking', needs: 'change' },
    body: closeSchema,
    answer: done('closed'),
    problems: { ...bad, ...missing, 409: 'It has ended, or its session is over' },
  },
  'POST /api/desk/bookings/{id}/attendance': {
    summary: 'Mark a booking as attended or missed, from the start of its session on',
    right: 'changeSessions', subject: { kind: 'booking', needs: 'change' },
    body: attendanceSchema,
    answer: attendanceSchema,
    problems: { ...bad, ...missing, 409: 'Its session has not begun, or it was cancelled' },
  },
  'POST /api/desk/deliveries/{id}/send': {
    summary: 'Send a message again that did not go out or whose outcome is unknown',
    right: 'changeSessions', subject: { kind: 'delivery', needs: 'change' },
    answer: done('planned'),
    problems: { ...missing, 409: 'It was sent, or a later change has replaced it' },
  },
  'POST /api/desk/jobs/{id}/run': {
    summary: 'Run a job at once that keeps failing',
    right: 'changeEventTypes',
    answer: done('planned'),
    problems: missing,
  },
} as const satisfies Record<string, Call>
