import { z } from 'zod'
import { groupSchema } from '../event-type/groups'
import { chairPolicies, eventTypeStates } from '../event-type/settings'
import { assignmentCodes } from '../rotation'
import { entryKinds } from '../rotation/ledger'
import { shareReasonSchema } from '../rotation/shares'

/** What the desk's calls answer about groups and rotation, shared by the server and the screens. Instants in seconds. */

const text = z.string()
const usedBySchema = z.strictObject({ id: text, name: text, state: z.enum(eventTypeStates), archived: z.boolean() })

export const groupViewSchema = groupSchema.extend({
  version: z.int(),
  /** Event types with a chair that draws on the group. */
  usedBy: z.array(usedBySchema),
})
export type GroupView = z.infer<typeof groupViewSchema>

/** What a change of a group would mean for an event type's next two weeks; null where there are too many openings to count. */
export const groupEffectSchema = z.strictObject({
  id: text,
  name: text,
  state: z.enum(eventTypeStates),
  openings: z.strictObject({ before: z.int(), after: z.int(), added: z.int(), removed: z.int() }).nullable(),
})
export type GroupEffect = z.infer<typeof groupEffectSchema>

export const poolShareSchema = z.strictObject({
  id: text,
  name: text,
  timeZone: text,
  weight: z.number(),
  had: z.int(),
  target: z.number().nullable(),
  /** What they are owed at present, in sessions. */
  credit: z.number(),
  reasons: z.array(shareReasonSchema),
})

/** A pool whose hosts take turns: a group, or a chair with several hosts of its own. */
export const poolViewSchema = z.strictObject({
  id: text,
  kind: z.enum(['group', 'chair']),
  /** The group's name, or the chair's. */
  name: text,
  policy: z.enum(chairPolicies),
  usedBy: z.array(usedBySchema),
  hosts: z.array(poolShareSchema),
})
export type PoolView = z.infer<typeof poolViewSchema>

export const rotationViewSchema = z.strictObject({
  now: z.int(),
  /** Over how many days sessions were counted. */
  days: z.int(),
  pools: z.array(poolViewSchema),
})
export type RotationView = z.infer<typeof rotationViewSchema>

/** Why a session went to whom it went: the assignment of a chair as it was decided. */
export const assignmentViewSchema = z.strictObject({
  id: text,
  chair: text,
  host: text,
  kind: z.enum(entryKinds),
  code: z.enum(assignmentCodes),
  at: z.int(),
  /** Whether its turn was given back since. */
  returned: z.boolean(),
  turns: z.array(z.strictObject({
    host: text, weight: z.number(),
    /** What they were owed at the choice: their credit with what the session gave them. */
    owed: z.number(), assignedAt: z.int().nullable(),
  })),
})
export type AssignmentView = z.infer<typeof assignmentViewSchema>
