import { sql } from 'drizzle-orm'
import { check, foreignKey, index, jsonb, pgTable, primaryKey, text, timestamp, uuid } from 'drizzle-orm/pg-core'
import type { Move } from '../../../core/booking/changes'
import type { GuestChange } from '../../../core/booking/guests'
import { bookingStates } from '../../../core/booking/states'
import type { Tellable } from '../../../core/booking/told'
import { bookings, sessions } from './booking'
import { members, workspaces } from './people'

/** Every change of a booking, a session or a member's account: what, who did it, from which state to which, and when. */
export const changes = pgTable('changes', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  kind: text('kind').notNull(),
  sessionId: uuid('session_id'),
  bookingId: uuid('booking_id'),
  memberId: uuid('member_id'),
  actorKind: text('actor_kind', { enum: ['client', 'member', 'system'] }).notNull(),
  actorName: text('actor_name').notNull(),
  fromState: text('from_state', { enum: bookingStates }),
  toState: text('to_state', { enum: bookingStates }),
  /** Of a move: from when to when. */
  move: jsonb('move').$type<Move>(),
  /** Of a change of guests: who comes along since, and who no longer does. */
  guests: jsonb('guests').$type<GuestChange>(),
  /** Who was told of a booking that a member made, where that was chosen. */
  told: jsonb('told').$type<readonly Tellable[]>(),
  at: timestamp('at', { withTimezone: true }).notNull(),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  foreignKey({ columns: [table.workspaceId, table.sessionId], foreignColumns: [sessions.workspaceId, sessions.id] }),
  foreignKey({ columns: [table.workspaceId, table.bookingId], foreignColumns: [bookings.workspaceId, bookings.id] }),
  foreignKey({ columns: [table.workspaceId, table.memberId], foreignColumns: [members.workspaceId, members.id] }),
  check('changes_subject', sql`num_nonnulls(${table.sessionId}, ${table.memberId}) = 1`),
  index('changes_session').on(table.workspaceId, table.sessionId, table.at),
  index('changes_at').on(table.workspaceId, table.at),
])
