import { z } from 'zod'
import { bookingStates } from '../booking/states'

/** A page of sessions, past or to come. Instants in seconds. */

const text = z.string()

export const SESSIONS_A_PAGE = 50

export const sessionRowSchema = z.strictObject({
  id: text,
  eventType: text,
  start: z.int(),
  end: z.int(),
  cancelled: z.boolean(),
  hosts: z.array(text),
  /** Whether the member may see who booked it, and more. */
  open: z.boolean(),
  tags: z.array(text),
  clients: z.array(z.strictObject({ name: text, state: z.enum(bookingStates) })),
})
export type SessionRow = z.infer<typeof sessionRowSchema>

export const sessionListSchema = z.strictObject({
  rows: z.array(sessionRowSchema),
  /** Whether there is another page. */
  hasMore: z.boolean(),
})
export type SessionList = z.infer<typeof sessionListSchema>
