import { and, asc, eq, isNull, sql, type SQL } from 'drizzle-orm'
import { LRUCache } from 'lru-cache'
import { enginePlan } from '../../core/hours/plan'
import type { HostTime, TakenTime } from '../../core/event-type/host-time'
import type { SharedPlan } from '../../core/event-type/shared-hours'
import { awayPlan } from '../../core/hours/away'
import type { EngineSession } from '../../core/openings'
import { SILENT_SECONDS } from '../../core/workspace'
import { DAY, HOUR } from '../../core/time/civil'
import { groupBy } from '../../core/group-by'
import { dateOf } from '../context'
import { among } from '../database/among'
import type { Database } from '../database/connection'
import { hostPlans, hosts, hoursPlans } from '../database/schema'
import { holidayDates } from './holidays'
import { laterTimes, type TimeSource } from './later'

/** What is known of hosts' time, whichever event type asks. */
export interface HostsTime {
  /** The hosts of an event type in the order of their ids here, as the engine takes them; with what they have within a time only. */
  for: (eventTypeId: string, hostIds: readonly string[], within?: { from: number, to: number }) => HostTime[]
  /** Those of some hosts who have no session from one instant to another. */
  idle: (hostIds: readonly string[], from: number, to: number) => string[]
}

/** An hours plan of a host, be it one that several share. */
export type HostPlanRow = Pick<typeof hoursPlans.$inferSelect, 'id' | 'plan'> & Pick<typeof hostPlans.$inferSelect, 'hostId' | 'isDefault'>

/** When a host has not to be asked at all. */
export type HostAwayRow = Pick<typeof hosts.$inferSelect, 'id' | 'timeZone' | 'away'>

/** What hosts have said of their time: it changes only with the workspace's stamp. */
export interface StatedTime {
  plans: readonly HostPlanRow[]
  away: readonly HostAwayRow[]
}

/** Starts within [from, to), and how far around them taken time matters. All in seconds. */
export interface TimeSpan {
  from: number
  to: number
  before: number
  after: number
  /** Words that the titles of calendar entries are searched for, since they take no time from some event type. */
  holds?: readonly string[]
}

/** Around any start: sessions and buffers of a day each. */
export const NEAR = { before: 3 * DAY, after: 3 * DAY }
/** Around any start, with the ISO weeks that limits count. */
export const WIDE = { before: 9 * DAY, after: 9 * DAY }

/** What is known of hosts' time for starts within a span: one query a table. What they stated is not read where it is known. */
export async function loadHostsTime(
  source: TimeSource, workspaceId: string, hostIds: readonly string[], span: TimeSpan, known?: StatedTime,
): Promise<HostsTime> {
  if (hostIds.length === 0) return { for: () => [], idle: () => [] }
  const stated = known ? onlyOf(known, hostIds) : await loadStated(source.db, workspaceId, hostIds)
  return hostsTimeFrom(stated, await loadTaken(source, workspaceId, hostIds, span), span)
}

export interface RememberedTime extends HostsTime {
  /** As long as this is the same, so is all the rest. */
  key: string
}

/** Hosts' time that was read under the stamps of workspace and hosts: the rows of large teams take long to read. */
const remembered = new LRUCache<string, { time: RememberedTime, rows: number }>({ maxSize: 60_000, sizeCalculation: ({ rows }) => rows })

/**
 * Like `loadHostsTime`, for views that many look at while nothing changes: it is read again only when a stamp has been raised.
 * It may reach up to an hour beyond the span.
 */
export async function rememberHostsTime(
  source: TimeSource, workspaceId: string, hostIds: readonly string[], span: TimeSpan,
): Promise<RememberedTime> {
  const { db } = source
  const whole = { ...span, from: Math.floor(span.from / HOUR) * HOUR, to: Math.ceil(span.to / HOUR) * HOUR }
  const about = JSON.stringify([workspaceId, whole, [...hostIds].sort()])
  // The stamps are read before what they stand for, so that what was read later is at least as new.
  const { rows: [stamps] } = await db.execute<{ stated: string, taken: string }>(sql`
    select stamp::text as stated,
      (select coalesce(sum(taken_stamp), 0)::text from hosts where workspace_id = workspaces.id and id = any(${sql.param([...hostIds])}::uuid[])) as taken
    from workspaces where id = ${workspaceId}`)
  const key = `${about} ${stamps?.stated} ${stamps?.taken}`
  const known = remembered.get(about)
  if (known?.time.key === key) return known.time
  const [stated, taken] = hostIds.length === 0
    ? [{ plans: [], away: [] }, { sessions: [], entries: [] }]
    : await Promise.all([loadStated(db, workspaceId, hostIds), loadTaken(source, workspaceId, hostIds, whole)])
  const time = { ...hostsTimeFrom(stated, taken, whole), key }
  remembered.set(about, { time, rows: rowsOf(stated, taken) })
  return time
}

