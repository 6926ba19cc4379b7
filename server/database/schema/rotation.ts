import { sql } from 'drizzle-orm'
import {
  bigint,
  check,
  doublePrecision,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  unique,
  uuid,
} from 'drizzle-orm/pg-core'
import { chairPolicies } from '../../../core/event-type/settings'
import { assignmentCodes, type Turn } from '../../../core/rotation'
import { entryKinds } from '../../../core/rotation/ledger'
import { sessions } from './booking'
import { chairs } from './event-types'
import { hosts, workspaces } from './people'

/** Hosts whom several chairs draw on together. */
export const hostGroups = pgTable('host_groups', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  name: text('name').notNull(),
  /** Raised by every change, so that nobody overwrites what another has saved. */
  version: integer('version').notNull().default(1),
}, table => [primaryKey({ columns: [table.workspaceId, table.id] })])

export const groupHosts = pgTable('group_hosts', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  groupId: uuid('group_id').notNull(),
  hostId: uuid('host_id').notNull(),
  position: integer('position').notNull(),
  weight: doublePrecision('weight').notNull().default(1),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.groupId, table.hostId] }),
  foreignKey({ columns: [table.workspaceId, table.groupId], foreignColumns: [hostGroups.workspaceId, hostGroups.id] }),
  foreignKey({ columns: [table.workspaceId, table.hostId], foreignColumns: [hosts.workspaceId, hosts.id] }),
])

/** The groups that a chair draws on beside its own hosts. */
export const chairGroups = pgTable('chair_groups', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  chairId: uuid('chair_id').notNull(),
  groupId: uuid('group_id').notNull(),
  position: integer('position').notNull(),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.chairId, table.groupId] }),
  foreignKey({ columns: [table.workspaceId, table.chairId], foreignColumns: [chairs.workspaceId, chairs.id] }),
  foreignKey({ columns: [table.workspaceId, table.groupId], foreignColumns: [hostGroups.workspaceId, hostGroups.id] }),
])

/**
 * What rotation remembers of each host of a pool: the sum of what the pool's assignments have changed. The pool is a chair,
 * or a group that chairs draw on alone. A host who leaves the pool keeps what they were owed, should they come back.
 */
export const turns = pgTable('turns', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  poolId: uuid('pool_id').notNull(),
  hostId: uuid('host_id').notNull(),
  /** What the host is owed by fair share, in sessions. */
  credit: doublePrecision('credit').notNull(),
  assignedAt: timestamp('assigned_at', { withTimezone: true }),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.poolId, table.hostId] }),
  foreignKey({ columns: [table.workspaceId, table.hostId], foreignColumns: [hosts.workspaceId, hosts.id] }),
])

/** Every assignment as it was decided, and every turn that was given back, in their order. Rows are only ever added. */
export const assignments = pgTable('assignments', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  /** The order in which a pool's rows were written: whoever writes one holds the locks of all its hosts. */
  position: bigint('position', { mode: 'number' }).notNull().generatedAlwaysAsIdentity(),
  poolId: uuid('pool_id').notNull(),
  sessionId: uuid('session_id').notNull(),
  chairId: uuid('chair_id').notNull(),
  hostId: uuid('host_id').notNull(),
  kind: text('kind', { enum: entryKinds }).notNull(),
  policy: text('policy', { enum: chairPolicies }).notNull(),
  code: text('code', { enum: assignmentCodes }).notNull(),
  at: timestamp('at', { withTimezone: true }).notNull(),
  /** The assignment that is given back, which it is once at most. */
  returns: uuid('returns'),
  turns: jsonb('turns').$type<Turn[]>().notNull(),
  /** The hosts of `turns`, without the rest of them: a year of a large pool is counted by it. */
  able: uuid('able').array().generatedAlwaysAs(sql`able_hosts(turns)`),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  foreignKey({ columns: [table.workspaceId, table.sessionId], foreignColumns: [sessions.workspaceId, sessions.id] }),
  foreignKey({ columns: [table.workspaceId, table.chairId], foreignColumns: [chairs.workspaceId, chairs.id] }),
  foreignKey({ columns: [table.workspaceId, table.hostId], foreignColumns: [hosts.workspaceId, hosts.id] }),
  unique('assignments_returned_once').on(table.workspaceId, table.returns),
  check('assignments_returns', sql`(${table.kind} = 'returned') = (${table.returns} is not null)`),
  index('assignments_session').on(table.workspaceId, table.sessionId),
  index('assignments_pool').on(table.workspaceId, table.poolId, table.at),
])
