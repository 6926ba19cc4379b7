import { z } from 'zod'
import type { Reach, Right } from '../../../core/account/rights'
import { signedInSchema } from '../../../core/views/desk'

/** What a row of the table of calls holds, and what many rows share. */

/** Whose the thing is that an `{id}` names, and how far a host must reach for it where it is another host's. */
export type Subject =
  | { kind: 'session' | 'booking' | 'delivery' | 'hostsSessions', needs: Reach['sessions'] }
  | { kind: 'hours', needs: Reach['hours'] }
  | { kind: 'host' | 'account' | 'calendarAccount' | 'calendar', needs: 'own' }
  /** The member themselves, or anybody for whoever may change people. */
  | { kind: 'member', needs: 'own' }

export interface Call {
  summary: string
  /** What a member needs to make it; calls without a right are open to all. */
  right?: Right
  /** Checked before the call is handled; whoever does not reach it is answered as if it did not exist. */
  subject?: Subject
  body?: z.ZodType
  /** The types of a body of bytes. */
  upload?: readonly string[]
  query?: z.ZodType
  headers?: Record<string, string>
  /** The JSON of a success; text of another type, or an address that the browser is sent on to. */
  answer: z.ZodType
  type?: 'text/calendar' | 'text/event-stream' | 'image/webp'
  redirects?: true
  status?: '201' | '202' | '204'
  /** Statuses of problems and what they mean, beside those that the right implies. */
  problems?: Record<string, string>
}

export const missing = { 404: 'There is nothing at this address' }
export const bad = { 400: 'The body or the query is malformed; `errors` names each field' }
export const limited = { 429: 'Too many tries' }
export const overtaken = { 409: 'Somebody else changed it meanwhile' }

export const text = z.string()
export const done = <Name extends string>(name: Name) => z.strictObject({ [name]: z.boolean() } as Record<Name, z.ZodBoolean>)
export const madeSchema = z.strictObject({ id: text })
export const savedSchema = z.strictObject({ version: z.int() })
export const sentOn = { answer: z.unknown(), redirects: true } as const
export const anybody = { answer: signedInSchema } as const
