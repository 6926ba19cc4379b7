import { sql } from 'drizzle-orm'
import { boolean, check, customType, foreignKey, index, integer, jsonb, pgTable, primaryKey, text, timestamp, uniqueIndex, uuid } from 'drizzle-orm/pg-core'
import type { Unread } from '../../../core/calendar/taken'
import { type AccountFault, accountKinds, accountStates } from '../../../core/views/calendar-account'
import { sessions } from './booking'
import { eventTypes } from './event-types'
import { hosts, workspaces } from './people'

/** Where hosts' calendars are read from: a CalDAV account, a feed's address, or a file that somebody uploaded. */
export const calendarAccounts = pgTable('calendar_accounts', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  hostId: uuid('host_id').notNull(),
  kind: text('kind', { enum: accountKinds }).notNull(),
  /** What people call it by: the server and the user, or the file’s name. */
  label: text('label').notNull(),
  /** How it is reached, sealed with the application's secret: whoever knows the address of a feed can read it. Null for a file. */
  sealedAccess: text('sealed_access'),
  /** The host's own addresses as the server knows them, in small letters. */
  addresses: text('addresses').array().notNull().default(sql`'{}'`),
  state: text('state', { enum: accountStates }).notNull().default('connected'),
  /** Why the last look failed; null since one succeeded. */
  fault: jsonb('fault').$type<AccountFault>(),
  /** When it was last looked at with success. */
  lookedAt: timestamp('looked_at', { withTimezone: true }),
  /** Since when no look has succeeded; null since one did. */
  failingSince: timestamp('failing_since', { withTimezone: true }),
  failures: integer('failures').notNull().default(0),
  /** When it is looked at next; null for what nothing changes but an upload. */
  nextLookAt: timestamp('next_look_at', { withTimezone: true }),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  foreignKey({ columns: [table.workspaceId, table.hostId], foreignColumns: [hosts.workspaceId, hosts.id] }),
  index('calendar_accounts_host').on(table.workspaceId, table.hostId),
  index('calendar_accounts_due').on(table.nextLookAt),
])

export const calendars = pgTable('calendars', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  accountId: uuid('account_id').notNull(),
  hostId: uuid('host_id').notNull(),
  /** Where it lies on its server; empty for feeds and files. */
  href: text('href').notNull(),
  name: text('name').notNull(),
  writable: boolean('writable').notNull(),
  /** What is in it takes the host's time. */
  blocks: boolean('blocks').notNull().default(true),
  /** The host's sessions are written into it. */
  receives: boolean('receives').notNull().default(false),
  countsAllDay: boolean('counts_all_day').notNull().default(true),
  countsUnconfirmed: boolean('counts_unconfirmed').notNull().default(true),
  /** The zone that the host set for floating times and whole days; null for what the calendar says. */
  timeZone: text('time_zone'),
  /** What the server says of it: a zone's name, or a VTIMEZONE. */
  ownTimeZone: text('own_time_zone'),
  /** What the server named the last answer by, so that it need not send it again. */
  syncState: text('sync_state'),
  /** No longer on its server. What was read of it holds. */
  isGone: boolean('is_gone').notNull().default(false),
  entries: integer('entries').notNull().default(0),
  unread: jsonb('unread').$type<Unread[]>().notNull().default([]),
  lookedAt: timestamp('looked_at', { withTimezone: true }),
  /** Until when taken time has been worked out. */
  reachesTo: timestamp('reaches_to', { withTimezone: true }),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  foreignKey({ columns: [table.workspaceId, table.accountId], foreignColumns: [calendarAccounts.workspaceId, calendarAccounts.id] })
    .onDelete('cascade'),
  foreignKey({ columns: [table.workspaceId, table.hostId], foreignColumns: [hosts.workspaceId, hosts.id] }),
  uniqueIndex('calendars_href').on(table.workspaceId, table.accountId, table.href),
  index('calendars_host').on(table.workspaceId, table.hostId),
  uniqueIndex('calendars_receiving').on(table.workspaceId, table.hostId).where(sql`${table.receives}`),
  check('calendars_receiving_writable', sql`${table.writable} or not ${table.receives}`),
])

