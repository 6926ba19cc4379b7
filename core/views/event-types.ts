import { z } from 'zod'
import { checkHostSchema, checkMessageSchema, findingSchema, roomWaysViewSchema } from '../checks/finding'
import { bookedSessionSchema } from '../event-type/affected-sessions'
import { groupSchema } from '../event-type/groups'
import { definitionSchema } from '../event-type/definition'
import { phraseSchema } from '../event-type/sentence'
import { eventTypeStates } from '../event-type/settings'
import { hostTimeSchema, sentHostTimeSchema } from '../event-type/host-time'
import { sharedPlanSchema } from '../event-type/shared-hours'
import { holidayDatesSchema } from '../hours/plan'
import { questionSetSchema } from '../intake/question-sets'

/** What the desk is answered about event types and the questions that they share. Instants in seconds. */

const text = z.string()
const instant = z.int()

export const eventTypeRowSchema = z.strictObject({
  id: text,
  version: z.int(),
  slug: text,
  name: text,
  /** What the team calls it, empty where that is the same. */
  teamName: text,
  state: z.enum(eventTypeStates),
  listed: z.boolean(),
  archived: z.boolean(),
  colour: text,
  tags: z.array(text),
  sentence: z.array(phraseSchema),
  /** How many parts of the member's own draft differ from what is published. */
  unpublishedChanges: z.int(),
  /** The worst finding about it, if any. */
  worst: findingSchema.nullable(),
  page: text,
  nextOpening: text.nullable(),
  /** Bookings on each of the last 30 days, oldest first. */
  bookingsPerDay: z.array(z.int()),
  /** Bookings whose session is still to come. */
  bookingsAhead: z.int(),
  /** Whether anybody ever booked it; only what nobody has can be deleted. */
  everBooked: z.boolean(),
})
export type EventTypeRow = z.infer<typeof eventTypeRowSchema>

export type BenchHost = z.infer<typeof checkHostSchema>

export const benchViewSchema = z.strictObject({
  id: text,
  version: z.int(),
  archived: z.boolean(),
  definition: definitionSchema,
  draft: z.strictObject({ basedOn: z.int(), definition: definitionSchema, at: instant }).nullable(),
  page: text,
  /** All hosts of the workspace: any of them may be given a chair. */
  hosts: z.array(checkHostSchema),
  /** What the worker computes with: hours and taken time of the seated hosts for the next weeks, as far as the member sees them. */
  time: z.array(hostTimeSchema),
  /** Sessions to come with their clients, for those who may publish. */
  booked: z.array(bookedSessionSchema),
  holidays: holidayDatesSchema,
  /** Names of other event types whose texts lead to this one. */
  linkedFrom: z.array(text),
  messages: z.array(checkMessageSchema),
  roomWays: roomWaysViewSchema,
  /** Whether a payment account is connected. */
  canBePaid: z.boolean(),
  /** The workspace's shared questions, which any event type may ask. */
  questionSets: z.array(questionSetSchema),
  /** All members of the workspace: any of them may be told of sessions. */
  members: z.array(z.strictObject({ id: text, name: text })),
  /** The workspace's hours plans, which any event type may take as its own. */
  sharedPlans: z.array(sharedPlanSchema),
  /** The workspace's groups of hosts, which any chair may draw on. */
  groups: z.array(groupSchema),
  now: instant,
})
export type BenchView = z.infer<typeof benchViewSchema>
/** The same as it is sent. */
export const sentBenchSchema = benchViewSchema.extend({ time: z.array(sentHostTimeSchema) })
export type SentBench = z.infer<typeof sentBenchSchema>

export const questionSetViewSchema = questionSetSchema.extend({
  version: z.int(),
  /** Event types that ask these questions. */
  usedBy: z.array(z.strictObject({ id: text, name: text, state: z.enum(eventTypeStates), archived: z.boolean() })),
})
export type QuestionSetView = z.infer<typeof questionSetViewSchema>

export const publishedVersionSchema = z.strictObject({ version: z.int(), definition: definitionSchema, by: text, at: instant })
export type PublishedVersion = z.infer<typeof publishedVersionSchema>
