import { createHash } from 'node:crypto'
import { and, eq, inArray, isNotNull, or, sql } from 'drizzle-orm'
import { formatInstant } from '../../core/time/civil'
import type { AccountFault } from '../../core/views/calendar-account'
import { sessionEntryText } from '../calendars'
import { type Context, dateOf, secondsOf } from '../context'
import { withLock } from '../database/lock'
import { calendarAccounts, calendars, hosts, receivingCalendars, sessionEntries, sessionHosts, sessions } from '../database/schema'
import { loadDetailsOfSession } from '../details'
import { type JobSubject, planJob, waitAfter } from '../jobs/queue'
import { type CalendarAccess, CalendarFault } from '../ports/calendar'
import { spanOf } from '../ports/calendar-reader'
import { recordTrail } from '../trail'
import { type AccountRow, accessOf } from './access'
import type { CalendarRow } from './store'

/**
 * Sessions in their hosts' calendars: one entry per session and host, brought to what the session is like now. Whatever the
 * job finds when it begins, it comes to the same: an answer that was lost, or a kill, leads to no second entry.
 */

type EntryRow = typeof sessionEntries.$inferSelect
type SessionRow = typeof sessions.$inferSelect

/** A calendar that can be written to. */
interface Target {
  calendar: CalendarRow
  account: AccountRow
  /** It receives this event type's sessions, whichever receives the others. */
  isNamed: boolean
}

/** What one host's calendar should hold of a session; `text` is null where it should hold nothing. */
interface Wanted {
  hostId: string
  host: string
  row: EntryRow | null
  target: Target | null
  text: string | null
}

/** The job: brings the entries of one session up to date, and plans the next try of those that could not be. */
export async function writeEntries(context: Context, { workspaceId, id }: JobSubject): Promise<void> {
  await withLock(context.pool, `session entries ${id}`, async () => {
    const [session] = await context.db.select().from(sessions).where(and(eq(sessions.workspaceId, workspaceId), eq(sessions.id, id)))
    if (!session) return
    const failed: number[] = []
    for (const wanted of await wantedEntries(context, session)) {
      try {
        await bringUpToDate(context, session, wanted)
      } catch (error) {
        if (!(error instanceof CalendarFault)) throw error
        failed.push(await recordFailure(context, session, wanted, error.fault))
      }
    }
    const next = Math.min(...failed)
    if (failed.length > 0 && next < secondsOf(session.endsAt)) await planJob(context.db, 'writeEntries', { workspaceId, id }, next)
  })
}

/** What becomes of a session whose job met an error that nobody foresaw. */
export async function writingFailed(context: Context, subject: JobSubject, _error: unknown): Promise<void> {
  await planJob(context.db, 'writeEntries', subject, context.now() + waitAfter(4, context.settings.retryPace))
}

/** Each host who sits in the session, and each who has an entry of it. */
async function wantedEntries(context: Context, session: SessionRow): Promise<Wanted[]> {
  const { db, now } = context
  const { workspaceId, id } = session
  const seated = await db.select({ host: hosts }).from(sessionHosts)
    .innerJoin(hosts, and(eq(hosts.workspaceId, sessionHosts.workspaceId), eq(hosts.id, sessionHosts.hostId)))
    .where(and(eq(sessionHosts.workspaceId, workspaceId), eq(sessionHosts.sessionId, id), eq(sessionHosts.active, true)))
  const rows = await db.select({ row: sessionEntries, host: hosts.name }).from(sessionEntries)
    .innerJoin(hosts, and(eq(hosts.workspaceId, sessionEntries.workspaceId), eq(hosts.id, sessionEntries.hostId)))
    .where(and(eq(sessionEntries.workspaceId, workspaceId), eq(sessionEntries.sessionId, id)))
  const targets = await loadTargets(context, session, seated.map(({ host }) => host.id), rows.map(({ row }) => row.calendarId))
  const receivingOf = (hostId: string) => {
    const own = targets.filter(({ calendar }) => calendar.hostId === hostId)
    return own.find(({ isNamed }) => isNamed) ?? own.find(({ calendar }) => calendar.receives)
  }
  const [first, ...more] = await loadDetailsOfSession(db, workspaceId, id, 'confirmed')
  const stands = first !== undefined && !session.cancelled && secondsOf(session.endsAt) > now()
  const wanted: Wanted[] = []
  for (const { row, host } of rows) {
    const receiving = receivingOf(row.hostId)
    const isSeated = seated.some(seat => seat.host.id === row.hostId)
    // Another calendar receives by now: the entry goes from the one to the other.
    if (!stands || !isSeated || (receiving && receiving.calendar.id !== row.calendarId)) {
      const target = targets.find(({ calendar }) => calendar.id === row.calendarId) ?? null
      wanted.push({ hostId: row.hostId, host, row, target, text: null })
    }
  }
  if (!stands) return wanted
  for (const { host } of seated) {
    const target = receivingOf(host.id)
    const own = rows.find(({ row }) => row.hostId === host.id && row.calendarId === target?.calendar.id)?.row ?? null
    if (target) wanted.push({ hostId: host.id, host: host.name, row: own, target, text: sessionEntryText(context, [first, ...more], host) })
  }
  return wanted
}

