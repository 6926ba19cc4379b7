import { z } from 'zod'

/**
 * What went wrong outside, as a code with values: stored, compared and sent as such, and turned into a sentence only where
 * somebody reads it.
 */

const text = z.string()
const schemas = [
  z.object({ code: z.literal('noVideoAccount') }),
  /** Somebody at the service has to approve this application first. */
  z.object({ code: z.literal('notApproved') }),
  z.object({ code: z.literal('deadLink') }),
  z.object({ code: z.literal('sessionOver') }),
  z.object({ code: z.literal('tooLate') }),
  z.object({ code: z.literal('stoppedWhileSending') }),
  z.object({ code: z.literal('unexpected'), error: text }),
  z.object({ code: z.literal('timeout'), seconds: z.number() }),
  z.object({ code: z.literal('unreachable') }),
  z.object({ code: z.literal('answered'), status: z.number(), reason: text }),
  z.object({ code: z.literal('unreadable') }),
  z.object({ code: z.literal('tooLong') }),
  /** The service takes only so many calls at once, and others had them. */
  z.object({ code: z.literal('tooManyCalls') }),
  z.object({ code: z.literal('unknownInstallation'), settings: z.array(text) }),
  z.object({ code: z.literal('consentUnreadable'), account: text }),
  z.object({ code: z.literal('mailServer'), reply: text }),
  /** Its server says that there is no such mailbox. */
  z.object({ code: z.literal('addressUnknown'), reply: text }),
  /** The service for phone texts says so, and that no phone has the number. */
  z.object({ code: z.literal('textService'), reply: text }),
  z.object({ code: z.literal('numberUnknown'), reply: text }),
  z.object({ code: z.literal('noPhoneTexts') }),
  /** It would have come too late after the quiet hours. */
  z.object({ code: z.literal('quietHours') }),
  /** Something else was paid than was to be. */
  z.object({ code: z.literal('paymentDiffers'), amount: z.number(), currency: text }),
  z.object({ code: z.literal('noPaymentService') }),
  /** The connection broke off before an answer came. */
  z.object({ code: z.literal('brokeOff') }),
  /** It was taken, and came back later. */
  z.object({ code: z.literal('cameBack'), reply: text }),
  /** Recorded as a sentence, before faults had codes. */
  z.object({ code: z.literal('sentence'), text }),
] as const

/** A fault, whoever met it. */
export const faultSchema = z.discriminatedUnion('code', schemas)
export type Fault = z.infer<typeof faultSchema>

/** A fault with who met it: a service by its name, or null for one that names nobody. */
export const faultBySchema = z.object({ by: text.nullable(), fault: faultSchema })
export type FaultBy = z.infer<typeof faultBySchema>

/** An error that nobody foresaw; its message may hold personal data and stays out. */
export function unexpectedFault(error: unknown): Fault {
  return { code: 'unexpected', error: error instanceof Error ? error.name : typeof error }
}