/** About how many rows of sessions are as large as what was read. */
function rowsOf({ plans, away }: StatedTime, { sessions, entries }: TakenRows): number {
  return 1 + sessions.length + 2 * (plans.length + away.length) + entries.reduce((sum, { times }) => sum + Math.ceil(times.length / 8), 0)
}

/** The plans of hosts, all of the workspace's where none are named, and when they are away. */
export async function loadStated(db: Database, workspaceId: string, hostIds?: readonly string[]): Promise<StatedTime> {
  return {
    plans: await db
      .select({ id: hoursPlans.id, hostId: hostPlans.hostId, isDefault: hostPlans.isDefault, plan: hoursPlans.plan }).from(hostPlans)
      .innerJoin(hoursPlans, and(eq(hoursPlans.workspaceId, hostPlans.workspaceId), eq(hoursPlans.id, hostPlans.planId)))
      .where(and(eq(hostPlans.workspaceId, workspaceId), hostIds && among(hostPlans.hostId, hostIds))),
    away: await db.select({ id: hosts.id, timeZone: hosts.timeZone, away: hosts.away }).from(hosts)
      .where(and(eq(hosts.workspaceId, workspaceId), hostIds && among(hosts.id, hostIds))),
  }
}

function onlyOf({ plans, away }: StatedTime, hostIds: readonly string[]): StatedTime {
  const ids = new Set(hostIds)
  return { plans: plans.filter(plan => ids.has(plan.hostId)), away: away.filter(host => ids.has(host.id)) }
}

/** The plans that the workspace's hosts and event types share, by id; shared, they stay as they are until the transaction ends. */
export async function loadSharedPlans(db: Database, workspaceId: string, lock?: 'share'): Promise<Map<string, SharedPlan>> {
  const query = db.select({ id: hoursPlans.id, name: hoursPlans.name, plan: hoursPlans.plan }).from(hoursPlans)
    .where(and(eq(hoursPlans.workspaceId, workspaceId), isNull(hoursPlans.hostId))).orderBy(asc(hoursPlans.name))
  return new Map((await (lock ? query.for(lock) : query)).map(row => [row.id, row]))
}

function hostsTimeFrom({ plans, away }: StatedTime, { sessions, entries }: TakenRows, span: TimeSpan): HostsTime {
  const holidays = holidayDates(plans.flatMap(row => row.plan.holidays), span.from, span.to)
  const plansByHost = groupBy(plans, row => row.hostId)
  const sessionsByHost = groupBy(sessions, row => row.hostId)
  const entriesByHost = new Map([...groupBy(entries, row => row.hostId)]
    .map(([id, rows]) => [id, rows.map(({ hostId: _host, ...part }): TakenTime => part)]))
  const [first, last] = [Math.floor((span.from - span.before) / DAY), Math.ceil((span.to + span.after) / DAY)]
  const awayByHost = new Map(away.filter(host => host.away.length > 0)
    .map(host => [host.id, awayPlan(host.away, host.timeZone, first, last)]))
  return {
    idle: (ids, from, to) => ids.filter(id => !sessionsByHost.get(id)?.some(session => session.start < to && session.end > from)),
    for: (eventTypeId, ids, within) =>
      ids.map(id => ({
        id,
        plans: (plansByHost.get(id) ?? []).map(row => ({ id: row.id, isDefault: row.isDefault, plan: enginePlan(row.plan, holidays) })),
        away: awayByHost.get(id) ?? null,
        taken: entriesByHost.get(id) ?? [],
        sessions: (sessionsByHost.get(id) ?? []).filter(session => !within || (session.end > within.from && session.start < within.to))
          .map(session => ({
            id: session.id,
            start: session.start,
            end: session.end,
            bufferBeforeMinutes: session.bufferBeforeMinutes,
            bufferAfterMinutes: session.bufferAfterMinutes,
            seatsTaken: session.seatsTaken,
            sameEventType: session.eventTypeId === eventTypeId,
          })),
      })),
  }
}

type TakenSession = Omit<EngineSession, 'sameEventType'> & { hostId: string, eventTypeId: string }

/**
 * A statement that begins like this is not prepared (`server/database/prepared.ts`): a plan for any values would read all
 * sessions, where one for these reads those of the span.
 */
const PLANNED_ANEW = sql.raw('/* planned anew */')

