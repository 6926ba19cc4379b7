import { z } from 'zod'
import { slugSchema } from './event-type/definition'
import { zoneName } from './openings/schema'

/** What a workspace's owner decides about it as a whole. */

/** First parts of addresses that are the application’s own. */
export const ownPaths: readonly string[] = [
  'desk', 'api', 'bookings', 'health', 'feeds', 'freebusy', 'embed', 'assets', 'workspace', 'problems',
]

export const workspaceSettingsSchema = z.strictObject({
  name: z.string().trim().min(1).max(120),
  about: z.string().trim().max(1000),
  slug: slugSchema,
  timeZone: zoneName,
  /** Whether a cancelled session counts as its host's turn all the same. */
  countsCancelled: z.boolean(),
})
export type WorkspaceSettings = z.infer<typeof workspaceSettingsSchema>

export const workspaceSettingsViewSchema = workspaceSettingsSchema.extend({
  name: z.string(),
  /** Where addresses begin. */
  base: z.string(),
  /** Addresses that still lead here. */
  earlier: z.array(z.string()),
})
export type WorkspaceSettingsView = z.infer<typeof workspaceSettingsViewSchema>