/** The calendars that receive a session of some hosts, by their event type or else, and others by their ids. */
async function loadTargets(
  { db }: Context, { workspaceId, eventTypeId }: SessionRow, hostIds: string[], calendarIds: string[],
): Promise<Target[]> {
  const found = await db.select({ calendar: calendars, account: calendarAccounts, named: receivingCalendars.calendarId }).from(calendars)
    .innerJoin(calendarAccounts, and(eq(calendarAccounts.workspaceId, calendars.workspaceId), eq(calendarAccounts.id, calendars.accountId)))
    .leftJoin(receivingCalendars, and(
      eq(receivingCalendars.workspaceId, calendars.workspaceId), eq(receivingCalendars.calendarId, calendars.id),
      eq(receivingCalendars.eventTypeId, eventTypeId),
    ))
    .where(and(eq(calendars.workspaceId, workspaceId), eq(calendars.isGone, false), or(
      and(inArray(calendars.hostId, hostIds), or(eq(calendars.receives, true), isNotNull(receivingCalendars.calendarId))),
      inArray(calendars.id, calendarIds),
    )))
  return found.map(({ named, ...target }) => ({ ...target, isNamed: named !== null }))
}

async function bringUpToDate(context: Context, session: SessionRow, wanted: Wanted): Promise<void> {
  const { row, target, text } = wanted
  if (!target) {
    // Nothing leads to its calendar any more: what stands there stays.
    if (row && text === null) await forgetEntry(context, row)
    return
  }
  const access = accessOf(context, target.account)
  if (!access?.writing) return
  if (text === null) {
    if (row) await remove(context, session, wanted, access, row)
    return
  }
  // What somebody did to it waits for a person's word.
  if (row?.noticed || row?.hash === hashOf(text)) return
  await write(context, session, { ...wanted, target, text }, access)
}

type Writing = Wanted & { target: Target, text: string }

async function write(context: Context, session: SessionRow, wanted: Writing, access: CalendarAccess): Promise<void> {
  const { row, target: { calendar }, text } = wanted
  let href = row?.href ?? hrefOf(calendar, session.id)
  let etag = row?.etag ?? null
  for (let tries = 0; tries < 4; tries++) {
    const outcome = await access.writing?.put(calendar, href, text, etag)
    if (outcome?.kind === 'written') {
      const stored = outcome.etag ?? (await access.load(calendar, [href]))[0]?.etag ?? ''
      return saveEntry(context, session, wanted, { href, etag: stored })
    }
    // Its UID stands there already, perhaps from an invitation by mail: that entry is ours from now on.
    if (outcome?.kind === 'conflict') href = outcome.href
    const [present] = await access.load(calendar, [href])
    if (present && row?.hash && isMoved(present, session)) return notice(context, session, row, present)
    if (!present && row?.hash) return notice(context, session, row, null)
    etag = present?.etag ?? null
  }
  throw new CalendarFault('refused', serverOf(calendar), 412)
}

const key = [sessionEntries.workspaceId, sessionEntries.sessionId, sessionEntries.hostId, sessionEntries.calendarId]
const nothingNoticed = { noticed: null, noticedStart: null, noticedEnd: null }
const serverOf = ({ href }: Pick<CalendarRow, 'href'>) => (URL.canParse(href) ? new URL(href).host : href)
const hrefOf = ({ href }: Pick<CalendarRow, 'href'>, sessionId: string) => `${new URL(href).pathname}${sessionId}.ics`

