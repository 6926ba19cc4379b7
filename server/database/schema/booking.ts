import { sql, type SQLWrapper } from 'drizzle-orm'
import {
  boolean,
  check,
  customType,
  foreignKey,
  index,
  integer,
  json,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  unique,
  uuid,
} from 'drizzle-orm/pg-core'
import { bookingStates } from '../../../core/booking/states'
import type { Place } from '../../../core/event-type/settings'
import type { AnswerValue, AskedQuestion } from '../../../core/intake'
import type { BookingView, PublicOpening } from '../../../core/views/client'
import { chairs, eventTypes } from './event-types'
import { hosts, workspaces } from './people'

/** What a booking is searched by: its client's name and address. */
export const searchText = ({ clientName, clientEmail }: Record<'clientName' | 'clientEmail', SQLWrapper>) =>
  sql`lower(${clientName} || ' ' || ${clientEmail})`

/** Text in which `like` finds nothing but itself. */
export function escapeLike(text: string): string {
  return text.replace(/[\\%_]/g, character => `\\${character}`)
}

const tstzrange = customType<{ data: string }>({ dataType: () => 'tstzrange' })

export const sessions = pgTable('sessions', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  eventTypeId: uuid('event_type_id').notNull(),
  startsAt: timestamp('starts_at', { withTimezone: true }).notNull(),
  endsAt: timestamp('ends_at', { withTimezone: true }).notNull(),
  bufferBeforeMinutes: integer('buffer_before_minutes').notNull(),
  bufferAfterMinutes: integer('buffer_after_minutes').notNull(),
  seats: integer('seats').notNull(),
  seatsTaken: integer('seats_taken').notNull(),
  place: jsonb('place').$type<Place>().notNull(),
  cancelled: boolean('cancelled').notNull().default(false),
  /** iTIP SEQUENCE of the hosts' calendar entry: raised by every change that alters the entry, never lowered. */
  sequence: integer('sequence').notNull().default(0),
  /** For the team only. */
  notes: text('notes').notNull().default(''),
  tags: jsonb('tags').$type<string[]>().notNull().default([]),
  /** Raised whenever the two are saved, so that nobody overwrites what another has written. */
  notesVersion: integer('notes_version').notNull().default(0),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  index('sessions_tags').using('gin', sql`${table.tags} jsonb_path_ops`),
  foreignKey({ columns: [table.workspaceId, table.eventTypeId], foreignColumns: [eventTypes.workspaceId, eventTypes.id] }),
  index('sessions_time').on(table.workspaceId, table.startsAt),
  index('sessions_start').on(table.startsAt).where(sql`not ${table.cancelled}`),
  index('sessions_event_type').on(table.workspaceId, table.eventTypeId, table.startsAt),
  check('sessions_forward', sql`${table.endsAt} > ${table.startsAt}`),
  check('sessions_seats', sql`${table.seatsTaken} between 0 and ${table.seats}`),
])

/**
 * Who sits in a session. `padded` is its time widened by its buffers; an exclusion constraint, written by hand in the
 * first migration, keeps the padded times of one host apart while they are active.
 */
export const sessionHosts = pgTable('session_hosts', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  sessionId: uuid('session_id').notNull(),
  hostId: uuid('host_id').notNull(),
  chairId: uuid('chair_id').notNull(),
  padded: tstzrange('padded').notNull(),
  active: boolean('active').notNull().default(true),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.sessionId, table.hostId] }),
  foreignKey({ columns: [table.workspaceId, table.sessionId], foreignColumns: [sessions.workspaceId, sessions.id] }),
  foreignKey({ columns: [table.workspaceId, table.hostId], foreignColumns: [hosts.workspaceId, hosts.id] }),
  foreignKey({ columns: [table.workspaceId, table.chairId], foreignColumns: [chairs.workspaceId, chairs.id] }),
  index('session_hosts_host').on(table.workspaceId, table.hostId),
  index('session_hosts_start').on(table.workspaceId, sql`lower(${table.padded})`).where(sql`${table.active}`),
])

