import {
  bigint,
  boolean,
  check,
  customType,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  unique,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core'
import { sql } from 'drizzle-orm'
import { presetReach, type Reach } from '../../../core/account/rights'
import type { AwayDates } from '../../../core/hours/away'
import type { StoredPlan } from '../../../core/hours/plan'
import { clockFaces } from '../../../core/time/format'
import type { Looks } from '../../../core/views/client'
import { type FixedRoom, presetWays, type WayKind } from '../../../core/rooms/ways'
import type { CalendarLink } from '../../../core/calendar/links'
import { PRESET_QUIET_HOURS, type QuietHours } from '../../../core/messages/quiet-hours'
import { memberRoles } from '../../../core/views/desk'

export const workspaces = pgTable('workspaces', {
  id: uuid('id').primaryKey().defaultRandom(),
  slug: text('slug').notNull().unique(),
  name: text('name').notNull(),
  about: text('about').notNull().default(''),
  timeZone: text('time_zone').notNull(),
  /** When its owner confirmed their address; until then only its members see its pages. */
  confirmedAt: timestamp('confirmed_at', { withTimezone: true }),
  looks: jsonb('looks').$type<Looks>().notNull(),
  /** Whether a cancelled session counts as its host's turn all the same. */
  countsCancelled: boolean('counts_cancelled').notNull().default(false),
  /** Whether a session that all its clients missed counts as its host's turn. */
  countsMissed: boolean('counts_missed').notNull().default(true),
  /** Whether a host is no longer offered once one of their calendars has not answered for a day. */
  stopsSilent: boolean('stops_silent').notNull().default(false),
  /** Which ways to a room are tried, in this order, where an event type says no other. */
  roomWays: jsonb('room_ways').$type<WayKind[]>().notNull().default([...presetWays]),
  /** What the nightly audit found broken, in words. */
  brokenPromises: jsonb('broken_promises').$type<string[]>().notNull().default([]),
  /** The address of rooms on a meeting server of its own; empty where there is none. */
  roomPattern: text('room_pattern').notNull().default(''),
  /** Links to calendars on the web that clients are offered. */
  calendarLinks: jsonb('calendar_links').$type<CalendarLink[]>().notNull().default([]),
  /** When nobody is sent a phone text, where its reader is; null where texts go out at any time. */
  quietHours: jsonb('quiet_hours').$type<QuietHours>().default(PRESET_QUIET_HOURS),
  /** How far its hosts reach with what is other hosts'. */
  hostReach: jsonb('host_reach').$type<Reach>().notNull().default(presetReach),
  /** When an owner asked for the workspace to be deleted, and who it was. It can be taken back for 30 days. */
  deletionAskedAt: timestamp('deletion_asked_at', { withTimezone: true }),
  deletionAskedBy: text('deletion_asked_by'),
  /**
   * Raised by triggers whenever something changes that pages and openings are made from: the workspace, its event types,
   * chairs, hosts and hours plans (not bookings). What was read under one stamp holds as long as the stamp does.
   */
  stamp: bigint('stamp', { mode: 'number' }).notNull().default(0),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
})

/** Addresses that a workspace had before and that still lead to it. */
export const workspaceAddresses = pgTable('workspace_addresses', {
  slug: text('slug').primaryKey(),
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
}, table => [index('workspace_addresses_workspace').on(table.workspaceId)])

/** How a person signs in, whatever workspaces they are a member of. The one table that belongs to no workspace. */
export const accounts = pgTable('accounts', {
  id: uuid('id').primaryKey().defaultRandom(),
  email: text('email').notNull(),
  passwordHash: text('password_hash').notNull(),
  /** When the person followed a link that was mailed to the address. */
  confirmedAt: timestamp('confirmed_at', { withTimezone: true }),
  /** The secret of the second factor, sealed with the application's; it counts once `secondFactorSince` is set. */
  sealedFactor: text('sealed_factor'),
  secondFactorSince: timestamp('second_factor_since', { withTimezone: true }),
  /** The time step (RFC 6238) of the last code that was taken: no code works twice. */
  lastCodeStep: bigint('last_code_step', { mode: 'number' }).notNull().default(0),
  /** Hashes of the recovery codes that have not been used. */
  recoveryHashes: text('recovery_hashes').array().notNull().default(sql`'{}'`),
  /** The address that the person is changing to, since when, and which of the two mailboxes has agreed. */
  newEmail: text('new_email'),
  newEmailAt: timestamp('new_email_at', { withTimezone: true }),
  oldConfirms: boolean('old_confirms').notNull().default(false),
  newConfirms: boolean('new_confirms').notNull().default(false),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
}, table => [
  // A confirmed address belongs to one person. Anybody may sign up with an address that is not theirs; that keeps nobody
  // from confirming it.
  uniqueIndex('accounts_email_confirmed').on(table.email).where(sql`${table.confirmedAt} is not null`),
  index('accounts_email').on(table.email),
  check('accounts_email_lower', sql`${table.email} = lower(${table.email})`),
])

export const members = pgTable('members', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  /** The person; null as long as an invitation waits. */
  accountId: uuid('account_id').references(() => accounts.id),
  name: text('name').notNull(),
  /** The account's address, or where the invitation went. */
  email: text('email').notNull(),
  role: text('role', { enum: memberRoles }).notNull(),
  timeZone: text('time_zone').notNull(),
  /** The clock that times are written on for the member; null leaves it to their browser's locale. */
  clock: text('clock', { enum: clockFaces }),
  /** For texts to the team, E.164. */
  phone: text('phone'),
  /** Until when an invitation can be accepted, and who sent it; null for whoever signed up. */
  invitedUntil: timestamp('invited_until', { withTimezone: true }),
  invitedBy: text('invited_by'),
  /** Whether an invited person is to host sessions. */
  invitedToHost: boolean('invited_to_host').notNull().default(false),
  /** When the person last entered this workspace: they arrive there when they sign in. */
  enteredAt: timestamp('entered_at', { withTimezone: true }),
  /** When the invitation was withdrawn. */
  withdrawnAt: timestamp('withdrawn_at', { withTimezone: true }),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  // A person is a member once, and an address has one invitation that waits.
  uniqueIndex('members_account').on(table.workspaceId, table.accountId),
  uniqueIndex('members_address').on(table.workspaceId, table.email).where(sql`${table.withdrawnAt} is null`),
  index('members_of_account').on(table.accountId),
  check('members_email_lower', sql`${table.email} = lower(${table.email})`),
])

