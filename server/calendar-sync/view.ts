import { and, asc, eq, exists, isNull, or, sql } from 'drizzle-orm'
import { formatAccountFault, formatUnread } from '../../core/catalogue/calendars'
import { groupBy } from '../../core/group-by'
import type { AccountView, CalendarView } from '../../core/views/calendars'
import type { SignedIn } from '../../core/views/desk'
import type { HostView } from '../../core/views/host'
import type { Database } from '../database/connection'
import { calendarAccounts, calendars, hosts, receivingCalendars } from '../database/schema'
import type { AccountRow } from './access'
import type { CalendarRow } from './store'

/** Accounts as they are shown: never what is in them, nor how they are reached. */

/** Those of all hosts; to a host only their own. */
export async function listAccounts(db: Database, { workspaceId, memberId, role }: SignedIn, id?: string): Promise<AccountView[]> {
  const found = await db.select({ account: calendarAccounts }).from(calendarAccounts)
    .innerJoin(hosts, and(eq(hosts.workspaceId, calendarAccounts.workspaceId), eq(hosts.id, calendarAccounts.hostId)))
    .where(and(
      eq(calendarAccounts.workspaceId, workspaceId), isNull(hosts.leftAt), role === 'host' ? eq(hosts.memberId, memberId) : undefined,
      id === undefined ? undefined : eq(calendarAccounts.id, id),
    )).orderBy(asc(hosts.name), asc(calendarAccounts.createdAt))
  const rows = await calendarViewsQuery(db).where(eq(calendars.workspaceId, workspaceId)).orderBy(asc(calendars.name), asc(calendars.id))
  const byAccount = groupBy(rows, ({ calendar }) => calendar.accountId)
  return found.map(({ account }) => accountView(account, byAccount.get(account.id) ?? []))
}

function accountView({ id, hostId, kind, label, state, fault, failingSince }: AccountRow, of: readonly CalendarViewRow[]): AccountView {
  return {
    id, hostId, kind, label, state,
    ...(fault ? { fault: formatAccountFault(fault) } : {}),
    failingSince: failingSince?.toISOString() ?? null,
    calendars: of.map(calendarView),
  }
}

interface CalendarViewRow {
  calendar: CalendarRow
  receivesFor: string[]
}

function calendarViewsQuery(db: Database) {
  const receivesFor = sql<string[]>`array(select event_type_id from receiving_calendars as named
    where named.workspace_id = calendars.workspace_id and named.calendar_id = calendars.id order by 1)`
  return db.select({ calendar: calendars, receivesFor }).from(calendars).$dynamic()
}

function calendarView({ calendar, receivesFor }: CalendarViewRow): CalendarView {
  const { id, name, writable, blocks, receives, countsAllDay, countsUnconfirmed, timeZone, lookedAt, isGone, entries, unread } = calendar
  return {
    id, name, writable, blocks, receives, receivesFor, countsAllDay, countsUnconfirmed, timeZone, isGone, entries,
    lastLook: lookedAt?.toISOString() ?? null,
    unread: unread.map(entry => ({ uid: entry.uid, why: formatUnread(entry) })),
  }
}

export async function findCalendar(db: Database, workspaceId: string, id: string): Promise<CalendarView | null> {
  const [calendar] = await calendarViewsQuery(db).where(and(eq(calendars.workspaceId, workspaceId), eq(calendars.id, id)))
  return calendar ? calendarView(calendar) : null
}

/** Whether a host's sessions of an event type are written into a calendar of theirs. */
export async function hasReceivingCalendar(db: Database, workspaceId: string, hostId: string, eventTypeId: string): Promise<boolean> {
  return await db.$count(calendars, and(
    eq(calendars.workspaceId, workspaceId), eq(calendars.hostId, hostId), eq(calendars.isGone, false),
    or(eq(calendars.receives, true), exists(db.select({ one: sql`1` }).from(receivingCalendars).where(and(
      eq(receivingCalendars.workspaceId, calendars.workspaceId), eq(receivingCalendars.calendarId, calendars.id),
      eq(receivingCalendars.eventTypeId, eventTypeId),
    )))),
  )) > 0
}

/** What a host's calendars do, in a few words. */
export async function summarizeCalendars(db: Database, workspaceId: string, hostId: string): Promise<HostView['calendars']> {
  const rows = await db.select({ calendar: calendars, account: calendarAccounts }).from(calendars)
    .innerJoin(calendarAccounts, and(eq(calendarAccounts.workspaceId, calendars.workspaceId), eq(calendarAccounts.id, calendars.accountId)))
    .where(and(eq(calendars.workspaceId, workspaceId), eq(calendars.hostId, hostId))).orderBy(asc(calendars.name), asc(calendars.id))
  return {
    blocking: rows.flatMap(({ calendar }) => (calendar.blocks ? [calendar.name] : [])),
    receiving: rows.find(({ calendar }) => calendar.receives)?.calendar.name ?? null,
    faults: [...new Set(rows.flatMap(({ account: { label, fault } }) => (fault ? [`${label}: ${formatAccountFault(fault)}`] : [])))],
  }
}
