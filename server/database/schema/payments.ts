import { sql } from 'drizzle-orm'
import { boolean, check, foreignKey, index, integer, jsonb, pgTable, primaryKey, text, timestamp, uniqueIndex, uuid } from 'drizzle-orm/pg-core'
import type { Fault } from '../../../core/faults'
import { paymentStates } from '../../../core/payment/payment'
import type { Price } from '../../../core/payment/price'
import { bookings } from './booking'
import { workspaces } from './people'

/** A workspace's account at a service that takes payments. One that was taken away stays for what is still to be paid back. */
export const paymentAccounts = pgTable('payment_accounts', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  /** Its key among the services of the installation. */
  service: text('service').notNull(),
  /** Who it is connected as, in the service's own words. */
  label: text('label').notNull(),
  sealedCredentials: text('sealed_credentials').notNull(),
  connectedAt: timestamp('connected_at', { withTimezone: true }).notNull(),
  disconnectedAt: timestamp('disconnected_at', { withTimezone: true }),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  // Notifications come to the account alone.
  uniqueIndex('payment_accounts_id').on(table.id),
  uniqueIndex('payment_accounts_connected').on(table.workspaceId).where(sql`${table.disconnectedAt} is null`),
])

/** What a booking costs, what was paid of it and what was paid back. Amounts are in minor units. */
export const payments = pgTable('payments', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  /** What the service knows it by. */
  id: uuid('id').notNull().defaultRandom(),
  bookingId: uuid('booking_id').notNull(),
  state: text('state', { enum: paymentStates }).notNull(),
  /** The price as it was when it was booked. */
  price: jsonb('price').$type<Price>().notNull(),
  amount: integer('amount').notNull(),
  currency: text('currency').notNull(),
  /** The account that it is paid to; null where it is paid at the session. */
  accountId: uuid('account_id'),
  /** When the service was first asked for a page to pay at. */
  openedAt: timestamp('opened_at', { withTimezone: true }),
  paidAmount: integer('paid_amount').notNull().default(0),
  paidAt: timestamp('paid_at', { withTimezone: true }),
  /** Whether it was paid when the time was no longer held. */
  isLate: boolean('is_late').notNull().default(false),
  refundAmount: integer('refund_amount').notNull().default(0),
  refundedAmount: integer('refunded_amount').notNull().default(0),
  attempts: integer('attempts').notNull().default(0),
  /** Why it could not be paid back, or closed, when that was last tried. */
  fault: jsonb('fault').$type<Fault>(),
  nextTryAt: timestamp('next_try_at', { withTimezone: true }),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  foreignKey({ columns: [table.workspaceId, table.bookingId], foreignColumns: [bookings.workspaceId, bookings.id] }),
  foreignKey({ columns: [table.workspaceId, table.accountId], foreignColumns: [paymentAccounts.workspaceId, paymentAccounts.id] }),
  // Whoever comes back from paying has nothing else.
  index('payments_id').on(table.id),
  uniqueIndex('payments_booking').on(table.workspaceId, table.bookingId),
  index('payments_refunding').on(table.workspaceId).where(sql`${table.refundedAmount} < ${table.refundAmount}`),
  check('payments_amounts', sql`${table.amount} > 0 and ${table.refundedAmount} between 0 and ${table.refundAmount} and ${table.refundAmount} <= ${table.paidAmount}`),
])
