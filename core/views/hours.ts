import { z } from 'zod'
import { holidayDatesSchema, storedPlanSchema } from '../hours/plan'

/** What the desk is answered about hours plans and holidays. */

const text = z.string()
const instant = z.int()

export const hoursRowSchema = z.strictObject({
  id: text, name: text, plan: storedPlanSchema, own: z.boolean(),
  /** Whose it is; null where it is the workspace's. */
  host: text.nullable(),
  /** Whether it applies where an event type names no other of the host's plans. */
  isDefault: z.boolean(),
  /** The names of the hosts who have a plan of the workspace. */
  sharedBy: z.array(text),
})
export type HoursRow = z.infer<typeof hoursRowSchema>

export const hoursViewSchema = z.strictObject({
  id: text,
  name: text,
  version: z.int(),
  isDefault: z.boolean(),
  plan: storedPlanSchema,
  /** Null for a plan of the workspace. */
  host: z.strictObject({ id: text, name: text, timeZone: text }).nullable(),
  /** The hosts who have a plan of the workspace, and whose default it is. */
  sharedBy: z.array(z.strictObject({ id: text, name: text, isDefault: z.boolean() })),
  mayChange: z.boolean(),
  /** Event types to which the plan applies, be it through a host or as their own hours. */
  usedBy: z.array(z.strictObject({ id: text, name: text, narrowed: z.boolean() })),
  holidays: holidayDatesSchema,
  now: instant,
})
export type HoursView = z.infer<typeof hoursViewSchema>

export const countrySchema = z.strictObject({ code: text, name: text, regions: z.array(z.strictObject({ code: text, name: text })) })
export type CountryChoice = z.infer<typeof countrySchema>