/** The text of calendars, so that what is taken can be worked out again for later days and by other settings. */
export const calendarObjects = pgTable('calendar_objects', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  calendarId: uuid('calendar_id').notNull(),
  /** The object's place on its server; empty where a calendar is one text. */
  href: text('href').notNull(),
  etag: text('etag').notNull(),
  text: text('text').notNull(),
  entries: integer('entries').notNull(),
  unread: jsonb('unread').$type<Unread[]>().notNull().default([]),
  /** It goes on beyond what has been worked out. */
  goesOn: boolean('goes_on').notNull(),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.calendarId, table.href] }),
  foreignKey({ columns: [table.workspaceId, table.calendarId], foreignColumns: [calendars.workspaceId, calendars.id] }).onDelete('cascade'),
])

/** Calendars that receive their host's sessions of one event type, in place of the one that receives the others. */
export const receivingCalendars = pgTable('receiving_calendars', {
  workspaceId: uuid('workspace_id').notNull(),
  hostId: uuid('host_id').notNull(),
  eventTypeId: uuid('event_type_id').notNull(),
  calendarId: uuid('calendar_id').notNull(),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.hostId, table.eventTypeId] }),
  foreignKey({ columns: [table.workspaceId, table.eventTypeId], foreignColumns: [eventTypes.workspaceId, eventTypes.id] }).onDelete('cascade'),
  foreignKey({ columns: [table.workspaceId, table.calendarId], foreignColumns: [calendars.workspaceId, calendars.id] }).onDelete('cascade'),
  index('receiving_calendars_calendar').on(table.workspaceId, table.calendarId),
])

const tstzmultirange = customType<{ data: string }>({ dataType: () => 'tstzmultirange' })

/** When entries take time, whether their calendar blocks or not: the times of one entry and month together. */
export const takenTimes = pgTable('taken_times', {
  workspaceId: uuid('workspace_id').notNull(),
  hostId: uuid('host_id').notNull(),
  calendarId: uuid('calendar_id').notNull(),
  href: text('href').notNull(),
  during: tstzmultirange('during').notNull(),
  isWholeDay: boolean('is_whole_day').notNull(),
  isUnconfirmed: boolean('is_unconfirmed').notNull(),
  uid: text('uid').notNull(),
  /** The session whose entry this may be, by its UID. */
  sessionId: uuid('session_id').generatedAlwaysAs(sql`case when uid ~ '^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}@' then left(uid, 36)::uuid end`),
  /** Only ever shown to the host. */
  title: text('title').notNull(),
}, table => [
  foreignKey({
    columns: [table.workspaceId, table.calendarId, table.href],
    foreignColumns: [calendarObjects.workspaceId, calendarObjects.calendarId, calendarObjects.href],
  }).onDelete('cascade'),
  index('taken_times_during').using('gist', table.workspaceId, table.hostId, table.during),
  index('taken_times_object').on(table.workspaceId, table.calendarId, table.href),
])

/** Sessions in their hosts' calendars: what was written where, and what somebody has done to it since. */
export const sessionEntries = pgTable('session_entries', {
  workspaceId: uuid('workspace_id').notNull(),
  sessionId: uuid('session_id').notNull(),
  hostId: uuid('host_id').notNull(),
  calendarId: uuid('calendar_id').notNull(),
  href: text('href').notNull(),
  etag: text('etag'),
  /** Of the text that stands there; null where it is to be written whatever stands there. */
  hash: text('hash'),
  writtenAt: timestamp('written_at', { withTimezone: true }),
  attempts: integer('attempts').notNull().default(0),
  fault: jsonb('fault').$type<AccountFault>(),
  /** What a person did to it, which waits for a person's word. */
  noticed: text('noticed', { enum: ['moved', 'deleted'] }),
  noticedStart: timestamp('noticed_start', { withTimezone: true }),
  noticedEnd: timestamp('noticed_end', { withTimezone: true }),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.sessionId, table.hostId, table.calendarId] }),
  foreignKey({ columns: [table.workspaceId, table.sessionId], foreignColumns: [sessions.workspaceId, sessions.id] }),
  foreignKey({ columns: [table.workspaceId, table.calendarId], foreignColumns: [calendars.workspaceId, calendars.id] }).onDelete('cascade'),
  index('session_entries_calendar').on(table.workspaceId, table.calendarId),
  index('session_entries_noticed').on(table.workspaceId).where(sql`${table.noticed} is not null`),
])
