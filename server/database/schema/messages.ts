import { sql } from 'drizzle-orm'
import { boolean, check, foreignKey, index, integer, jsonb, pgTable, primaryKey, text, timestamp, unique, uuid } from 'drizzle-orm/pg-core'
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
  unique('deliveries_cause_unique').on(table.workspaceId, table.changeId, table.bookingId, table.occasion, table.channel, table.address),
])
