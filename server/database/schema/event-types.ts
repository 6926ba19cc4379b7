import { boolean, doublePrecision, foreignKey, integer, jsonb, pgTable, primaryKey, text, timestamp, unique, uuid } from 'drizzle-orm/pg-core'
import { chairPolicies, type Settings } from '../../../core/event-type/settings'
import { eventTypeStates } from '../../../core/views/desk'
import { hosts, workspaces } from './people'

export const eventTypes = pgTable('event_types', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  slug: text('slug').notNull(),
  state: text('state', { enum: eventTypeStates }).notNull().default('draft'),
  listed: boolean('listed').notNull().default(true),
  position: integer('position').notNull().default(0),
  settings: jsonb('settings').$type<Settings>().notNull(),
  /** Raised by every publishing; two people editing at once are told by it. */
  version: integer('version').notNull().default(1),
  updatedAt: timestamp('updated_at', { withTimezone: true }).notNull().defaultNow(),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  unique('event_types_slug_unique').on(table.workspaceId, table.slug),
])

export const chairs = pgTable('chairs', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  eventTypeId: uuid('event_type_id').notNull(),
  position: integer('position').notNull(),
  name: text('name').notNull(),
  policy: text('policy', { enum: chairPolicies }).notNull(),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  foreignKey({ columns: [table.workspaceId, table.eventTypeId], foreignColumns: [eventTypes.workspaceId, eventTypes.id] }),
  unique('chairs_position_unique').on(table.workspaceId, table.eventTypeId, table.position),
])

export const chairHosts = pgTable('chair_hosts', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  chairId: uuid('chair_id').notNull(),
  hostId: uuid('host_id').notNull(),
  position: integer('position').notNull(),
  weight: doublePrecision('weight').notNull().default(1),
  /** What the host is owed by fair share, in sessions. */
  credit: doublePrecision('credit').notNull().default(0),
  assignedAt: timestamp('assigned_at', { withTimezone: true }),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.chairId, table.hostId] }),
  foreignKey({ columns: [table.workspaceId, table.chairId], foreignColumns: [chairs.workspaceId, chairs.id] }),
  foreignKey({ columns: [table.workspaceId, table.hostId], foreignColumns: [hosts.workspaceId, hosts.id] }),
])