export const bookings = pgTable('bookings', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  id: uuid('id').notNull().defaultRandom(),
  sessionId: uuid('session_id').notNull(),
  state: text('state', { enum: bookingStates }).notNull(),
  clientName: text('client_name').notNull(),
  clientEmail: text('client_email').notNull(),
  clientPhone: text('client_phone'),
  /** How many come, each in a seat. */
  people: integer('people').notNull().default(1),
  timeZone: text('time_zone').notNull(),
  locale: text('locale').notNull(),
  source: text('source'),
  /** The client's token is derived from this and the application's secret, and stored only as a hash. */
  tokenSeed: text('token_seed').notNull(),
  tokenHash: text('token_hash').notNull(),
  /** iTIP SEQUENCE of the client's calendar entry: raised by every change that alters the entry, never lowered. */
  sequence: integer('sequence').notNull().default(0),
  /** When the link in a mail to the client was first followed, which shows that the address is theirs. */
  openedAt: timestamp('opened_at', { withTimezone: true }),
  /** Where the client would like to meet, where they were asked for it. */
  placeSuggestion: text('place_suggestion'),
  cancelReason: text('cancel_reason'),
  /** Until when a request waits for an answer. */
  expiresAt: timestamp('expires_at', { withTimezone: true }),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  closedAt: timestamp('closed_at', { withTimezone: true }),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.id] }),
  foreignKey({ columns: [table.workspaceId, table.sessionId], foreignColumns: [sessions.workspaceId, sessions.id] }),
  check('bookings_people', sql`${table.people} >= 1`),
  unique('bookings_token_unique').on(table.workspaceId, table.tokenHash),
  index('bookings_session').on(table.workspaceId, table.sessionId),
  index('bookings_waiting').on(table.workspaceId, table.sessionId).where(sql`${table.state} = 'awaitingApproval'`),
  index('bookings_expiring').on(table.expiresAt).where(sql`${table.state} in ('held', 'awaitingApproval')`),
  index('bookings_client').on(table.workspaceId, sql`lower(${table.clientEmail})`),
  index('bookings_created').on(table.workspaceId, table.createdAt),
  index('bookings_search').using('gin', sql`${searchText(table)} gin_trgm_ops`),
])

export const answers = pgTable('answers', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  bookingId: uuid('booking_id').notNull(),
  key: text('key').notNull(),
  position: integer('position').notNull(),
  /** The question in the wording in which it was answered. */
  question: jsonb('question').$type<AskedQuestion>().notNull(),
  value: jsonb('value').$type<AnswerValue>().notNull(),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.bookingId, table.key] }),
  foreignKey({ columns: [table.workspaceId, table.bookingId], foreignColumns: [bookings.workspaceId, bookings.id] }),
])

export const guests = pgTable('guests', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  bookingId: uuid('booking_id').notNull(),
  email: text('email').notNull(),
  name: text('name').notNull(),
}, table => [
  primaryKey({ columns: [table.workspaceId, table.bookingId, table.email] }),
  foreignKey({ columns: [table.workspaceId, table.bookingId], foreignColumns: [bookings.workspaceId, bookings.id] }),
])

/** The first answer to a client's write, given again when the same key comes back. */
export const idempotencyKeys = pgTable('idempotency_keys', {
  workspaceId: uuid('workspace_id').notNull().references(() => workspaces.id),
  key: text('key').notNull(),
  requestHash: text('request_hash').notNull(),
  status: integer('status').notNull(),
  /** The answer without the client's token, which is derived anew. */
  body: json('body').$type<{ booking: BookingView } | { nearest: PublicOpening[] }>().notNull(),
  bookingId: uuid('booking_id'),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
}, table => [primaryKey({ columns: [table.workspaceId, table.key] }), index('idempotency_keys_created').on(table.createdAt)])
