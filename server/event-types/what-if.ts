import { and, asc, eq, gte, isNull, sql } from 'drizzle-orm'
import { calendarsOf } from '../../core/event-type/settings'
import type { WhatIfData } from '../../core/rotation/what-if'
import { DAY } from '../../core/time/civil'
import { type Context, dateOf, secondsOf } from '../context'
import { assignments, hosts, sessions } from '../database/schema'
import { holidayDates, loadHostsTime, WIDE } from '../hosts-time'
import { loadEventTypes, loadGroups } from './load'

const WHAT_IF_DAYS = 90
const MOST_BOOKINGS = 2000

/** What a pool's last 90 days can be played anew with; null where there is no such pool. */
export async function loadWhatIf({ db, now }: Context, workspaceId: string, poolId: string): Promise<WhatIfData | null> {
  const all = await loadEventTypes(db, workspaceId)
  const group = (await loadGroups(db, workspaceId)).get(poolId)
  const chair = all.flatMap(eventType => eventType.chairs).find(candidate => candidate.poolId === poolId)
  const pool = group?.hosts ?? chair?.hosts
  if (!pool) return null
  const from = now() - WHAT_IF_DAYS * DAY
  const booked = await db.select({ entry: assignments, session: sessions }).from(assignments)
    .innerJoin(sessions, and(eq(sessions.workspaceId, assignments.workspaceId), eq(sessions.id, assignments.sessionId)))
    .where(and(
      eq(assignments.workspaceId, workspaceId), eq(assignments.poolId, poolId), eq(assignments.kind, 'booked'),
      gte(assignments.at, dateOf(from)), eq(sessions.cancelled, false),
    ))
    .orderBy(sql`${assignments.position} desc`).limit(MOST_BOOKINGS)
  booked.reverse()
  const people = await db.select({ id: hosts.id, name: hosts.name, timeZone: hosts.timeZone }).from(hosts)
    .where(and(eq(hosts.workspaceId, workspaceId), isNull(hosts.leftAt))).orderBy(asc(hosts.name))
  const ids = people.map(host => host.id)
  const span = { from, to: Math.max(now(), ...booked.map(({ session }) => secondsOf(session.startsAt) + 1)) }
  const time = await loadHostsTime(db, workspaceId, ids, { ...span, ...WIDE })
  const own = new Set(booked.map(({ entry, session }) => `${session.id} ${entry.hostId}`))
  const using = new Set(booked.map(({ session }) => session.eventTypeId))
  return {
    now: now(),
    from,
    policy: chair?.policy ?? 'fairShare',
    pool: pool.map(({ id, weight }) => ({ id, weight })),
    hosts: people,
    time: time.for('', ids).map(host => ({ ...host, sessions: host.sessions.filter(session => !own.has(`${session.id} ${host.id}`)) })),
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
