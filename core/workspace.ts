import { z } from 'zod'
import { calendarLinksSchema } from './calendar/links'
import { slugSchema } from './event-type/definition'
import { reachSchema } from './account/rights'
import { quietHoursSchema } from './messages/quiet-hours'
import { zoneName } from './openings/schema'
import { patternSchema, waysSchema } from './rooms/ways'

/** What a workspace's owner decides about it as a whole. */

/** How long the deletion of a workspace can be taken back. Seconds. */
export const DELETION_SECONDS = 30 * 86_400

/** First parts of addresses that are the application’s own. */
export const ownPaths: readonly string[] = [
  'desk', 'api', 'bookings', 'health', 'feeds', 'freebusy', 'embed', 'assets', 'workspace', 'problems',
]

/** After so long without an answer of one of their calendars, a workspace may stop offering a host. */
export const SILENT_SECONDS = 86_400

export const workspaceSettingsSchema = z.strictObject({
  name: z.string().trim().min(1).max(120),
  about: z.string().trim().max(1000),
  slug: slugSchema,
  timeZone: zoneName,
  /** Whether a cancelled session counts as its host's turn all the same. */
  countsCancelled: z.boolean(),
  /** Whether a session that all its clients missed counts as its host's turn. */
  countsMissed: z.boolean(),
  /** Whether a host is no longer offered once one of their calendars has not answered for a day. */
  stopsSilent: z.boolean(),
  /** Which ways to a room are tried, in this order, where an event type says no other. */
  roomWays: waysSchema,
  /** The address of rooms on a meeting server of its own, with `{room}` for a part that nobody can guess; empty without one. */
  roomPattern: patternSchema,
  /** Links to calendars on the web that clients are offered. */
  calendarLinks: calendarLinksSchema,
  /** When nobody is sent a phone text, where its reader is; null for texts at any time. */
  quietHours: quietHoursSchema.nullable(),
  /** How far hosts reach with what is other hosts'. */
  hostReach: reachSchema,
})
export type WorkspaceSettings = z.infer<typeof workspaceSettingsSchema>

export const workspaceSettingsViewSchema = workspaceSettingsSchema.extend({
  name: z.string(),
  /** Where addresses begin. */
  base: z.string(),
  /** Addresses that still lead here. */
  earlier: z.array(z.string()),
  /** Whom the deletion was asked by, and when it is done (seconds); null where nobody has. */
  deletion: z.strictObject({ by: z.string(), at: z.int() }).nullable(),
})
export type WorkspaceSettingsView = z.infer<typeof workspaceSettingsViewSchema>
