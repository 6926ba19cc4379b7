import { and, asc, eq, gt, lt, sql } from 'drizzle-orm'
import type { TakenView } from '../../core/views/calendars'
import { nameForTeam } from '../../core/event-type/name-for-team'
import { type Context, dateOf, secondsOf } from '../context'
import { eventTypes, hosts, sessionHosts, sessions } from '../database/schema'
import { countingEntries, takenSource } from '../hosts-time'

/** What takes a host's time on one day: the entries of blocking calendars, and sessions. Titles are for the host alone. */
export async function viewTaken(
  context: Context, workspaceId: string, hostId: string, { from, to }: { from: number, to: number }, memberId: string,
): Promise<TakenView> {
  const { db } = context
  const [host] = await db.select({ memberId: hosts.memberId }).from(hosts)
    .where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.id, hostId)))
  const isOwn = host?.memberId === memberId
  const span = sql`tstzrange(${dateOf(from).toISOString()}::timestamptz, ${dateOf(to).toISOString()}::timestamptz)`
  const taken = await takenSource(context, workspaceId, [hostId], { from, to, before: 0, after: 0 })
  const { rows } = await db.execute<{ start: number, end: number, calendar: string, title: string, whole: boolean }>(sql`
    select extract(epoch from lower(stretch))::float8 as start, extract(epoch from upper(stretch))::float8 as end,
      counting.name as calendar, counting.title, counting.is_whole_day as whole
    from (select taken_times.during, taken_times.title, taken_times.is_whole_day, calendars.name ${countingEntries(workspaceId, [hostId], span, taken)}) as counting,
      lateral unnest(counting.during * tstzmultirange(${span})) as stretch
    order by 1, 2 limit 200`)
  const sitting = await db.select({ session: sessions, settings: eventTypes.settings }).from(sessionHosts)
    .innerJoin(sessions, and(eq(sessions.workspaceId, sessionHosts.workspaceId), eq(sessions.id, sessionHosts.sessionId)))
    .innerJoin(eventTypes, and(eq(eventTypes.workspaceId, sessions.workspaceId), eq(eventTypes.id, sessions.eventTypeId)))
    .where(and(
      eq(sessionHosts.workspaceId, workspaceId), eq(sessionHosts.hostId, hostId), eq(sessionHosts.active, true),
      gt(sessions.endsAt, dateOf(from)), lt(sessions.startsAt, dateOf(to)),
    )).orderBy(asc(sessions.startsAt))
  return {
    times: [
      ...rows.map(({ start, end, calendar, title, whole }) => ({ start, end, calendar, title: isOwn ? title : null, isWholeDay: whole })),
      ...sitting.map(({ session, settings }) => ({
        start: Math.max(from, secondsOf(session.startsAt)), end: Math.min(to, secondsOf(session.endsAt)), calendar: null,
        title: nameForTeam(settings), isWholeDay: false,
      })),
    ].sort((a, b) => a.start - b.start || a.end - b.end),
  }
}