/** Sessions of hosts around a span, found by the range index of the exclusion constraint, so that past ones cost nothing. */
async function loadTaken(source: TimeSource, workspaceId: string, hostIds: readonly string[], span: TimeSpan): Promise<TakenRows> {
  const { db } = source
  const taken = await takenSource(source, workspaceId, hostIds, span)
  const { rows } = await db.execute<Record<keyof TakenSession, never>>(sql`${PLANNED_ANEW} ${sessionsQuery(workspaceId, hostIds, span)}`)
  const { rows: entries } = await db.execute<Record<keyof TakenEntries, never>>(sql`${PLANNED_ANEW} ${entriesQuery(workspaceId, hostIds, span, taken)}`)
  return { sessions: rows, entries }
}

type TakenEntries = TakenTime & { hostId: string }

interface TakenRows {
  sessions: readonly TakenSession[]
  entries: readonly TakenEntries[]
}

/**
 * What blocking calendars take around a span, merged by host and calendar, and by which hold words the titles hold. Entries of
 * sessions that the host sits in count as those sessions, unless somebody moved them. Where the workspace wants it so, one
 * that has not answered for a day takes all of it.
 */
function entriesQuery(
  workspaceId: string, hostIds: readonly string[], { from, to, before, after, holds = [] }: TimeSpan, taken: SQL,
): SQL {
  const span = sql`tstzrange(${dateOf(from - before).toISOString()}::timestamptz, ${dateOf(to + after).toISOString()}::timestamptz)`
  const matched = holds.length === 0 ? sql`'{}'::text[]` : sql`array(
    select word from unnest(${sql.param([...holds])}::text[], ${sql.param(holds.map(wholeWord))}::text[]) as hold(word, pattern) where taken_times.title ~* pattern)`
  return sql`
    select part.host_id as "hostId", calendars.name as calendar, part.holds, part.is_whole_day as "isWholeDay", part.entries::int as entries,
      (select coalesce(json_agg(bound order by bound), '[]') from unnest(part.during) as stretch,
        lateral (values (extract(epoch from lower(stretch))::float8), (extract(epoch from upper(stretch))::float8)) as bounds(bound)) as times
    from (
      select taken_times.host_id, taken_times.calendar_id, ${matched} as holds, taken_times.is_whole_day, count(distinct taken_times.uid) as entries,
        range_agg(taken_times.during * tstzmultirange(${span})) as during
      ${countingEntries(workspaceId, hostIds, span, taken)}
      group by 1, 2, 3, 4
    ) as part inner join calendars on calendars.workspace_id = ${workspaceId} and calendars.id = part.calendar_id
    where not isempty(part.during)
    union all
    select calendars.host_id, calendars.name, '{}'::text[], false, 0, json_build_array(${from - before}::float8, ${to + after}::float8)
    from calendars
      inner join calendar_accounts as silent on silent.workspace_id = calendars.workspace_id and silent.id = calendars.account_id
      inner join workspaces on workspaces.id = calendars.workspace_id and workspaces.stops_silent
    where calendars.workspace_id = ${workspaceId} and calendars.host_id = any(${sql.param([...hostIds])}::uuid[]) and calendars.blocks
      and silent.state <> 'connected' and coalesce(silent.looked_at, silent.created_at) < now() - make_interval(secs => ${SILENT_SECONDS})
    order by 2, 3`
}

/** `taken_times` for what is asked for: the table, with what had to be worked out because it is further ahead. */
export async function takenSource(
  source: TimeSource, workspaceId: string, hostIds: readonly string[], { from, to, before, after }: TimeSpan,
): Promise<SQL> {
  const later = await laterTimes(source, workspaceId, hostIds, from - before, to + after)
  if (later.length === 0) return sql`taken_times`
  return sql`(
    select workspace_id, host_id, calendar_id, during, is_whole_day, is_unconfirmed, uid, session_id, title from taken_times
    union all select ${workspaceId}::uuid, host_id, calendar_id, during, is_whole_day, is_unconfirmed, uid,
      case when uid ~ '^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}@' then left(uid, 36)::uuid end, title
    from json_to_recordset(${JSON.stringify(later)}::json) as later(
      host_id uuid, calendar_id uuid, during tstzmultirange, is_whole_day boolean, is_unconfirmed boolean, uid text, title text)
  ) as taken_times`
}

/**
 * From `taken_times` and `calendars`, what counts of hosts' entries within a span: of blocking calendars, as their settings say,
 * without those that are sessions of the host and stand where they were written.
 */
