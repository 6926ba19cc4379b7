import { sql } from 'drizzle-orm'
import { foreignKey, index, integer, jsonb, pgTable, primaryKey, text, timestamp, unique, uniqueIndex, uuid } from 'drizzle-orm/pg-core'
import { roomStates } from '../../../core/booking/states'
import type { FaultBy } from '../../../core/faults'
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
  state: text('state', { enum: ['connected', 'lost'] }).notNull().default('connected'),
  connectedAt: timestamp('connected_at', { withTimezone: true }).notNull().defaultNow(),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  foreignKey({ columns: [table.workspaceId, table.hostId], foreignColumns: [hosts.workspaceId, hosts.id] }),
  unique('video_accounts_owner_unique').on(table.workspaceId, table.service, table.hostId).nullsNotDistinct(),
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
  externalId: text('external_id'),
  joinUrl: text('join_url'),
  hostUrl: text('host_url'),
  number: text('number'),
  passcode: text('passcode'),
  /** When this way was first tried. */
  triedSince: timestamp('tried_since', { withTimezone: true }),
  /** When the service was last asked for it, whether or not it answered. */
  askedAt: timestamp('asked_at', { withTimezone: true }),
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