async function remove(context: Context, session: SessionRow, wanted: Wanted, access: CalendarAccess, row: EntryRow): Promise<void> {
  const calendar = wanted.target?.calendar
  if (!calendar) return
  let etag: string | null = row.etag
  for (let tries = 0; tries < 3; tries++) {
    if (await access.writing?.remove(calendar, row.href, etag) !== 'stale') {
      await forgetEntry(context, row)
      await recordTrail(context.db, { workspaceId: session.workspaceId, sessionId: session.id }, context.now(), 'entryRemoved', {
        host: wanted.host, calendar: calendar.name,
      })
      return
    }
    etag = (await access.load(calendar, [row.href]))[0]?.etag ?? null
  }
  throw new CalendarFault('refused', serverOf(calendar), 412)
}

async function saveEntry(
  context: Context, session: SessionRow, { hostId, host, row, target: { calendar }, text }: Writing, at: { href: string, etag: string },
): Promise<void> {
  const { workspaceId, id: sessionId } = session
  const values = { ...at, hash: hashOf(text), writtenAt: dateOf(context.now()), attempts: 0, fault: null, ...nothingNoticed }
  await context.db.transaction(async (tx) => {
    await tx.insert(sessionEntries).values({ workspaceId, sessionId, hostId, calendarId: calendar.id, ...values })
      .onConflictDoUpdate({ target: key, set: values })
    await recordTrail(tx, { workspaceId, sessionId }, context.now(), 'entryWritten', { host, calendar: calendar.name, isNew: !row?.hash })
  })
}

/** When the next try is due. */
async function recordFailure(
  context: Context, session: SessionRow, { hostId, host, row, target: at }: Wanted, fault: AccountFault,
): Promise<number> {
  const { workspaceId, id: sessionId } = session
  const attempts = (row?.attempts ?? 0) + 1
  const next = context.now() + waitAfter(attempts, context.settings.retryPace)
  const values = { attempts, fault }
  await context.db.transaction(async (tx) => {
    if (at) {
      const href = row?.href ?? hrefOf(at.calendar, sessionId)
      await tx.insert(sessionEntries).values({ workspaceId, sessionId, hostId, calendarId: at.calendar.id, href, ...values })
        .onConflictDoUpdate({ target: key, set: values })
    }
    await recordTrail(tx, { workspaceId, sessionId }, context.now(), 'entryFailed', {
      host, calendar: at?.calendar.name ?? '', fault, nextAt: next < secondsOf(session.endsAt) ? next : null,
    })
  })
  return next
}

async function forgetEntry({ db }: Context, row: EntryRow): Promise<void> {
  await db.delete(sessionEntries).where(isEntry(row))
}

function isMoved(present: { text: string }, session: SessionRow): boolean {
  const span = spanOf(present.text)
  return span !== null && (span.start !== secondsOf(session.startsAt) || span.end !== secondsOf(session.endsAt))
}

/** Writes down what somebody has done to an entry; null for one that is gone. */
export async function notice(context: Context, session: SessionRow, row: EntryRow, present: { text: string } | null): Promise<void> {
  const span = present && spanOf(present.text)
  const noticed = present ? 'moved' : 'deleted'
  const start = span ? dateOf(span.start) : null
  const end = span ? dateOf(span.end) : null
  if (row.noticed === noticed && row.noticedStart?.getTime() === start?.getTime() && row.noticedEnd?.getTime() === end?.getTime()) return
  const [host] = await context.db.select({ name: hosts.name }).from(hosts)
    .where(and(eq(hosts.workspaceId, row.workspaceId), eq(hosts.id, row.hostId)))
  await context.db.transaction(async (tx) => {
    await tx.update(sessionEntries).set({ noticed, noticedStart: start, noticedEnd: end }).where(isEntry(row))
    await recordTrail(tx, { workspaceId: session.workspaceId, sessionId: session.id }, context.now(), 'entryNoticed', {
      host: host?.name ?? '', what: noticed, start: span?.start ?? null, end: span?.end ?? null,
    })
  })
}

