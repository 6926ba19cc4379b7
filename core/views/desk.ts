import { z } from 'zod'
import { reachSchema } from '../account/rights'
import { type MemberRole, memberRoles } from '../account/roles'
import { bookingStates, roomStates } from '../booking/states'
import { clockFaces } from '../time/format'
import { titleFaultSchema, trailEntrySchema } from '../booking/trail'
import { checkHostSchema, findingSchema } from '../checks/finding'
import { bookedSessionSchema } from '../event-type/affected-sessions'
import { groupSchema } from '../event-type/groups'
import { definitionSchema } from '../event-type/definition'
import { phraseSchema } from '../event-type/sentence'
import { eventTypeStates } from '../event-type/settings'
import { hostTimeSchema } from '../event-type/host-time'
import { faultBySchema, faultSchema } from '../faults'
import { sharedPlanSchema } from '../event-type/shared-hours'
import { holidayDatesSchema, storedPlanSchema } from '../hours/plan'
import { questionSetSchema } from '../intake/question-sets'
import { occasions } from '../messages/occasions'
import { answerTextSchema } from './client'
import { assignmentViewSchema } from './rotation'

/** What the desk's calls answer, shared by the server that fills it and the screens that show it. Instants in seconds. */

const text = z.string()
const instant = z.int()

export { type MemberRole, memberRoles }

export const signedInSchema = z.strictObject({
  workspaceId: text,
  memberId: text,
  name: text,
  email: text,
  /** Whether the member has shown that the address is theirs. */
  confirmed: z.boolean(),
  role: z.enum(memberRoles),
  /** How far the member reaches with what is other hosts'. */
  reach: reachSchema,
  timeZone: text,
  /** The clock times are written on, where the member has chosen one. */
  clock: z.enum(clockFaces).nullable(),
  workspace: z.strictObject({
    slug: text, name: text,
    /** When it will be deleted, where an owner has asked for that. */
    deletedAt: instant.nullable(),
  }),
})
export type SignedIn = z.infer<typeof signedInSchema>

export const accountViewSchema = z.strictObject({
  email: text,
  secondFactorSince: instant.nullable(),
  recoveryCodesLeft: z.int(),
  /** The address that one is changing to, and which mailbox has agreed. */
  newEmail: text.nullable(),
  oldConfirms: z.boolean(),
  newConfirms: z.boolean(),
})
export type AccountView = z.infer<typeof accountViewSchema>

export const deviceSchema = z.strictObject({
  id: text, device: text, workspace: text, since: instant, lastSeen: instant,
  /** Whether it is the one that asks. */
  current: z.boolean(),
})
export type Device = z.infer<typeof deviceSchema>

export const peopleViewSchema = z.strictObject({
  now: instant,
  people: z.array(z.strictObject({
    name: text, email: text, timeZone: text,
    /** How they sign in; null for hosts who do not. */
    member: z.strictObject({ id: text, role: z.enum(memberRoles), own: z.boolean() }).nullable(),
    /** What they are in sessions; null for whoever hosts nothing. */
    host: z.strictObject({
      id: text,
      /** The hash of their picture. */
      picture: text.nullable(),
      /** Their default hours; null where the member may not see them. */
      hours: z.strictObject({ planId: text, weekly: storedPlanSchema.shape.weekly, hasMore: z.boolean() }).nullable(),
      /** The last day of the stretch they are away in today. */
      awayUntil: z.iso.date().nullable(),
      video: z.enum(['own', 'workspace', 'lost', 'none']),
      /** Sessions to come. */
      coming: z.int(),
    }).nullable(),
  })),
  /** Invitations that wait, or are over without having been accepted. */
  invitations: z.array(z.strictObject({
    id: text, name: text, email: text, role: z.enum(memberRoles), hosts: z.boolean(), by: text, until: instant,
  })),
})
export type PeopleView = z.infer<typeof peopleViewSchema>

export const invitationViewSchema = z.strictObject({
  state: z.enum(['open', 'accepted', 'withdrawn', 'expired']),
  workspace: text,
  name: text,
  email: text,
  role: z.enum(memberRoles),
  hosts: z.boolean(),
  by: text,
  until: instant,
  /** Whether the address signs in here already, and whether it is the one that is signed in. */
  account: z.enum(['signedIn', 'known', 'new']),
  signedInAs: text.nullable(),
})
export type InvitationView = z.infer<typeof invitationViewSchema>

export const workspaceChoiceSchema = z.strictObject({ id: text, slug: text, name: text, current: z.boolean() })
export type WorkspaceChoice = z.infer<typeof workspaceChoiceSchema>

const sessionCardSchema = z.strictObject({
  id: text,
  eventType: text,
  start: instant,
  end: instant,
  hosts: z.array(z.strictObject({ id: text, name: text })),
  placeKind: text,
  /** Whether the member may see who booked it, and more. */
  open: z.boolean(),
  room: z
    .strictObject({ state: z.enum(roomStates), fault: faultBySchema.nullable(), nextTryAt: instant.nullable(), hostUrl: text.nullable() })
    .nullable(),
  bookings: z.array(
    z.strictObject({
      id: text,
      client: text,
      state: z.enum(bookingStates),
      createdAt: instant,
      firstAnswers: z.array(text),
    }),
  ),
})
export type SessionCard = z.infer<typeof sessionCardSchema>

const attentionSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('message'),
    id: text,
    sessionId: text,
    eventType: text,
    client: text,
    start: instant,
    occasion: z.enum(occasions),
    address: text,
    unknown: z.boolean(),
    fault: faultSchema.nullable(),
    nextTryAt: instant.nullable(),
  }),
  z.strictObject({
    kind: z.literal('room'),
    sessionId: text,
    eventType: text,
    start: instant,
    withdrawn: z.boolean(),
    fault: faultBySchema.nullable(),
    nextTryAt: instant.nullable(),
  }),
  z.strictObject({ kind: z.literal('title'), eventTypeId: text, eventType: text, fault: titleFaultSchema }),
  z.strictObject({ kind: z.literal('job'), id: text, task: text, nextTryAt: instant.nullable() }),
  /** A session to come whose host has left. */
  z.strictObject({ kind: z.literal('hostLeft'), sessionId: text, eventType: text, start: instant, host: text }),
  /** No process runs jobs, so mails and rooms wait. */
  z.strictObject({ kind: z.literal('noJobs') }),
])
/** Something that did not work and that somebody must look at. */
export type Attention = z.infer<typeof attentionSchema>

export const setupSteps = ['hours', 'open', 'video', 'booked'] as const
const setupStepSchema = z.strictObject({ step: z.enum(setupSteps), done: z.boolean() })
export type SetupStep = z.infer<typeof setupStepSchema>

export const todayViewSchema = z.strictObject({
  now: instant,
  hosts: z.array(z.strictObject({ id: text, name: text, timeZone: text, own: z.boolean() })),
  /** The sessions of the day that was asked for. */
  today: z.array(sessionCardSchema),
  /** Those of the day that were cancelled, with the bookings that they had. */
  cancelled: z.array(sessionCardSchema),
  /** The next confirmed session, whatever the day. */
  next: sessionCardSchema.nullable(),
  /** The sessions of the seven days after today. */
  coming: z.array(sessionCardSchema),
  /** Everything ahead that waits for a person, by session. */
  waiting: z.array(sessionCardSchema),
  /** What went wrong behind the scenes and waits for a person. */
  attention: z.array(attentionSchema),
  /** What is left to set up, with what is done; empty where all is. */
  setup: z.array(setupStepSchema),
})
export type TodayView = z.infer<typeof todayViewSchema>

const datedEntrySchema = z.strictObject({ id: z.int(), at: instant, bookingId: text.nullable(), entry: trailEntrySchema })
export type DatedEntry = z.infer<typeof datedEntrySchema>

export const sessionViewSchema = z.strictObject({
  id: text,
  eventType: z.strictObject({ id: text, name: text }),
  cancelled: z.boolean(),
  /** Whether the member may change it, and is shown the host link, the passcode and the clients' pages. */
  mayChange: z.boolean(),
  start: instant,
  end: instant,
  seats: z.int(),
  place: z.strictObject({ kind: text, text }),
  hosts: z.array(z.strictObject({ id: text, name: text, timeZone: text, chair: text })),
  room: z
    .strictObject({
      state: z.enum(roomStates),
      joinUrl: text.nullable(),
      hostUrl: text.nullable(),
      number: text.nullable(),
      passcode: text.nullable(),
      attempts: z.int(),
      fault: faultBySchema.nullable(),
      nextTryAt: instant.nullable(),
    })
    .nullable(),
  bookings: z.array(
    z.strictObject({
      id: text,
      state: z.enum(bookingStates),
      client: z.strictObject({ name: text, email: text, phone: text.nullable(), timeZone: text }),
      source: text.nullable(),
      createdAt: instant,
      cancelReason: text.nullable(),
      answers: z.array(answerTextSchema),
      /** The client's own page. */
      page: text.nullable(),
      messages: z.array(
        z.strictObject({
          id: text,
          occasion: text,
          audience: text,
          address: text,
          state: text,
          sentAt: instant.nullable(),
          nextTryAt: instant.nullable(),
          withLink: z.boolean().nullable(),
        }),
      ),
    }),
  ),
  /** How each chair came to its host, the latest last. */
  assignments: z.array(assignmentViewSchema),
  /** How the trail calls the member who reads; null where it cannot be told from another member. */
  reader: text.nullable(),
  trail: z.array(datedEntrySchema),
})
export type SessionView = z.infer<typeof sessionViewSchema>

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

export const questionSetViewSchema = questionSetSchema.extend({
  version: z.int(),
  /** Event types that ask these questions. */
  usedBy: z.array(z.strictObject({ id: text, name: text, state: z.enum(eventTypeStates), archived: z.boolean() })),
})
export type QuestionSetView = z.infer<typeof questionSetViewSchema>

export const publishedVersionSchema = z.strictObject({ version: z.int(), definition: definitionSchema, by: text, at: instant })
export type PublishedVersion = z.infer<typeof publishedVersionSchema>

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

const hostConnectionSchema = z.strictObject({
  hostId: text,
  name: text,
  /** Whether it is the member who asks. */
  own: z.boolean(),
  account: z.strictObject({ id: text, label: text, state: z.enum(['connected', 'lost']), since: instant }).nullable(),
})
export type HostConnection = z.infer<typeof hostConnectionSchema>

export const connectionsSchema = z.strictObject({
  /** The video services of the installation. */
  services: z.array(z.strictObject({ key: text, name: text })),
  hosts: z.array(hostConnectionSchema),
})
export type Connections = z.infer<typeof connectionsSchema>
