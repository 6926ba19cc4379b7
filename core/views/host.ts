import { z } from 'zod'
import { memberRoles } from '../account/roles'
import { slugSchema } from '../event-type/definition'
import { awaySchema } from '../hours/away'
import { storedPlanSchema } from '../hours/plan'
import { emailSchema, phoneSchema } from '../intake'
import { zoneName } from '../openings'
import { fixedRoomSchema } from '../rooms/ways'
import { fault } from '../validation'
import { poolShareSchema, poolViewSchema } from './rotation'
import { sessionRowSchema } from './session-list'

/** One host's page at the desk. Instants in seconds. */

const text = z.string()

/** What a host, or whoever sets up the workspace, decides about the host. */
export const hostProfileSchema = z.strictObject({
  /** What clients and the team read. */
  name: z.string().trim().min(1).max(120).refine(name => !name.includes('://'), fault('webAddressInName')),
  about: z.string().trim().max(600),
  timeZone: zoneName,
  /** E.164, for the team only; null without one. */
  phone: phoneSchema.nullable(),
  /** Where the host's own page for clients stands, after `with/`; null without one. */
  slug: slugSchema.nullable(),
  /** The address of their account at video services; empty where it is their own. */
  videoEmail: z.union([z.literal(''), emailSchema]),
  /** A room that is always theirs; null without one, and for those who may not change it. */
  fixedRoom: fixedRoomSchema.nullable(),
  away: awaySchema,
})
export type HostProfile = z.infer<typeof hostProfileSchema>

export const hostViewSchema = z.strictObject({
  id: text,
  /** Whether it is the member who asks, and whether they may change it. */
  own: z.boolean(),
  mayChange: z.boolean(),
  /** Raised by every change of the profile. */
  version: z.int(),
  email: text,
  role: z.enum(memberRoles).nullable(),
  /** Away dates are there for those who may see the host's hours. */
  profile: z.strictObject({ name: text, about: text, timeZone: text, phone: text.nullable(), slug: text.nullable(), videoEmail: text,
    fixedRoom: z.strictObject({ link: text, number: text, passcode: text }).nullable(), away: awaySchema }),
  /** What the address of the host's own page begins with. */
  base: text,
  /** The hash of the picture. */
  picture: text.nullable(),
  /** Their own plans and those of the workspace, any of which can be their default; null where the member may not see them. */
  plans: z.array(z.strictObject({
    id: text, name: text, shared: z.boolean(), isDefault: z.boolean(), weekly: storedPlanSchema.shape.weekly, hasMore: z.boolean(),
  })).nullable(),
  video: z.strictObject({
    state: z.enum(['own', 'workspace', 'lost', 'none']),
    /** Who the own account is connected as, for those who may change it. */
    label: text.nullable(),
  }),
  /** What their calendars do, and what is wrong with their accounts; null where the member may not see it. */
  calendars: z.strictObject({ blocking: z.array(text), receiving: text.nullable(), faults: z.array(text) }).nullable(),
  /** The next sessions, as far as the member may see them, and how many there are in all. */
  coming: z.array(sessionRowSchema),
  comingCount: z.int(),
  /** What the host had in each pool that they take turns in, and what all of its hosts had together. */
  shares: z.array(poolViewSchema.omit({ hosts: true }).extend({ own: poolShareSchema, total: z.int() })),
  /** Event types that the host's own page offers, by their public names. */
  offered: z.array(text),
  days: z.int(),
  now: z.int(),
})
/** Secret addresses of what other programs read of a host's sessions. */
export const hostAddressesSchema = z.strictObject({
  feed: text,
  freeBusy: text,
  /** Whether the second says when the host's calendars take their time, and not sessions alone. */
  withCalendars: z.boolean(),
})
export const freeBusySchema = z.strictObject({ withCalendars: z.boolean() })
export type HostAddresses = z.infer<typeof hostAddressesSchema>

export type HostView = z.infer<typeof hostViewSchema>
