import { sql } from 'drizzle-orm'
import {
  boolean,
  doublePrecision,
  foreignKey,
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
import type { Definition } from '../../../core/event-type/definition'
import type { Question } from '../../../core/intake'
import { chairPolicies, eventTypeStates, type Settings } from '../../../core/event-type/settings'
import { hosts, members, workspaces } from './people'

export const eventTypes = pgTable('event_types', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  slug: text('slug').notNull(),
  state: text('state', { enum: eventTypeStates }).notNull().default('draft'),
  listed: boolean('listed').notNull().default(true),
  position: integer('position').notNull().default(0),
  settings: jsonb('settings').$type<Settings>().notNull(),
  /** Raised by every publishing; a conflict between two people editing at once shows by it. */
  version: integer('version').notNull().default(1),
  updatedAt: timestamp('updated_at', { withTimezone: true }).notNull().defaultNow(),
  /** Made for a single session that a member arranged without an event type; no list of event types shows it. */
  oneOff: boolean('one_off').notNull().default(false),
  /** Put away: closed, and shown only where asked for. */
  archivedAt: timestamp('archived_at', { withTimezone: true }),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  unique('event_types_slug_unique').on(table.workspaceId, table.slug),
])

/** Addresses that an event type had before and that still lead to it. */
export const eventTypeAddresses = pgTable('event_type_addresses', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  slug: text('slug').notNull(),
  eventTypeId: uuid('event_type_id').notNull(),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.slug] }),
  foreignKey({ columns: [table.workspaceId, table.eventTypeId], foreignColumns: [eventTypes.workspaceId, eventTypes.id] }),
])

/** What was published, each time, and by whom. */
export const eventTypeVersions = pgTable('event_type_versions', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  eventTypeId: uuid('event_type_id').notNull(),
  version: integer('version').notNull(),
  definition: jsonb('definition').$type<Definition>().notNull(),
  publishedBy: text('published_by').notNull(),
  publishedAt: timestamp('published_at', { withTimezone: true }).notNull(),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.eventTypeId, table.version] }),
  foreignKey({ columns: [table.workspaceId, table.eventTypeId], foreignColumns: [eventTypes.workspaceId, eventTypes.id] }),
])

/** What a member has changed and not published. */
export const eventTypeDrafts = pgTable('event_type_drafts', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  eventTypeId: uuid('event_type_id').notNull(),
  memberId: uuid('member_id').notNull(),
  basedOn: integer('based_on').notNull(),
  definition: jsonb('definition').$type<Definition>().notNull(),
  updatedAt: timestamp('updated_at', { withTimezone: true }).notNull(),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.eventTypeId, table.memberId] }),
  foreignKey({ columns: [table.workspaceId, table.eventTypeId], foreignColumns: [eventTypes.workspaceId, eventTypes.id] }),
  foreignKey({ columns: [table.workspaceId, table.memberId], foreignColumns: [members.workspaceId, members.id] }),
])

/** A chair that was taken away stays, inactive, for the sessions that somebody sat in it. */
export const chairs = pgTable('chairs', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  eventTypeId: uuid('event_type_id').notNull(),
  position: integer('position').notNull(),
  name: text('name').notNull(),
  policy: text('policy', { enum: chairPolicies }).notNull(),
  active: boolean('active').notNull().default(true),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  foreignKey({ columns: [table.workspaceId, table.eventTypeId], foreignColumns: [eventTypes.workspaceId, eventTypes.id] }),
  uniqueIndex('chairs_place').on(table.workspaceId, table.eventTypeId, table.position).where(sql`${table.active}`),
])

/** Questions that several event types share. */
export const questionSets = pgTable('question_sets', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  name: text('name').notNull(),
  questions: jsonb('questions').$type<Question[]>().notNull(),
  /** Raised by every change, so that nobody overwrites what another has saved. */
  version: integer('version').notNull().default(1),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
])

export const chairHosts = pgTable('chair_hosts', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  chairId: uuid('chair_id').notNull(),
  hostId: uuid('host_id').notNull(),
  position: integer('position').notNull(),
  weight: doublePrecision('weight').notNull().default(1),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.chairId, table.hostId] }),
  foreignKey({ columns: [table.workspaceId, table.chairId], foreignColumns: [chairs.workspaceId, chairs.id] }),
  foreignKey({ columns: [table.workspaceId, table.hostId], foreignColumns: [hosts.workspaceId, hosts.id] }),
])
