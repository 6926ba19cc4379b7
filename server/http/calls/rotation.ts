import { z } from 'zod'
import { editedGroupSchema } from '../../../core/event-type/groups'
import { ledgerSchema } from '../../../core/rotation/ledger'
import { sentWhatIfSchema } from '../../../core/rotation/what-if'
import { groupEffectSchema, groupViewSchema, rotationViewSchema } from '../../../core/views/rotation'
import { changedGroupSchema, rotationQuerySchema, whatIfQuerySchema } from '../requests'
import { bad, type Call, done, madeSchema, missing, overtaken, savedSchema } from './call'

/** Groups of hosts, and how pools share their sessions. */

export const rotationCalls = {
  'GET /api/desk/groups': {
    summary: 'The groups of hosts with what draws on them', right: 'seePeople', answer: z.array(groupViewSchema),
  },
  'POST /api/desk/groups': {
    summary: 'Add a group of hosts', right: 'changeEventTypes', body: editedGroupSchema, answer: madeSchema,
    problems: { ...bad, 422: 'A host is not the workspace’s, or there are too many groups' },
  },
  'POST /api/desk/groups/{id}': {
    summary: 'Change a group over the version it was read in, for every chair that draws on it',
    right: 'changeEventTypes', body: changedGroupSchema, answer: savedSchema,
    problems: { ...bad, ...missing, ...overtaken, 422: 'A host is not the workspace’s' },
  },
  'POST /api/desk/groups/{id}/preview': {
    summary: 'What a change of a group would mean for the openings of the next two weeks; nothing is saved',
    right: 'changeEventTypes', body: editedGroupSchema, answer: z.array(groupEffectSchema),
    problems: { ...missing, ...bad, 422: 'A host is not the workspace’s' },
  },
  'DELETE /api/desk/groups/{id}': {
    summary: 'Delete a group that no chair draws on', right: 'changeEventTypes', answer: done('deleted'),
    problems: { ...missing, 409: 'An event type draws on it' },
  },
  'GET /api/desk/rotation': {
    summary: 'Every pool in which hosts take turns, with what each had of its sessions and what they were due',
    right: 'seeRotation', query: rotationQuerySchema, answer: rotationViewSchema, problems: bad,
  },
  'GET /api/desk/rotation/{id}/what-if': {
    summary: 'What the last 90 days of a pool can be played anew with, fewer of a large one, with some more hosts',
    right: 'tryRotation', query: whatIfQuerySchema, answer: sentWhatIfSchema, problems: { ...bad, ...missing },
  },
  'GET /api/desk/rotation/{id}/ledger': {
    summary: 'All assignments of a pool as they were decided, which `npm run rotation` replays',
    right: 'seeRotation', answer: ledgerSchema,
  },
} as const satisfies Record<string, Call>