/** Compares what stands in an account's calendars with what was written there before a look began. */
export async function noticeChanges(context: Context, account: AccountRow, since: number): Promise<void> {
  const { rows } = await context.db.execute<{ sessionId: string, hostId: string, calendarId: string, text: string | null }>(sql`
    select entry.session_id as "sessionId", entry.host_id as "hostId", entry.calendar_id as "calendarId", object.text
    from session_entries as entry
      inner join calendars on calendars.workspace_id = entry.workspace_id and calendars.id = entry.calendar_id and not calendars.is_gone
      inner join sessions on sessions.workspace_id = entry.workspace_id and sessions.id = entry.session_id
      inner join session_hosts on session_hosts.workspace_id = entry.workspace_id and session_hosts.session_id = entry.session_id
        and session_hosts.host_id = entry.host_id and session_hosts.active
      left join calendar_objects as object on object.workspace_id = entry.workspace_id and object.calendar_id = entry.calendar_id and object.href = entry.href
    where entry.workspace_id = ${account.workspaceId} and calendars.account_id = ${account.id} and entry.hash is not null
      and entry.written_at < ${formatInstant(since)}::timestamptz and sessions.ends_at > ${formatInstant(context.now())}::timestamptz and not sessions.cancelled
      and (entry.noticed is not null or object.href is null or object.etag <> entry.etag)`)
  for (const { sessionId, hostId, calendarId, text } of rows) {
    const at = { workspaceId: account.workspaceId, sessionId, hostId, calendarId }
    const [found] = await context.db.select({ row: sessionEntries, session: sessions }).from(sessionEntries)
      .innerJoin(sessions, and(eq(sessions.workspaceId, sessionEntries.workspaceId), eq(sessions.id, sessionEntries.sessionId)))
      .where(isEntry(at))
    if (!found) continue
    if (text === null || isMoved({ text }, found.session)) await notice(context, found.session, found.row, text === null ? null : { text })
    else if (found.row.noticed) await context.db.update(sessionEntries).set(nothingNoticed).where(isEntry(at))
  }
}

/** Writes the entries of a session anew, whatever somebody did to them. False where nothing was noticed. */
export async function putBack({ db, now }: Context, workspaceId: string, sessionId: string): Promise<boolean> {
  return db.transaction(async (tx) => {
    const changed = await tx.update(sessionEntries).set({ ...nothingNoticed, hash: null })
      .where(and(eq(sessionEntries.workspaceId, workspaceId), eq(sessionEntries.sessionId, sessionId), sql`${sessionEntries.noticed} is not null`))
      .returning({ hostId: sessionEntries.hostId })
    if (changed.length > 0) await planJob(tx, 'writeEntries', { workspaceId, id: sessionId }, now())
    return changed.length > 0
  })
}

/** Sessions to come of a host whose calendar receives, or no longer does. */
export async function planHostEntries({ db, now }: Pick<Context, 'db' | 'now'>, workspaceId: string, hostId: string): Promise<void> {
  const found = await db.select({ id: sessions.id }).from(sessionHosts)
    .innerJoin(sessions, and(eq(sessions.workspaceId, sessionHosts.workspaceId), eq(sessions.id, sessionHosts.sessionId)))
    .where(and(
      eq(sessionHosts.workspaceId, workspaceId), eq(sessionHosts.hostId, hostId), eq(sessionHosts.active, true),
      sql`${sessions.endsAt} > ${formatInstant(now())}::timestamptz`,
    ))
  for (const { id } of found) await planJob(db, 'writeEntries', { workspaceId, id }, now())
}

/** What the text says, whenever it was written. */
function hashOf(text: string): string {
  return createHash('sha256').update(text.replaceAll(/^DTSTAMP:.*\r\n/gm, '')).digest('base64url').slice(0, 32)
}

function isEntry({ workspaceId, sessionId, hostId, calendarId }: Pick<EntryRow, 'workspaceId' | 'sessionId' | 'hostId' | 'calendarId'>) {
  return and(
    eq(sessionEntries.workspaceId, workspaceId), eq(sessionEntries.sessionId, sessionId), eq(sessionEntries.hostId, hostId),
    eq(sessionEntries.calendarId, calendarId),
  )
}
