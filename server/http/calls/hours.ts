import { z } from 'zod'
import { holidaySchema } from '../../../core/hours/plan'
import { countrySchema, hoursRowSchema, hoursViewSchema } from '../../../core/views/hours'
import { holidaysQuerySchema, hoursSchema, newHoursSchema, sharingSchema } from '../requests'
import { type Call, missing, bad, overtaken, done, madeSchema, savedSchema } from './call'

/** Hours plans and holidays. */

export const hoursCalls = {
  'GET /api/desk/hours': { summary: 'Hours plans of the hosts whose hours the member may see, and of the workspace', right: 'seeHours', answer: z.array(hoursRowSchema) },
  'POST /api/desk/hours': {
    summary: 'Create an hours plan like another one: of the same host, or of the workspace for several to share',
    right: 'seeHours',
    body: newHoursSchema,
    answer: madeSchema,
    problems: { ...bad, ...missing, 422: 'The host has too many plans' },
  },
  'GET /api/desk/hours/{id}': {
    summary: 'An hours plan and where it is used',
    right: 'seeHours', subject: { kind: 'hours', needs: 'see' },
    answer: hoursViewSchema,
    problems: missing,
  },
  'POST /api/desk/hours/{id}': {
    summary: 'Change an hours plan over the version it was read in',
    right: 'seeHours', subject: { kind: 'hours', needs: 'change' },
    body: hoursSchema,
    answer: savedSchema,
    problems: { ...bad, ...missing, ...overtaken, 422: 'The plan is too large' },
  },
  'POST /api/desk/hours/{id}/default': {
    summary: 'Make a plan the default one of its host',
    right: 'seeHours', subject: { kind: 'hours', needs: 'change' },
    answer: done('isDefault'),
    problems: missing,
  },
  'POST /api/desk/hours/{id}/hosts': {
    summary: 'Decide which hosts have a plan of the workspace',
    right: 'changeEventTypes',
    body: sharingSchema,
    answer: done('saved'),
    problems: { ...bad, ...missing, 409: 'It is the default of a host who is not named', 422: 'A host is not the workspace’s' },
  },
  'DELETE /api/desk/hours/{id}': {
    summary: 'Delete an hours plan that is nobody’s default and that no event type names',
    right: 'seeHours', subject: { kind: 'hours', needs: 'change' },
    answer: done('deleted'),
    problems: { ...missing, 409: 'It is somebody’s default, or an event type names it' },
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
} as const satisfies Record<string, Call>