export function countingEntries(workspaceId: string, hostIds: readonly string[], span: SQL, taken: SQL): SQL {
  return sql`
      from ${taken} inner join calendars on calendars.workspace_id = taken_times.workspace_id and calendars.id = taken_times.calendar_id
      where taken_times.workspace_id = ${workspaceId} and taken_times.host_id = any(${sql.param([...hostIds])}::uuid[]) and taken_times.during && ${span}
        and calendars.blocks and (calendars.counts_all_day or not taken_times.is_whole_day) and (calendars.counts_unconfirmed or not taken_times.is_unconfirmed)
        and (taken_times.session_id is null or not exists (
          select 1 from session_hosts inner join sessions on sessions.workspace_id = session_hosts.workspace_id and sessions.id = session_hosts.session_id
          where session_hosts.workspace_id = taken_times.workspace_id and session_hosts.session_id = taken_times.session_id
            and session_hosts.host_id = taken_times.host_id and taken_times.during = tstzmultirange(tstzrange(sessions.starts_at, sessions.ends_at))))`
}

/** A pattern of PostgreSQL for words as they are typed, in any case, with nothing of a word right before or after. */
function wholeWord(words: string): string {
  const escaped = words.trim().replaceAll(/[^\p{L}\p{N}\s]/gu, sign => `\\${sign}`).replaceAll(/\s+/g, '\\s+')
  return `(?<![[:alnum:]])${escaped}(?![[:alnum:]])`
}

/** The time of the sessions themselves is bounded too, so that they are found by it: they and their buffers last a day at most. */
function sessionsQuery(workspaceId: string, hostIds: readonly string[], { from, to, before, after }: TimeSpan): SQL {
  return sql`
    select session_hosts.host_id as "hostId", sessions.id, sessions.event_type_id as "eventTypeId",
      extract(epoch from sessions.starts_at)::float8 as start, extract(epoch from sessions.ends_at)::float8 as end,
      sessions.buffer_before_minutes as "bufferBeforeMinutes", sessions.buffer_after_minutes as "bufferAfterMinutes", sessions.seats_taken as "seatsTaken"
    from session_hosts inner join sessions on sessions.workspace_id = session_hosts.workspace_id and sessions.id = session_hosts.session_id
    where session_hosts.workspace_id = ${workspaceId} and session_hosts.host_id = any(${sql.param([...hostIds])}::uuid[]) and session_hosts.active
      and session_hosts.padded && tstzrange(${dateOf(from - before).toISOString()}::timestamptz, ${dateOf(to + after).toISOString()}::timestamptz)
      and sessions.starts_at between ${dateOf(from - before - 2 * DAY).toISOString()}::timestamptz and ${dateOf(to + after + DAY).toISOString()}::timestamptz`
}

export interface HostsState {
  time: HostsTime
  /** The sum of the hosts' stamps: as long as it stays, so does what they have taken and what rotation remembers of them. */
  takenStamp: string
  /** What rotation remembers: credit and last turn (seconds) by pool and host. */
  turns: { poolId: string, hostId: string, credit: number, assignedAt: number | null }[]
}

/** What a booking is decided on, as it stands at one moment: one query. */
export async function loadHostsState(
  source: TimeSource, workspaceId: string, hostIds: readonly string[], poolIds: readonly string[], span: TimeSpan, stated: StatedTime,
): Promise<HostsState> {
  const taken = await takenSource(source, workspaceId, hostIds, span)
  const {
    rows: [row],
  } = await source.db.execute<{ taken: TakenSession[], entries: TakenEntries[], stamp: string, turns: HostsState['turns'] }>(sql`select
    (select coalesce(json_agg(taken), '[]') from (${sessionsQuery(workspaceId, hostIds, span)}) as taken) as taken,
    (select coalesce(json_agg(stretches), '[]') from (${entriesQuery(workspaceId, hostIds, span, taken)}) as stretches) as entries,
    (select coalesce(sum(taken_stamp), 0) from hosts where workspace_id = ${workspaceId} and id = any(${sql.param([...hostIds])}::uuid[])) as stamp,
    (select coalesce(json_agg(json_build_object('poolId', pool_id, 'hostId', host_id, 'credit', credit, 'assignedAt', extract(epoch from assigned_at))), '[]')
      from turns where workspace_id = ${workspaceId} and pool_id = any(${sql.param([...poolIds])}::uuid[])) as turns`)
  if (!row) throw new Error('The database gave no row')
  return {
    time: hostsTimeFrom(onlyOf(stated, hostIds), { sessions: row.taken, entries: row.entries }, span),
    takenStamp: row.stamp,
    turns: row.turns,
  }
}
