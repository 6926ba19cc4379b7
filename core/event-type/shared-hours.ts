import { z } from 'zod'
import { storedPlanSchema } from '../hours/plan'
import type { Settings } from './settings'

/**
 * Hours plans of the workspace that several event types name as their own. An event type carries the plan with it: whoever
 * loads or publishes it brings it up to date (`withCurrentHours`).
 */
export const sharedPlanSchema = z.strictObject({ id: z.uuid(), name: z.string(), plan: storedPlanSchema })
export type SharedPlan = z.infer<typeof sharedPlanSchema>

/** The same settings with a shared plan as it is now; one that is no longer there becomes the event type's own. */
export function withCurrentHours<Part extends Pick<Settings, 'hours'>>(settings: Part, plans: ReadonlyMap<string, SharedPlan>): Part {
  const { hours } = settings
  if (hours.mode === 'hosts' || hours.shared === undefined) return settings
  const { shared, ...rest } = hours
  const current = plans.get(shared)
  return { ...settings, hours: current ? { ...hours, plan: current.plan } : rest }
}
