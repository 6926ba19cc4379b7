import { sql } from 'drizzle-orm'
import { boolean, check, foreignKey, index, integer, jsonb, pgTable, primaryKey, text, timestamp, unique, uniqueIndex, uuid } from 'drizzle-orm/pg-core'
import type { Fault } from '../../../core/faults'
import { accountOccasions, audiences, channels, occasions } from '../../../core/messages/occasions'
import type { OwnMessage } from '../../../core/messages/own'
import type { Wording } from '../../../core/messages/presets'
import { bookings, sessions } from './booking'
import { changes } from './changes'
import { eventTypes } from './event-types'
import { hosts, members, workspaces } from './people'

export const deliveryStates = ['planned', 'sending', 'sent', 'unknown', 'failed', 'overtaken'] as const

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
  /** Of a message of the workspace's own: which. */
  ownId: uuid('own_id'),
  occasion: text('occasion', { enum: [...occasions, ...accountOccasions] }).notNull(),
  audience: text('audience', { enum: ['client', 'guest', 'host', 'observer', 'member'] }).notNull(),
  hostId: uuid('host_id'),
  channel: text('channel', { enum: channels }).notNull().default('mail'),
  name: text('name').notNull(),
  /** A mail address, or a phone number (E.164). */
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
  // A report on a mail that came back names nothing else.
  index('deliveries_message').on(table.messageId),
  uniqueIndex('deliveries_reminder_unique').on(table.workspaceId, table.bookingId, table.channel, table.address, table.reminder, table.remindsOf)
    .where(sql`${table.reminder} is not null`),
  unique('deliveries_cause_unique').on(table.workspaceId, table.changeId, table.bookingId, table.occasion, table.channel, table.address),
])

/** Addresses and phone numbers that want no reminders from a workspace any more. */
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

/** Messages that a workspace has added, for all its event types or for one. */
export const ownMessages = pgTable('own_messages', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  /** Null for all event types. */
  eventTypeId: uuid('event_type_id'),
  definition: jsonb('definition').$type<OwnMessage>().notNull(),
  version: integer('version').notNull().default(1),
  /** Whatever was due before is not sent. */
  since: timestamp('since', { withTimezone: true }).notNull(),
  removedAt: timestamp('removed_at', { withTimezone: true }),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  foreignKey({ columns: [table.workspaceId, table.eventTypeId], foreignColumns: [eventTypes.workspaceId, eventTypes.id] }),
])

/**
 * The words that a workspace, or one of its event types, has given to a message: a row for each time that somebody saved them,
 * the one with the highest version holds.
 */
export const messageTexts = pgTable('message_texts', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  /** Null for the workspace’s own. */
  eventTypeId: uuid('event_type_id'),
  occasion: text('occasion', { enum: occasions }).notNull(),
  audience: text('audience', { enum: audiences }).notNull(),
  /** Which of the workspace’s own messages it words; null for those that everybody has. */
  ownId: uuid('own_id'),
  version: integer('version').notNull(),
  /** Null where somebody went back to the words that hold without it. */
  wording: jsonb('wording').$type<Wording>(),
  at: timestamp('at', { withTimezone: true }).notNull(),
  memberName: text('member_name').notNull(),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  foreignKey({ columns: [table.workspaceId, table.eventTypeId], foreignColumns: [eventTypes.workspaceId, eventTypes.id] }),
  unique('message_texts_version').on(table.workspaceId, table.eventTypeId, table.occasion, table.audience, table.ownId, table.version).nullsNotDistinct(),
  foreignKey({ columns: [table.workspaceId, table.ownId], foreignColumns: [ownMessages.workspaceId, ownMessages.id] }),
])
