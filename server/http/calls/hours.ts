import { z } from 'zod'
import { holidaySchema } from '../../../core/hours/plan'
import { countrySchema, hoursRowSchema, hoursViewSchema } from '../../../core/views/desk'
import { holidaysQuerySchema, hoursSchema, newHoursSchema } from '../requests'
import { type Call, missing, bad, overtaken, done, madeSchema, savedSchema } from './call'

/** Hours plans and holidays. */

export const hoursCalls = {
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
} as const satisfies Record<string, Call>
