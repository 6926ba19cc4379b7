import { sql } from 'drizzle-orm'
import { bigserial, foreignKey, index, jsonb, pgTable, primaryKey, text, timestamp, uuid } from 'drizzle-orm/pg-core'
import { bookings, sessions } from './booking'
import { workspaces } from './people'

export const trail = pgTable('trail', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: bigserial('id', { mode: 'number' }).notNull(),
  at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
  sessionId: uuid('session_id').notNull(),
  bookingId: uuid('booking_id'),
  code: text('code').notNull(),
  values: jsonb('values').notNull(),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  foreignKey({ columns: [table.workspaceId, table.sessionId], foreignColumns: [sessions.workspaceId, sessions.id] }),
  foreignKey({ columns: [table.workspaceId, table.bookingId], foreignColumns: [bookings.workspaceId, bookings.id] }),
  index('trail_title_failed').on(table.workspaceId, table.sessionId).where(sql`${table.code} = 'titleFailed'`),
  index('trail_session').on(table.workspaceId, table.sessionId, table.id),
])
