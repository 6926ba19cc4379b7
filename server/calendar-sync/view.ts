import { and, asc, eq, isNull } from 'drizzle-orm'
import { formatAccountFault, formatUnread } from '../../core/catalogue/calendars'
import { groupBy } from '../../core/group-by'
import type { AccountView, CalendarView } from '../../core/views/calendars'
import type { SignedIn } from '../../core/views/desk'
import type { Database } from '../database/connection'
import { calendarAccounts, calendars, hosts } from '../database/schema'
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
  const byAccount = groupBy(
    await db.select().from(calendars).where(eq(calendars.workspaceId, workspaceId)).orderBy(asc(calendars.name), asc(calendars.id)),
    calendar => calendar.accountId,
  )
  return found.map(({ account }) => accountView(account, byAccount.get(account.id) ?? []))
}

function accountView({ id, hostId, kind, label, state, fault, failingSince }: AccountRow, of: readonly CalendarRow[]): AccountView {
  return {
    id, hostId, kind, label, state,
    ...(fault ? { fault: formatAccountFault(fault) } : {}),
    failingSince: failingSince?.toISOString() ?? null,
    calendars: of.map(calendarView),
  }
}

export function calendarView(calendar: CalendarRow): CalendarView {
  const { id, name, writable, blocks, receives, countsAllDay, countsUnconfirmed, timeZone, lookedAt, isGone, entries, unread } = calendar
  return {
    id, name, writable, blocks, receives, countsAllDay, countsUnconfirmed, timeZone, isGone, entries,
    lastLook: lookedAt?.toISOString() ?? null,
    unread: unread.map(entry => ({ uid: entry.uid, why: formatUnread(entry) })),
  }
}

export async function findCalendar(db: Database, workspaceId: string, id: string): Promise<CalendarView | null> {
  const [calendar] = await db.select().from(calendars).where(and(eq(calendars.workspaceId, workspaceId), eq(calendars.id, id)))
  return calendar ? calendarView(calendar) : null
}

/** Whether a host's sessions are written into a calendar of theirs. */
export async function hasReceivingCalendar(db: Database, workspaceId: string, hostId: string): Promise<boolean> {
  return await db.$count(calendars, and(
    eq(calendars.workspaceId, workspaceId), eq(calendars.hostId, hostId), eq(calendars.receives, true), eq(calendars.isGone, false),
  )) > 0
}
