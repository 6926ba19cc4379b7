import { z } from 'zod'
import { faultBySchema } from '../faults'
import { accountStates } from '../rooms/accounts'
import { wayKinds } from '../rooms/ways'

/** Who is connected as whom at which service, and what is wrong with it. Instants in seconds. */

const text = z.string()
const instant = z.int()

export const videoAccountSchema = z.strictObject({
  id: text,
  /** The service's key and name. */
  service: text,
  name: text,
  /** Who it is connected as, in the service's words. */
  label: text,
  state: z.enum(accountStates),
  since: instant,
  /** Why its service refuses whatever is asked of it, and since when. */
  refusal: faultBySchema.nullable(),
  refusedSince: instant.nullable(),
  /** What it is allowed, where the service says so: rooms at once, minutes a session, people in a room. */
  plan: z.strictObject({
    rooms: z.int().nullable(), roomsUsed: z.int(), minutes: z.int().nullable(), people: z.int().nullable(),
  }).nullable(),
  lookedAt: instant.nullable(),
  /** Sessions that have no room because of it. */
  waiting: z.int(),
})
export type VideoAccountView = z.infer<typeof videoAccountSchema>

/** What a host is in the workspace's account at a service that has users. `ended`: the invitation was not accepted in time. */
export const serviceUserStates = ['main', 'user', 'invited', 'ended', 'none'] as const
export type ServiceUserState = (typeof serviceUserStates)[number]

/** An account that is not the host's by its address, as a member is asked about it; `owner` is whose address it is, if anybody's. */
export const askedAccountSchema = z.strictObject({ service: text, sealed: text, label: text, owner: text.nullable() })
export type AskedAccount = z.infer<typeof askedAccountSchema>

const hostConnectionSchema = z.strictObject({
  hostId: text,
  name: text,
  email: text,
  /** The address of their account at video services, where it is another one. */
  videoEmail: text,
  /** Whether it is the member who asks. */
  own: z.boolean(),
  /** Whether the member may connect accounts for them: their own, and for others those of hosts who do not sign in. */
  connects: z.boolean(),
  accounts: z.array(videoAccountSchema),
  users: z.array(z.strictObject({ accountId: text, state: z.enum(serviceUserStates), until: instant.nullable() })),
  hasFixedRoom: z.boolean(),
  /** Event types by video that they may be given, and others. */
  byVideo: z.array(text),
  elsewhere: z.array(z.strictObject({ id: text, name: text })),
})
export type HostConnection = z.infer<typeof hostConnectionSchema>

export const connectionsSchema = z.strictObject({
  /** The video services of the installation, and what is typed in to connect one by credentials. */
  services: z.array(z.strictObject({
    key: text, name: text, owner: z.enum(['host', 'workspace']),
    fields: z.array(z.strictObject({ key: text, label: text, isSecret: z.boolean() })),
    hasUsers: z.boolean(),
  })),
  /** Calendar servers that can be connected by consent. */
  calendarServers: z.array(z.strictObject({ key: text, name: text })),
  hosts: z.array(hostConnectionSchema),
  /** What the workspace has for everybody, and in which order ways to a room are tried. */
  workspace: z.strictObject({
    mayChange: z.boolean(), accounts: z.array(videoAccountSchema), order: z.array(z.enum(wayKinds)), hasPattern: z.boolean(),
  }),
})
export type Connections = z.infer<typeof connectionsSchema>

/** The account that clients pay to. */
export const paymentConnectionsSchema = z.strictObject({
  services: z.array(z.strictObject({
    key: text, name: text, fields: z.array(z.strictObject({ key: text, label: text, isSecret: z.boolean() })),
  })),
  account: z.strictObject({ service: text, name: text, label: text, since: instant }).nullable(),
})
export type PaymentConnections = z.infer<typeof paymentConnectionsSchema>
