import { and, eq, sql } from 'drizzle-orm'
import type { AccountFault } from '../../core/views/calendar-account'
import { SILENT_SECONDS } from '../../core/workspace'
import { type Context, dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { withLock } from '../database/lock'
import { calendarAccounts } from '../database/schema'
import { type JobSubject, planJob } from '../jobs/queue'
import { CalendarFault } from '../ports/calendar'
import type { AccountRow } from './access'
import { lookAt, type Urgent } from './look'
import { raiseStamp } from './store'

/** When accounts are looked at, and what is known of how that went. One look at a time, whichever process it is in. */

const HOUR = 3600
/** A lasting fault may be mended on the other side all the same. */
const LASTING_SECONDS = 6 * HOUR
const LONGEST_WAIT = 2 * HOUR
/** Looks are spread, so that those of a server do not all come at once. */
const JITTER = 0.2

export async function loadAccount(db: Database, { workspaceId, id }: JobSubject): Promise<AccountRow | null> {
  const [account] = await db.select().from(calendarAccounts).where(isAccount({ workspaceId, id }))
  return account ?? null
}

/** The job: looks at an account and plans the next look. Throws LockBusy while another look goes on. */
export async function lookAtAccount(context: Context, subject: JobSubject): Promise<void> {
  await lookNow(context, subject)
}

/** Looks at an account. Resolves to what went wrong, which is written down; throws LockBusy, and what is our own fault. */
export async function lookNow(context: Context, subject: JobSubject, urgent?: Urgent): Promise<CalendarFault | null> {
  return withLock(context.pool, lockOf(subject.id), async () => {
    const account = await loadAccount(context.db, subject)
    if (!account) return null
    try {
      await lookAt(context, account, urgent)
    } catch (error) {
      // Disconnected meanwhile: whatever could not be stored is of no use.
      if (!await loadAccount(context.db, subject)) return null
      if (!(error instanceof CalendarFault)) throw error
      await recordFault(context, account, error.fault, error.isLasting)
      return error
    }
    await recordSuccess(context, account)
    return null
  })
}

export function lockOf(accountId: string): string {
  return `calendar account ${accountId}`
}

async function recordSuccess(context: Context, account: AccountRow): Promise<void> {
  const next = context.now() + spread(await pause(context, account))
  await context.db.transaction(async (tx) => {
    await tx.update(calendarAccounts).set({
      state: 'connected', fault: null, failures: 0, failingSince: null, lookedAt: dateOf(context.now()), nextLookAt: dateOf(next),
    }).where(isAccount(account))
    await planJob(tx, 'lookAtCalendars', { workspaceId: account.workspaceId, id: account.id }, next)
  })
}

async function recordFault(context: Context, account: AccountRow, fault: AccountFault, isLasting: boolean): Promise<void> {
  const failures = account.failures + 1
  const wait = isLasting ? LASTING_SECONDS : Math.min(LONGEST_WAIT, context.settings.calendarLookSeconds * 2 ** Math.min(failures - 1, 10))
  const next = context.now() + spread(wait)
  await context.db.transaction(async (tx) => {
    await tx.update(calendarAccounts).set({
      state: isLasting ? 'refused' : 'failing', fault, failures, nextLookAt: dateOf(next),
      failingSince: account.failingSince ?? account.lookedAt ?? dateOf(context.now()),
    }).where(isAccount(account))
    // Perhaps the host is no longer offered from now on.
    if (context.now() - secondsOf(account.lookedAt ?? account.createdAt) > SILENT_SECONDS) await raiseStamp(tx, account)
    await planJob(tx, 'lookAtCalendars', { workspaceId: account.workspaceId, id: account.id }, next)
  })
}

/** What becomes of an account whose job met an error that nobody foresaw. */
export async function lookFailed(context: Context, subject: JobSubject, _error: unknown): Promise<void> {
  const account = await loadAccount(context.db, subject)
  if (account) await recordFault(context, account, { code: 'internal', host: account.label, status: null }, false)
}

/** Often while clients can book the host, else every hour; a file changes only by hand. */
async function pause({ db, settings }: Context, { workspaceId, hostId, kind }: AccountRow): Promise<number> {
  if (kind === 'file') return 24 * HOUR
  const { rows } = await db.execute(sql`
    select 1 from event_types inner join chairs on chairs.workspace_id = event_types.workspace_id and chairs.event_type_id = event_types.id and chairs.active
    where event_types.workspace_id = ${workspaceId} and event_types.state = 'open' and event_types.archived_at is null and not event_types.one_off and (
      exists (select 1 from chair_hosts where chair_hosts.workspace_id = chairs.workspace_id and chair_hosts.chair_id = chairs.id and chair_hosts.host_id = ${hostId})
      or exists (select 1 from chair_groups inner join group_hosts on group_hosts.workspace_id = chair_groups.workspace_id and group_hosts.group_id = chair_groups.group_id
        where chair_groups.workspace_id = chairs.workspace_id and chair_groups.chair_id = chairs.id and group_hosts.host_id = ${hostId}))
    limit 1`)
  return rows.length > 0 ? settings.calendarLookSeconds : Math.max(HOUR, settings.calendarLookSeconds)
}

function spread(seconds: number): number {
  return Math.max(1, Math.round(seconds * (1 - JITTER / 2 + JITTER * Math.random())))
}

/** Accounts whose job was lost are planned anew: none waits for ever. */
export async function planLostLooks({ db, now }: Context): Promise<void> {
  const lost = await db.select({ workspaceId: calendarAccounts.workspaceId, id: calendarAccounts.id }).from(calendarAccounts)
    .where(sql`${calendarAccounts.nextLookAt} < ${dateOf(now() - HOUR).toISOString()}::timestamptz`)
  for (const subject of lost) await planJob(db, 'lookAtCalendars', subject, now())
}

function isAccount({ workspaceId, id }: JobSubject) {
  return and(eq(calendarAccounts.workspaceId, workspaceId), eq(calendarAccounts.id, id))
}
