import { z } from 'zod'
import type { Definition } from '../event-type/definition'
import { panels } from '../event-type/sentence'
import { settingsSchema } from '../event-type/settings'
import type { HolidayDates } from '../hours/plan'
import type { HostTime } from '../event-type/host-time'

/** What a check finds about a set-up, and what it looks at. */

export const severities = ['stops', 'risky', 'look'] as const
/** stops: it stops bookings; risky: something may go wrong; look: worth a look. */
export type Severity = (typeof severities)[number]

const text = z.string()

export const wayOutSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('set'), words: text, settings: settingsSchema.partial() }),
  z.strictObject({ kind: z.literal('open'), words: text, panel: z.enum(panels) }),
  z.strictObject({ kind: z.literal('go'), words: text, to: text }),
])
export type WayOut = z.infer<typeof wayOutSchema>

export const findingSchema = z.strictObject({
  code: text,
  severity: z.enum(severities),
  /** One or two sentences: what was found and why it matters. */
  words: text,
  wayOut: wayOutSchema,
})
export type Finding = z.infer<typeof findingSchema>

export const checkHostSchema = z.strictObject({
  id: text,
  name: text,
  timeZone: text,
  hasVideo: z.boolean(),
  plans: z.array(z.strictObject({ id: text, name: text, timeZone: text, holidays: z.boolean() })),
})
export type CheckHost = z.infer<typeof checkHostSchema>

export interface CheckContext {
  definition: Definition
  /** All hosts of the workspace. */
  hosts: readonly CheckHost[]
  /** Hours and taken time, at least of the hosts in the chairs, for the next 14 days. */
  time: readonly HostTime[]
  holidays: HolidayDates
  /** Other event types, offers and pages that lead to this one. */
  linkedFrom: readonly string[]
  /** RFC 3339, UTC. */
  now: string
}

export const severityWords: Record<Severity, string> = { stops: 'Stops bookings', risky: 'Risky', look: 'Worth a look' }
