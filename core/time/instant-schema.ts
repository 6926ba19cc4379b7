import { z } from 'zod'
import { parseDate, parseInstant } from './civil'

/** Dates and instants as calls take them: of centuries that every part of the way can count in. */

const [FIRST_YEAR, LAST_YEAR] = [1900, 2199]

function isNear(text: string): boolean {
  const year = Number(text.slice(0, 4))
  return year >= FIRST_YEAR && year <= LAST_YEAR
}
const nearWords = `Expected a year from ${FIRST_YEAR} to ${LAST_YEAR}`

const dateWords = 'Expected a date such as 2027-03-08'
export const dateSchema = z
  .string(dateWords)
  .refine(text => parseDate(text) !== null, { error: dateWords, abort: true })
  .refine(isNear, nearWords)

const instantWords = 'Expected an instant such as 2027-03-08T09:12:00Z'
export const instantSchema = z
  .string(instantWords)
  .refine(text => parseInstant(text) !== null, { error: instantWords, abort: true })
  .refine(isNear, nearWords)
