import { z } from 'zod'

/** What kinds of calendar accounts there are, and what becomes of them. */

export const accountKinds = ['caldav', 'feed', 'file'] as const
/** `refused` is over until a person does something; `failing` is tried again by itself. */
export const accountStates = ['connected', 'failing', 'refused'] as const

/** Why an account could not be looked at. */
export const accountFaultCodes = [
  // The way there.
  'noAddress', 'notAllowed', 'unknownHost', 'unreachable', 'timedOut', 'certificate', 'noEncryption', 'tooLarge', 'manyRedirects', 'insecureRedirect',
  // What answered.
  'wrongPassword', 'consentLost', 'notCalDav', 'noCalendars', 'notACalendar', 'notFound', 'refused', 'serverError', 'unreadableAnswer',
  'tooMuch', 'unreadableAccess', 'internal',
] as const
export type AccountFaultCode = (typeof accountFaultCodes)[number]

export const accountFaultSchema = z.strictObject({
  code: z.enum(accountFaultCodes),
  /** The server in question. */
  host: z.string(),
  /** HTTP status, where that is all there is to say. */
  status: z.int().nullable(),
})
export type AccountFault = z.infer<typeof accountFaultSchema>
