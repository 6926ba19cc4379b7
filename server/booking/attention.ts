import { and, asc, desc, eq, gt, gte, inArray, isNotNull, lt, or, sql } from 'drizzle-orm'
import { hasRight } from '../../core/account/rights'
import { readTrailEntry } from '../../core/booking/trail'
import { occasions } from '../../core/messages/occasions'
import { nameForTeam } from '../../core/event-type/name-for-team'
import { DAY, MINUTE } from '../../core/time/civil'
import type { Attention, SignedIn } from '../../core/views/desk'
import { type Context, dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { bookings, calendarAccounts, deliveries, eventTypes, hosts, rooms, sessionEntries, sessionHosts, sessions, trail, workspaces } from '../database/schema'
import { areJobsRun } from '../jobs/presence'
import { eventTypesWithoutRooms, invitationsEnding, videoAccountsToMend } from './attention-accounts'
import { paymentsToMend } from './attention-payments'
import { sessionsOf } from './scope'

/** What went wrong behind the scenes and waits for a person, beside approvals and rooms that fail. */

/** What fails this often is shown although it is still tried again by itself. */
const MANY_ATTEMPTS = 4
const MANY_JOB_RUNS = 3
/** A room that is being made for so long has been left behind. Seconds. */
const MAKING_LASTS = 300
/** How long after its session something is still of interest. */
const MESSAGE_DAYS = 1
const SILENT_MINUTES = 30
const ROOM_DAYS = 7

export async function listAttention(context: Context, member: SignedIn): Promise<Attention[]> {
  const parts = await Promise.all([
    messages(context, member),
    roomsLeft(context, member),
    titles(context, member),
    paymentsToMend(context, member),
    hostsLeft(context, member),
    silentCalendars(context, member),
    videoAccountsToMend(context, member),
    hasRight(member.role, 'connectWorkspace') ? invitationsEnding(context, member.workspaceId) : [],
    hasRight(member.role, 'changeEventTypes') ? eventTypesWithoutRooms(context, member.workspaceId) : [],
    entriesChanged(context, member),
    hasRight(member.role, 'changeEventTypes') ? jobs(context, member.workspaceId) : [],
    hasRight(member.role, 'changeWorkspace') ? auditFound(context, member.workspaceId) : [],
  ])
  return [...await areJobsRun(context.db) ? [] : [{ kind: 'noJobs' as const }], ...parts.flat()]
}

async function messages({ db, now }: Context, member: SignedIn): Promise<Attention[]> {
  const found = await db
    .select({ delivery: deliveries, session: sessions, client: bookings.clientName, settings: eventTypes.settings })
    .from(deliveries)
    .innerJoin(bookings, and(eq(bookings.workspaceId, deliveries.workspaceId), eq(bookings.id, deliveries.bookingId)))
    .innerJoin(sessions, and(eq(sessions.workspaceId, bookings.workspaceId), eq(sessions.id, bookings.sessionId)))
    .innerJoin(eventTypes, and(eq(eventTypes.workspaceId, sessions.workspaceId), eq(eventTypes.id, sessions.eventTypeId)))
    .where(
      and(
        sessionsOf(db, member, 'change'),
        eq(deliveries.workspaceId, member.workspaceId),
        sql`${deliveries.state} not in ('sent', 'overtaken')`,
        gt(sessions.endsAt, dateOf(now() - MESSAGE_DAYS * DAY)),
        or(
          inArray(deliveries.state, ['failed', 'unknown']),
          and(eq(deliveries.state, 'planned'), gte(deliveries.attempts, MANY_ATTEMPTS), isNotNull(deliveries.fault)),
        ),
      ),
    )
    .orderBy(asc(sessions.startsAt))
  return found.flatMap(({ delivery, session, client, settings }) => {
    const occasion = occasions.find(candidate => candidate === delivery.occasion)
    return occasion
      ? [
          {
            kind: 'message' as const,
            id: delivery.id,
            sessionId: session.id,
            eventType: nameForTeam(settings),
            client,
            start: secondsOf(session.startsAt),
            occasion,
            address: delivery.address,
            unknown: delivery.state === 'unknown',
            fault: delivery.fault,
            nextTryAt: delivery.nextTryAt ? secondsOf(delivery.nextTryAt) : null,
          },
        ]
      : []
  })
}

/** Rooms of cancelled sessions that their service still has, and rooms whose making was left behind. */
async function roomsLeft({ db, now }: Context, member: SignedIn): Promise<Attention[]> {
  const found = await db.select({ room: rooms, session: sessions, settings: eventTypes.settings }).from(rooms)
    .innerJoin(sessions, and(eq(sessions.workspaceId, rooms.workspaceId), eq(sessions.id, rooms.sessionId)))
    .innerJoin(eventTypes, and(eq(eventTypes.workspaceId, sessions.workspaceId), eq(eventTypes.id, sessions.eventTypeId)))
    .where(and(
      sessionsOf(db, member, 'change'),
      sql`(${rooms.state} = 'making' or ${rooms.lastFault} is not null)`,
      eq(rooms.workspaceId, member.workspaceId),
      gt(sessions.endsAt, dateOf(now() - ROOM_DAYS * DAY)),
      or(
        and(eq(rooms.state, 'withdrawn'), isNotNull(rooms.lastFault), gte(rooms.attempts, MANY_ATTEMPTS)),
        and(eq(rooms.state, 'ready'), isNotNull(rooms.lastFault), gt(sessions.endsAt, dateOf(now()))),
        and(sql`${rooms.state} = 'making'`, lt(rooms.askedAt, dateOf(now() - MAKING_LASTS)), gt(sessions.endsAt, dateOf(now()))),
      ),
    ))
    .orderBy(asc(sessions.startsAt))
  return found.map(({ room, session, settings }) => ({
    kind: 'room',
    sessionId: session.id,
    eventType: nameForTeam(settings),
    start: secondsOf(session.startsAt),
    withdrawn: room.state === 'withdrawn',
    ready: room.state === 'ready',
    fault: room.lastFault,
    nextTryAt: room.nextTryAt ? secondsOf(room.nextTryAt) : null,
  }))
}

/** Sessions to come that somebody hosts who has left the workspace. */
async function hostsLeft({ db, now }: Context, member: SignedIn): Promise<Attention[]> {
  const found = await db.select({ session: sessions, settings: eventTypes.settings, host: hosts.name }).from(sessionHosts)
    .innerJoin(hosts, and(eq(hosts.workspaceId, sessionHosts.workspaceId), eq(hosts.id, sessionHosts.hostId), isNotNull(hosts.leftAt)))
    .innerJoin(sessions, and(eq(sessions.workspaceId, sessionHosts.workspaceId), eq(sessions.id, sessionHosts.sessionId)))
    .innerJoin(eventTypes, and(eq(eventTypes.workspaceId, sessions.workspaceId), eq(eventTypes.id, sessions.eventTypeId)))
    .where(and(sessionsOf(db, member, 'change'), eq(sessionHosts.active, true), gt(sessions.startsAt, dateOf(now()))))
    .orderBy(asc(sessions.startsAt))
  return found.map(({ session, settings, host }) => ({
    kind: 'hostLeft', sessionId: session.id, eventType: nameForTeam(settings), start: secondsOf(session.startsAt), host,
  }))
}

/** Calendar accounts that have not been read for a while, or that only a person can mend. To hosts their own. */
async function silentCalendars({ db, now }: Context, { workspaceId, memberId, role }: SignedIn): Promise<Attention[]> {
  const found = await db.select({ account: calendarAccounts, host: hosts.name, memberId: hosts.memberId }).from(calendarAccounts)
    .innerJoin(hosts, and(eq(hosts.workspaceId, calendarAccounts.workspaceId), eq(hosts.id, calendarAccounts.hostId)))
    .where(and(
      eq(calendarAccounts.workspaceId, workspaceId), role === 'host' ? eq(hosts.memberId, memberId) : undefined,
      or(eq(calendarAccounts.state, 'refused'), lt(calendarAccounts.failingSince, dateOf(now() - SILENT_MINUTES * MINUTE))),
    )).orderBy(asc(calendarAccounts.failingSince))
  return found.map(({ account, host, memberId: of }) => ({
    kind: 'calendar', accountId: account.id, own: of === memberId, host, label: account.label,
    since: secondsOf(account.failingSince ?? account.createdAt), fault: account.fault,
  }))
}

/** Sessions to come whose entries people have moved or deleted in a calendar. */
async function entriesChanged({ db, now }: Context, member: SignedIn): Promise<Attention[]> {
  const found = await db.select({ entry: sessionEntries, session: sessions, settings: eventTypes.settings, host: hosts.name })
    .from(sessionEntries)
    .innerJoin(sessions, and(eq(sessions.workspaceId, sessionEntries.workspaceId), eq(sessions.id, sessionEntries.sessionId)))
    .innerJoin(eventTypes, and(eq(eventTypes.workspaceId, sessions.workspaceId), eq(eventTypes.id, sessions.eventTypeId)))
    .innerJoin(hosts, and(eq(hosts.workspaceId, sessionEntries.workspaceId), eq(hosts.id, sessionEntries.hostId)))
    .where(and(
      sessionsOf(db, member, 'change'), eq(sessionEntries.workspaceId, member.workspaceId), isNotNull(sessionEntries.noticed),
      eq(sessions.cancelled, false), gt(sessions.endsAt, dateOf(now())),
    ))
    .orderBy(asc(sessions.startsAt))
  return found.flatMap(({ entry, session, settings, host }): Attention[] => (entry.noticed === null ? [] : [{
    kind: 'entry', sessionId: session.id, eventType: nameForTeam(settings), host, start: secondsOf(session.startsAt), what: entry.noticed,
    movedTo: entry.noticedStart && secondsOf(entry.noticedStart),
  }]))
}

/** Event types whose calendar title, as it is now, failed for a session to come. */
async function titles({ db, now }: Context, member: SignedIn): Promise<Attention[]> {
  const found = await db
    .select({ at: trail.at, values: trail.values, eventType: eventTypes })
    .from(trail)
    .innerJoin(sessions, and(eq(sessions.workspaceId, trail.workspaceId), eq(sessions.id, trail.sessionId)))
    .innerJoin(eventTypes, and(eq(eventTypes.workspaceId, sessions.workspaceId), eq(eventTypes.id, sessions.eventTypeId)))
    .where(
      and(
        sessionsOf(db, member, 'change'), eq(trail.workspaceId, member.workspaceId), sql`${trail.code} = 'titleFailed'`,
        gt(sessions.endsAt, dateOf(now())), sql`${trail.values} ->> 'title' = ${eventTypes.settings} ->> 'calendarTitle'`,
      ),
    )
    .orderBy(desc(trail.at))
  const newest = new Map(found.reverse().map(row => [row.eventType.id, row]))
  return [...newest.values()].flatMap(({ values, eventType }): Attention[] => {
    const entry = readTrailEntry('titleFailed', values)
    if (entry.code !== 'titleFailed') return []
    return [{ kind: 'title', eventTypeId: eventType.id, eventType: nameForTeam(eventType.settings), fault: entry.values.fault }]
  })
}

/** What the nightly audit has found broken. */
async function auditFound({ db }: Context, workspaceId: string): Promise<Attention[]> {
  const [found] = await db.select({ broken: workspaces.brokenPromises }).from(workspaces).where(eq(workspaces.id, workspaceId))
  return found && found.broken.length > 0 ? [{ kind: 'audit', found: found.broken }] : []
}

/** Jobs that keep failing before anything can be written down about them. */
async function jobs({ db }: Context, workspaceId: string): Promise<Attention[]> {
  const { rows } = await db.execute<{ id: string, task: string, next: number | null }>(sql`
    select id::text, task_identifier as task, case when attempts < max_attempts then floor(extract(epoch from run_at))::int end as next
    from graphile_worker.jobs where ${failing(workspaceId)} order by run_at limit 20`)
  return rows.map(({ id, task, next }) => ({ kind: 'job', id, task, nextTryAt: next }))
}

const failing = (workspaceId: string) =>
  sql`key like ${`%:${workspaceId}:%`} and attempts >= ${MANY_JOB_RUNS} and last_error is not null`

export async function countFailingJobs(db: Database, workspaceId: string): Promise<number> {
  const { rows } = await db.execute<{ count: number }>(sql`select count(*)::int from graphile_worker.jobs where ${failing(workspaceId)}`)
  return rows[0]?.count ?? 0
}

/** Has a job that keeps failing run at once. False where the workspace has no such job. */
export async function runJobNow({ db }: Context, workspaceId: string, id: string): Promise<boolean> {
  const { rows } = await db.execute(sql`
    select (graphile_worker.reschedule_jobs(array[id], run_at := now(), attempts := 0)).id
    from graphile_worker.jobs where id = ${id}::bigint and key like ${`%:${workspaceId}:%`} and locked_at is null`)
  return rows.length > 0
}
