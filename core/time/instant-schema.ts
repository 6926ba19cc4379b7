import { z } from 'zod'
import { fault } from '../validation'
import { parseDate, parseInstant } from './civil'

/** Dates and instants as calls take them: of centuries that every part of the way can count in. */

const [FIRST_YEAR, LAST_YEAR] = [1900, 2199]

function isNear(text: string): boolean {
  const year = Number(text.slice(0, 4))
  return year >= FIRST_YEAR && year <= LAST_YEAR
}

export const dateSchema = z
  .string()
  .refine(text => parseDate(text) !== null, { error: fault('date'), abort: true })
  .refine(isNear, fault('year'))

export const instantSchema = z
  .string()
  .refine(text => parseInstant(text) !== null, { error: fault('instant'), abort: true })
  .refine(isNear, fault('year'))
