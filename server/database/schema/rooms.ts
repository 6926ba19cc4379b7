import { sql } from 'drizzle-orm'
import { boolean, foreignKey, index, integer, jsonb, pgTable, primaryKey, text, timestamp, uniqueIndex, uuid } from 'drizzle-orm/pg-core'
import { roomStates } from '../../../core/booking/states'
import type { FaultBy } from '../../../core/faults'
import { accountStates } from '../../../core/rooms/accounts'
import type { AccountPlan } from '../../ports/video'
import type { RoomWay } from '../../../core/rooms/ways'
import { sessions } from './booking'
import { hosts, workspaces } from './people'

export const videoAccounts = pgTable('video_accounts', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  /** Null for the workspace's own account. */
  hostId: uuid('host_id'),
  /** Its key among the services of the installation. */
  service: text('service').notNull(),
  /** Who it is connected as, in the service's own words. */
  label: text('label').notNull(),
  /** What the service is reached with, sealed with the application's secret. */
  sealedCredentials: text('sealed_tokens').notNull(),
  state: text('state', { enum: accountStates }).notNull().default('connected'),
  connectedAt: timestamp('connected_at', { withTimezone: true }).notNull().defaultNow(),
  /** Why its service refuses whatever is asked of it, since when, and the one room that finds out whether it still does. */
  refusal: jsonb('refusal').$type<FaultBy>(),
  refusedSince: timestamp('refused_since', { withTimezone: true }),
  probeRoomId: uuid('probe_room_id'),
  /** What it is allowed, as its service said when it was last looked at. */
  plan: jsonb('plan').$type<AccountPlan>(),
  lookedAt: timestamp('looked_at', { withTimezone: true }),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  foreignKey({ columns: [table.workspaceId, table.hostId], foreignColumns: [hosts.workspaceId, hosts.id] }),
  uniqueIndex('video_accounts_owner')
    .on(table.workspaceId, table.service, sql`coalesce(${table.hostId}, '00000000-0000-0000-0000-000000000000'::uuid)`)
    .where(sql`${table.state} <> 'disconnected'`),
])

/** Hosts who are users of an account at its service, or are invited to be. */
export const videoUsers = pgTable('video_users', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  accountId: uuid('account_id').notNull(),
  hostId: uuid('host_id').notNull(),
  /** The service's own id of the user. */
  externalId: text('external_id').notNull(),
  isMain: boolean('is_main').notNull(),
  /** Until when the invitation can be accepted; null for those who are users. */
  invitedUntil: timestamp('invited_until', { withTimezone: true }),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.accountId, table.hostId] }),
  foreignKey({ columns: [table.workspaceId, table.accountId], foreignColumns: [videoAccounts.workspaceId, videoAccounts.id] }),
  foreignKey({ columns: [table.workspaceId, table.hostId], foreignColumns: [hosts.workspaceId, hosts.id] }),
])

export const rooms = pgTable('rooms', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  sessionId: uuid('session_id').notNull(),
  /** What the service knows the room by: the same reference always leads to the same room. */
  reference: uuid('reference').notNull().defaultRandom(),
  /** When another room took its place: its host handed the session over, or it was not made in time. */
  replacedAt: timestamp('replaced_at', { withTimezone: true }),
  state: text('state', { enum: roomStates }).notNull().default('planned'),
  /** The way it is made by, whose it is where it is a host's, and the key it is known by from one try to the next. */
  way: text('way').$type<RoomWay>(),
  wayHostId: uuid('way_host_id'),
  wayKey: text('way_key'),
  /** Keys of the ways that were given up before this one, whose rooms it takes the place of. */
  givenUp: text('given_up').array().notNull().default(sql`'{}'`),
  /** Until when confirmations wait for it. */
  waitsUntil: timestamp('waits_until', { withTimezone: true }),
  accountId: uuid('account_id'),
  /** The user of the account that it is made for: empty for its main user, null where its service has none. */
  userId: text('user_id'),
  /** The account that refuses, or waits for approval, where that is why there is no room. */
  waitsFor: uuid('waits_for'),
  externalId: text('external_id'),
  joinUrl: text('join_url'),
  hostUrl: text('host_url'),
  number: text('number'),
  passcode: text('passcode'),
  /** When this way was first tried. */
  triedSince: timestamp('tried_since', { withTimezone: true }),
  /** When the service was last asked for it, whether or not it answered. */
  askedAt: timestamp('asked_at', { withTimezone: true }),
  /** When it was last asked and has not answered, be it that the try is under way: it may make a room that nobody has heard of. */
  unansweredAt: timestamp('unanswered_at', { withTimezone: true }),
  /** Warnings about its absence that its hosts have been sent: one under 24 hours before the start, one under an hour. */
  warnings: integer('warnings').notNull().default(0),
  attempts: integer('attempts').notNull().default(0),
  lastFault: jsonb('last_fault').$type<FaultBy>(),
  nextTryAt: timestamp('next_try_at', { withTimezone: true }),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  foreignKey({ columns: [table.workspaceId, table.sessionId], foreignColumns: [sessions.workspaceId, sessions.id] }),
  foreignKey({ columns: [table.workspaceId, table.accountId], foreignColumns: [videoAccounts.workspaceId, videoAccounts.id] }),
  uniqueIndex('rooms_current').on(table.workspaceId, table.sessionId).where(sql`${table.replacedAt} is null`),
  index('rooms_failing').on(table.workspaceId, table.sessionId).where(sql`${table.state} = 'failing'`),
  index('rooms_left').on(table.workspaceId, table.sessionId).where(sql`${table.state} = 'making' or ${table.lastFault} is not null`),
  index('rooms_session').on(table.workspaceId, table.sessionId),
])