/** Where members are signed in. The cookie holds the id; only its hash is stored. */
export const memberSessions = pgTable('member_sessions', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  idHash: text('id_hash').notNull(),
  memberId: uuid('member_id').notNull(),
  /** Browser and system, as a person would say them. */
  device: text('device').notNull(),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull(),
  lastSeenAt: timestamp('last_seen_at', { withTimezone: true }).notNull(),
  expiresAt: timestamp('expires_at', { withTimezone: true }).notNull(),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.idHash] }),
  foreignKey({ columns: [table.workspaceId, table.memberId], foreignColumns: [members.workspaceId, members.id] }),
  index('member_sessions_member').on(table.workspaceId, table.memberId),
  index('member_sessions_expiry').on(table.expiresAt),
])

export const hosts = pgTable('hosts', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  memberId: uuid('member_id'),
  name: text('name').notNull(),
  email: text('email').notNull(),
  timeZone: text('time_zone').notNull(),
  /** Raised by every change of what the host’s sessions take: as long as the sum over some hosts stays, so does their taken time. */
  takenStamp: bigint('taken_stamp', { mode: 'number' }).notNull().default(0),
  /** Whether the host's free/busy address also says when their calendars take their time. */
  freeBusyCalendars: boolean('free_busy_calendars').notNull().default(false),
  /** When the host left the workspace. Their past stays; they are given nothing any more. */
  leftAt: timestamp('left_at', { withTimezone: true, mode: 'string' }),
  /** What clients read about the host. */
  about: text('about').notNull().default(''),
  /** For the team only. */
  phone: text('phone'),
  /** Where the host's own page for clients stands, after `with/`; null without one. */
  slug: text('slug'),
  /** The hash of the host's picture, which its address is made of. */
  picture: text('picture'),
  /** The address of their account at a video service, where it is not their own. */
  videoEmail: text('video_email').notNull().default(''),
  /** A room that is always theirs. */
  fixedRoom: jsonb('fixed_room').$type<FixedRoom>(),
  /** Dates on which the host is away, whatever their hours say. */
  away: jsonb('away').$type<AwayDates[]>().notNull().default([]),
  /** The secret addresses of the host's feed and free/busy times are derived from it; another one makes them anew. */
  feedSeed: uuid('feed_seed').notNull().defaultRandom(),
  /** Raised by every change of the profile, so that nobody overwrites what another has saved. */
  profileVersion: integer('profile_version').notNull().default(1),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  uniqueIndex('hosts_slug').on(table.workspaceId, table.slug),
  foreignKey({ columns: [table.workspaceId, table.memberId], foreignColumns: [members.workspaceId, members.id] }),
  unique('hosts_member_unique').on(table.workspaceId, table.memberId),
])

const bytea = customType<{ data: Buffer }>({ dataType: () => 'bytea' })

/** Pictures of hosts in two sizes, without what a camera writes into them. */
export const hostPictures = pgTable('host_pictures', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  hostId: uuid('host_id').notNull(),
  hash: text('hash').notNull(),
  /** WebP, square. */
  large: bytea('large').notNull(),
  small: bytea('small').notNull(),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.hostId] }),
  foreignKey({ columns: [table.workspaceId, table.hostId], foreignColumns: [hosts.workspaceId, hosts.id] }),
  index('host_pictures_hash').on(table.hash),
])

export const hoursPlans = pgTable('hours_plans', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  /** Whose it is; null where it is the workspace's, for several hosts and event types. */
  hostId: uuid('host_id'),
  name: text('name').notNull(),
  plan: jsonb('plan').$type<StoredPlan>().notNull(),
  /** Raised by every change, so that two people who change it at once notice. */
  version: integer('version').notNull().default(1),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  foreignKey({ columns: [table.workspaceId, table.hostId], foreignColumns: [hosts.workspaceId, hosts.id] }),
  index('hours_plans_host').on(table.workspaceId, table.hostId),
])

/** Which hours plans a host has: their own, and those of the workspace that they share. */
export const hostPlans = pgTable('host_plans', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  hostId: uuid('host_id').notNull(),
  planId: uuid('plan_id').notNull(),
  /** The plan that applies where an event type names no other; each host has one. */
  isDefault: boolean('is_default').notNull().default(false),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.hostId, table.planId] }),
  foreignKey({ columns: [table.workspaceId, table.hostId], foreignColumns: [hosts.workspaceId, hosts.id] }),
  foreignKey({ columns: [table.workspaceId, table.planId], foreignColumns: [hoursPlans.workspaceId, hoursPlans.id] }),
  index('host_plans_plan').on(table.workspaceId, table.planId),
  uniqueIndex('host_plans_default').on(table.workspaceId, table.hostId).where(sql`${table.isDefault}`),
])
