import { z } from 'zod'
import { type MemberRole, memberRoles } from '../account/roles'
import { reachSchema } from '../account/rights'
import { bookingStates, roomStates } from '../booking/states'
import { clockFaces } from '../time/format'
import { titleFaultSchema, trailEntrySchema } from '../booking/trail'
import { faultBySchema, faultSchema } from '../faults'
import { accountFaultSchema } from './calendar-account'
import { storedPlanSchema } from '../hours/plan'
import { placeKinds } from '../event-type/place-kinds'
import { channels, occasions } from '../messages/occasions'
import { paymentStandings } from '../payment/payment'
import { roomWays } from '../rooms/ways'
import { answerTextSchema, guestsViewSchema } from './client'
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
  /** For texts to the team, E.164. */
  phone: text.nullable(),
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
      /** The last day of the stretch they are away in today; for those who may see their hours. */
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
    .strictObject({
      state: z.enum(roomStates), fault: faultBySchema.nullable(), nextTryAt: instant.nullable(), hostUrl: text.nullable(),
      /** The account that refuses, or waits for approval, where that is why there is none. */
      waitsFor: text.nullable(),
    })
    .nullable(),
  bookings: z.array(
    z.strictObject({
      id: text,
      client: text,
      state: z.enum(bookingStates),
      createdAt: instant,
      /** When a request expires without an answer. */
      expiresAt: instant.nullable(),
      firstAnswers: z.array(text),
    }),
  ),
})
export type SessionCard = z.infer<typeof sessionCardSchema>

const attentionSchema = z.discriminatedUnion('kind', [
  /** A calendar account that has not been read since an instant; `own` where it is the member's. */
  z.strictObject({
    kind: z.literal('calendar'), accountId: text, own: z.boolean(), host: text, label: text, since: instant, fault: accountFaultSchema.nullable(),
  }),
  /** A video account that makes no rooms: `host` is null for the workspace's. `sessions` have no room because of it. */
  z.strictObject({
    kind: z.literal('videoAccount'), accountId: text, own: z.boolean(), host: text.nullable(), service: text, state: z.enum(['waiting', 'lost', 'refused', 'full']),
    since: instant.nullable(), fault: faultSchema.nullable(), sessions: z.int(),
  }),
  /** A host whose invitation to the workspace's account ends soon, or has ended. */
  z.strictObject({ kind: z.literal('videoInvitation'), hostId: text, host: text, service: text, until: instant }),
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
    /** Still at its service though withdrawn; or there, but nothing answers at its link. */
    withdrawn: z.boolean(),
    ready: z.boolean(),
    fault: faultBySchema.nullable(),
    nextTryAt: instant.nullable(),
  }),
  /** A session whose entry in a host's calendar somebody moved or deleted. */
  z.strictObject({
    kind: z.literal('entry'), sessionId: text, eventType: text, host: text, start: instant, what: z.enum(['moved', 'deleted']),
    movedTo: instant.nullable(),
  }),
  /** Money that could not be paid back so far, or a payment that is not what was asked for. */
  z.strictObject({
    kind: z.literal('payment'), bookingId: text, sessionId: text, eventType: text, client: text, amount: z.int(), currency: text, isRefund: z.boolean(),
    fault: faultBySchema.nullable(), nextTryAt: instant.nullable(),
  }),
  z.strictObject({ kind: z.literal('title'), eventTypeId: text, eventType: text, fault: titleFaultSchema }),
  z.strictObject({ kind: z.literal('job'), id: text, task: text, nextTryAt: instant.nullable() }),
  /** A session to come whose host has left. */
  z.strictObject({ kind: z.literal('hostLeft'), sessionId: text, eventType: text, start: instant, host: text }),
  /** An open event type by video whose clients would get no link. */
  z.strictObject({ kind: z.literal('noRoomWay'), eventTypeId: text, eventType: text }),
  /** What the nightly audit found, in words. */
  z.strictObject({ kind: z.literal('audit'), found: z.array(text) }),
  /** No process runs jobs, so mails and rooms wait. */
  z.strictObject({ kind: z.literal('noJobs') }),
])
/** Something that did not work and that somebody must look at. */
export type Attention = z.infer<typeof attentionSchema>

export const setupSteps = ['hours', 'open', 'calendar', 'video', 'booked'] as const
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
  /** How much there is on each of the seven days after today in the zone that was asked for; days without any are left out. */
  comingDays: z.array(z.strictObject({
    date: z.iso.date(), sessions: z.int(),
    /** When the first of them starts, and how many bookings wait for approval. */
    first: instant, toApprove: z.int(),
  })),
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

/** A way to a room that is open to a session: the account's label where it leads to one. */
export const roomWayViewSchema = z.strictObject({ key: text, kind: z.enum(roomWays), name: text, account: text.nullable() })
export type RoomWayView = z.infer<typeof roomWayViewSchema>

export const sessionViewSchema = z.strictObject({
  id: text,
  /** `oneOff`: made for this session alone. */
  eventType: z.strictObject({ id: text, name: text, oneOff: z.boolean() }),
  cancelled: z.boolean(),
  /** Whether the member may change it, and is shown the host link, the passcode and the clients' pages. */
  mayChange: z.boolean(),
  start: instant,
  end: instant,
  seats: z.int(),
  /** For the team only, and of which version they are. */
  notes: text,
  tags: z.array(text),
  notesVersion: z.int(),
  place: z.strictObject({ kind: z.enum(placeKinds), text, note: text }),
  hosts: z.array(z.strictObject({ id: text, name: text, timeZone: text, chair: text })),
  room: z
    .strictObject({
      state: z.enum(roomStates),
      joinUrl: text.nullable(),
      hostUrl: text.nullable(),
      number: text.nullable(),
      passcode: text.nullable(),
      /** Whether it is under the main user of the workspace's account. */
      underMainUser: z.boolean(),
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
      payment: z.strictObject({
        standing: z.enum(paymentStandings), amount: z.int(), currency: text, paidAmount: z.int(), refundAmount: z.int(),
        refundedAmount: z.int(),
        /** Whether it is paid at the session, where its host marks it. */
        byHand: z.boolean(),
      }).nullable(),
      people: z.int(),
      /** Whether it may be for several. */
      countsPeople: z.boolean(),
      source: text.nullable(),
      createdAt: instant,
      /** When a request expires without an answer. */
      expiresAt: instant.nullable(),
      cancelReason: text.nullable(),
      /** Where the client would like to meet. */
      suggestion: text.nullable(),
      guests: guestsViewSchema,
      answers: z.array(answerTextSchema),
      /** The client's own page. */
      page: text.nullable(),
      messages: z.array(
        z.strictObject({
          id: text,
          occasion: text,
          /** What the team calls it, where it is one of the workspace's own. */
          name: text.nullable(),
          channel: z.enum(channels),
          audience: text,
          address: text,
          state: text,
          /** Whether it was not sent because of quiet hours. */
          isQuiet: z.boolean(),
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
