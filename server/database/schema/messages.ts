import { boolean, foreignKey, integer, pgTable, primaryKey, text, timestamp, unique, uuid } from 'drizzle-orm/pg-core'
import { occasions } from '../../../core/messages/occasions'
import { bookings } from './booking'
import { hosts, workspaces } from './people'

export const deliveryStates = ['planned', 'sending', 'sent', 'unknown', 'failed'] as const

/** One message to one address for one cause. It is claimed (`sending`) before it is sent, and never claimed twice. */
export const deliveries = pgTable('deliveries', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  bookingId: uuid('booking_id').notNull(),
  occasion: text('occasion', { enum: occasions }).notNull(),
  audience: text('audience', { enum: ['client', 'guest', 'host'] }).notNull(),
  hostId: uuid('host_id'),
  name: text('name').notNull(),
  address: text('address').notNull(),
  state: text('state', { enum: deliveryStates }).notNull().default('planned'),
  /** Whether the room's link was in it; null where no room was expected. */
  withLink: boolean('with_link'),
  messageId: text('message_id').notNull(),
  attempts: integer('attempts').notNull().default(0),
  fault: text('fault'),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  sentAt: timestamp('sent_at', { withTimezone: true }),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  foreignKey({ columns: [table.workspaceId, table.bookingId], foreignColumns: [bookings.workspaceId, bookings.id] }),
  foreignKey({ columns: [table.workspaceId, table.hostId], foreignColumns: [hosts.workspaceId, hosts.id] }),
  unique('deliveries_cause_unique').on(table.workspaceId, table.bookingId, table.occasion, table.audience, table.address),
])
