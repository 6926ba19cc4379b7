import { and, asc, eq, gte, isNull, sql } from 'drizzle-orm'
import { calendarsOf } from '../../core/event-type/settings'
import { sendHostTime } from '../../core/event-type/host-time'
import type { SentWhatIf } from '../../core/rotation/what-if'
import { groupBy } from '../../core/group-by'
import { DAY } from '../../core/time/civil'
import { type Context, dateOf, secondsOf } from '../context'
import { assignments, hosts, sessions } from '../database/schema'
import { holidayDates, NEAR, rememberHostsTime, WIDE } from '../hosts-time'
import { loadGroups, holdsOf } from './load'
import { knownEventTypes } from './snapshot'

const WHAT_IF_DAYS = 90
/** Hosts times days that are played at most: of a large pool, fewer days. */
const MOST_HOST_DAYS = 2000
const FEWEST_DAYS = 10
const MOST_BOOKINGS = 2000

/** What a pool's last 90 days can be played anew with, with some more hosts; null where there is no such pool. */
export async function loadWhatIf(
  context: Context, workspaceId: string, poolId: string, more: readonly string[] = [],
): Promise<SentWhatIf | null> {
  const { db, now } = context
  const [all, groups, people] = await Promise.all([
    knownEventTypes(context, workspaceId),
    loadGroups(db, workspaceId),
    db.select({ id: hosts.id, name: hosts.name, timeZone: hosts.timeZone }).from(hosts)
      .where(and(eq(hosts.workspaceId, workspaceId), isNull(hosts.leftAt))).orderBy(asc(hosts.name)),
  ])
  const group = groups.get(poolId)
  const chair = all.flatMap(eventType => eventType.chairs).find(candidate => candidate.poolId === poolId)
  const pool = group?.hosts ?? chair?.hosts
  if (!pool) return null
  const days = Math.max(FEWEST_DAYS, Math.min(WHAT_IF_DAYS, Math.floor(MOST_HOST_DAYS / pool.length)))
  const from = now() - days * DAY
  const booked = await db.select({
    entry: { at: assignments.at, code: assignments.code, hostId: assignments.hostId },
    session: {
      id: sessions.id, eventTypeId: sessions.eventTypeId, startsAt: sessions.startsAt, endsAt: sessions.endsAt,
      bufferBeforeMinutes: sessions.bufferBeforeMinutes, bufferAfterMinutes: sessions.bufferAfterMinutes,
    },
  }).from(assignments)
    .innerJoin(sessions, and(eq(sessions.workspaceId, assignments.workspaceId), eq(sessions.id, assignments.sessionId)))
    .where(and(
      eq(assignments.workspaceId, workspaceId), eq(assignments.poolId, poolId), eq(assignments.kind, 'booked'),
      gte(assignments.at, dateOf(from)), eq(sessions.cancelled, false),
    ))
    .orderBy(sql`${assignments.position} desc`).limit(MOST_BOOKINGS)
  booked.reverse()
  const asked = new Set([...pool.map(host => host.id), ...more])
  const ids = people.map(host => host.id).filter(id => asked.has(id))
  const span = { from, to: Math.max(now(), ...booked.map(({ session }) => secondsOf(session.startsAt) + 1)) }
  const using = new Set(booked.map(({ session }) => session.eventTypeId))
  const isLimited = all.some(({ id, settings }) => using.has(id) && (settings.dailyLimit !== null || settings.weeklyLimit !== null))
  const holds = holdsOf(all.filter(({ id }) => using.has(id)))
  const time = await rememberHostsTime(context, workspaceId, ids, { ...span, ...(isLimited ? WIDE : NEAR), holds })
  const own = groupBy(booked, ({ session }) => session.id)
  return {
    now: now(),
    from,
    days,
    policy: chair?.policy ?? 'fairShare',
    pool: pool.map(({ id, weight }) => ({ id, weight })),
    hosts: people,
    time: sendHostTime(time.for('', ids).map(host =>
      ({ ...host, sessions: host.sessions.filter(({ id }) => !own.get(id)?.some(({ entry }) => entry.hostId === host.id)) }))),
    eventTypes: all.filter(eventType => using.has(eventType.id)).map(({ id, settings }) => ({
      id, settings, holidays: holidayDates(calendarsOf(settings), span.from, span.to),
    })),
    bookings: booked.map(({ entry, session }) => ({
      eventTypeId: session.eventTypeId,
      at: secondsOf(entry.at),
      start: secondsOf(session.startsAt),
      minutes: (secondsOf(session.endsAt) - secondsOf(session.startsAt)) / 60,
      bufferBeforeMinutes: session.bufferBeforeMinutes,
      bufferAfterMinutes: session.bufferAfterMinutes,
      chosen: entry.code === 'chosen' ? entry.hostId : null,
      host: entry.hostId,
    })),
  }
}
