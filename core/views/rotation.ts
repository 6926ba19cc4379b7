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
  /** Whether there is another page. */
  hasMore: z.boolean(),
})
export type RotationView = z.infer<typeof rotationViewSchema>

/** What handing over a host's sessions to come would lead to. */
export const handOverViewSchema = z.strictObject({
  host: z.strictObject({ id: text, name: text }),
  /** All hosts of the workspace, whom ids below name. */
  hosts: z.array(z.strictObject({ id: text, name: text })),
  /** Open event types that nobody else hosts. */
  closes: z.array(text),
  seats: z.array(z.strictObject({
    sessionId: text, eventType: text, chair: text, start: z.int(), end: z.int(), clients: z.array(text),
    /** Who is next in turn; null where nobody of the chair is free. */
    proposal: text.nullable(),
    /** Who of the chair is free, and who beside it. */
    free: z.array(text), others: z.array(text),
  })),
})
export type HandOverView = z.infer<typeof handOverViewSchema>

export const handOverResultSchema = z.strictObject({
  results: z.array(z.strictObject({
    sessionId: text, outcome: z.enum(['handedOver', 'notFound', 'nobodyFree', 'taken']),
    /** The name of who took it. */
    to: text.nullable(),
  })),
})
export type HandOverResult = z.infer<typeof handOverResultSchema>['results'][number]

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
