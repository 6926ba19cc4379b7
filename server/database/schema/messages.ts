import { sql } from 'drizzle-orm'
import { boolean, check, foreignKey, index, integer, jsonb, pgTable, primaryKey, text, timestamp, unique, uniqueIndex, uuid } from 'drizzle-orm/pg-core'
import type { Fault } from '../../../core/faults'
import { accountOccasions, occasions } from '../../../core/messages/occasions'
import { bookings, sessions } from './booking'
import { changes } from './changes'
import { hosts, members, workspaces } from './people'

export const deliveryStates = ['planned', 'sending', 'sent', 'unknown', 'failed', 'overtaken'] as const

export const channels = ['mail'] as const

/**
 * One message to one address for one change of a booking, or of a member's own account. It is claimed (`sending`) before
 * it is sent. One whose outcome is unknown is sent once more with the same Message-ID, and after that only by a person.
 */
export const deliveries = pgTable('deliveries', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  /** The change it tells of; null for those planned before changes were recorded. */
  changeId: uuid('change_id'),
  bookingId: uuid('booking_id'),
  /** The session it tells of, where that is not the one that the booking is in by now. */
  sessionId: uuid('session_id'),
  memberId: uuid('member_id'),
  /** Of a reminder: which of the event type's, and the start that it reminds of. */
  reminder: text('reminder'),
  remindsOf: timestamp('reminds_of', { withTimezone: true }),
  occasion: text('occasion', { enum: [...occasions, ...accountOccasions] }).notNull(),
  audience: text('audience', { enum: ['client', 'guest', 'host', 'observer', 'member'] }).notNull(),
  hostId: uuid('host_id'),
  channel: text('channel', { enum: channels }).notNull().default('mail'),
  name: text('name').notNull(),
  address: text('address').notNull(),
  state: text('state', { enum: deliveryStates }).notNull().default('planned'),
  /** Whether the room's link was in it; null where no room was expected. */
  withLink: boolean('with_link'),
  messageId: text('message_id').notNull(),
  attempts: integer('attempts').notNull().default(0),
  /** How often the connection broke off when the server may already have taken the mail. */
  unknowns: integer('unknowns').notNull().default(0),
  fault: jsonb('fault').$type<Fault>(),
  nextTryAt: timestamp('next_try_at', { withTimezone: true }),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  sentAt: timestamp('sent_at', { withTimezone: true }),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  foreignKey({ columns: [table.workspaceId, table.changeId], foreignColumns: [changes.workspaceId, changes.id] }),
  foreignKey({ columns: [table.workspaceId, table.bookingId], foreignColumns: [bookings.workspaceId, bookings.id] }),
  foreignKey({ columns: [table.workspaceId, table.sessionId], foreignColumns: [sessions.workspaceId, sessions.id] }),
  foreignKey({ columns: [table.workspaceId, table.hostId], foreignColumns: [hosts.workspaceId, hosts.id] }),
  foreignKey({ columns: [table.workspaceId, table.memberId], foreignColumns: [members.workspaceId, members.id] }),
  check('deliveries_subject', sql`num_nonnulls(${table.bookingId}, ${table.memberId}) = 1`),
  index('deliveries_open').on(table.workspaceId, table.state).where(sql`${table.state} not in ('sent', 'overtaken')`),
  index('deliveries_booking').on(table.workspaceId, table.bookingId),
  uniqueIndex('deliveries_reminder_unique').on(table.workspaceId, table.bookingId, table.channel, table.address, table.reminder, table.remindsOf)
    .where(sql`${table.reminder} is not null`),
  unique('deliveries_cause_unique').on(table.workspaceId, table.changeId, table.bookingId, table.occasion, table.channel, table.address),
])

/** Addresses that want no reminders from a workspace any more. */
export const unreminded = pgTable('unreminded', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  /** In small letters. */
  address: text('address').notNull(),
  at: timestamp('at', { withTimezone: true }).notNull(),
}, table => [primaryKey({ columns: [table.workspaceId, table.address] })])

/** Somebody asks for the list of their bookings; whether there are any is looked at later, so that the answer does not tell. */
export const listRequests = pgTable('list_requests', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  address: text('address').notNull(),
  at: timestamp('at', { withTimezone: true }).notNull(),
}, table => [primaryKey({ columns: [table.workspaceId, table.id] })])
