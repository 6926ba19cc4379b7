import { z } from 'zod'
import { accountsViewSchema, accountViewSchema, calendarChangeSchema, calendarViewSchema, discoveredSchema, newAccountSchema, takenSpanSchema, takenViewSchema } from '../../../core/views/calendars'
import { calendarConsentQuerySchema, connectQuerySchema } from '../requests'
import { bad, type Call, missing, sentOn } from './call'

/** Hosts' calendars. */

const own = { kind: 'calendarAccount', needs: 'own' } as const
const refused = { 422: 'The server refuses, is none, or is not allowed; `errors` says which, and why' }

export const calendarsCalls = {
  'GET /api/desk/calendar-accounts': {
    summary: 'Calendar accounts with their calendars: to a host their own, to others all of them, never what is in them',
    right: 'connectAccounts', answer: accountsViewSchema,
  },
  'POST /api/desk/calendar-accounts': {
    summary: 'Connect a CalDAV account or a feed, or upload a file (multipart/form-data with `hostId`, `name` and `file`), and look through it once',
    right: 'connectAccounts', body: newAccountSchema, upload: ['multipart/form-data'], answer: accountViewSchema, status: '201',
    problems: { ...bad, ...missing, 413: 'It has more than 20 MB', ...refused },
  },
  'GET /api/desk/calendar-discovery': {
    summary: 'Which server an address or a mail domain leads to: the only one that is sent a password',
    right: 'connectAccounts', query: z.object({ address: z.string().trim().min(1).max(2000) }), answer: discoveredSchema,
    problems: { ...bad, ...refused },
  },
  'GET /api/desk/hosts/{id}/taken': {
    summary: 'What takes a host’s time within three days: sessions, and entries by their calendars; titles only to the host',
    right: 'connectAccounts', subject: { kind: 'host', needs: 'own' }, query: takenSpanSchema, answer: takenViewSchema, problems: { ...bad, ...missing },
  },
  'POST /api/desk/calendar-accounts/{id}/look': {
    summary: 'Look at an account at once', right: 'connectAccounts', subject: own, answer: accountViewSchema,
    problems: { ...missing, 409: 'It is being looked at' },
  },
  'DELETE /api/desk/calendar-accounts/{id}': {
    summary: 'Disconnect an account: nothing in its calendars takes time any more', right: 'connectAccounts', subject: own,
    answer: z.null(), status: '204', problems: missing,
  },
  'GET /api/desk/calendar-servers/{server}/connect': {
    summary: 'Send a member on to a calendar server to give consent', right: 'connectAccounts', query: connectQuerySchema, ...sentOn,
    problems: { ...bad, ...missing },
  },
  'GET /api/desk/calendar-servers/{server}/return': {
    summary: 'Where a calendar server sends a member back to', right: 'connectAccounts', query: calendarConsentQuerySchema, ...sentOn,
    problems: bad,
  },
  'PATCH /api/desk/calendars/{id}': {
    summary: 'Change whether a calendar blocks, which of the host’s sessions it receives, and what of it counts',
    right: 'connectAccounts', subject: { kind: 'calendar', needs: 'own' }, body: calendarChangeSchema, answer: calendarViewSchema,
    problems: { ...bad, ...missing, 422: 'It cannot be written to, or an event type does not exist' },
  },
} as const satisfies Record<string, Call>
