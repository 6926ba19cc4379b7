import { and, asc, eq, gt, inArray, isNull, sql } from 'drizzle-orm'
import type { Actor } from '../../core/booking/changes'
import type { HostTime } from '../../core/event-type/host-time'
import { calendarsOf, queryFor } from '../../core/event-type/settings'
import { ableAt } from '../../core/openings/able-at'
import type { Assignment, PoolHost } from '../../core/rotation'
import { assign } from '../../core/rotation/chairs'
import { formatInstant, MINUTE } from '../../core/time/civil'
import { applySessionChange } from '../changes'
import { type Context, dateOf, secondsOf } from '../context'
import { Batch } from '../database/batch'
import type { Database } from '../database/connection'
import { isConstraintFault, withRetries } from '../database/faults'
import { lockSessionWithHosts } from '../database/lock'
import { chairs, hosts, sessionHosts, sessions } from '../database/schema'
import { type EventType, loadEventTypes, type PoolChair, toPoolChair } from '../event-types'
import { holidayDates, loadHostsTime, NEAR, WIDE } from '../hosts-time'
import { loadTurns, recordAssignments, returnTurns } from '../rotation'

/**
 * Handing a session over: a chair of it goes from one host to another, by the chair's rotation among those who are free or
 * as somebody picks. The old host's turn is given back, the new one's is counted, and everybody concerned is told.
 */

export interface HandOver {
  sessionId: string
  /** Who gives the session away. */
  from: string
  /** Who takes it; null for whoever is next in turn. */
  to: string | null
}

export type HandOverOutcome =
  | { kind: 'handedOver', to: string }
  | { kind: 'notFound' }
  | { kind: 'nobodyFree' }
  /** Who was picked has another session at the time. */
  | { kind: 'taken', name: string }

/** A host's chair in a session that is still to come. */
export interface Seat {
  session: typeof sessions.$inferSelect
  host: typeof hosts.$inferSelect
  eventType: EventType
  chair: PoolChair
}

/** Thrown to roll back what was given back already. */
class NobodyFree extends Error {}

export async function handOver(context: Context, workspaceId: string, wanted: HandOver, by: Actor): Promise<HandOverOutcome> {
  const names = new Map((await context.db.select({ id: hosts.id, name: hosts.name }).from(hosts)
    .where(and(eq(hosts.workspaceId, workspaceId), isNull(hosts.leftAt)))).map(host => [host.id, host.name]))
  if (wanted.to !== null && (wanted.to === wanted.from || !names.has(wanted.to))) return { kind: 'notFound' }
  try {
    return await withRetries(() => context.db.transaction(tx => handOverLocked(context, tx, workspaceId, wanted, by, names)))
  } catch (error) {
    if (error instanceof NobodyFree) return { kind: 'nobodyFree' }
    if (isConstraintFault(error) && wanted.to !== null) return { kind: 'taken', name: names.get(wanted.to) ?? '' }
    throw error
  }
}

async function handOverLocked(
  context: Context, tx: Database, workspaceId: string, { sessionId, from, to }: HandOver, by: Actor, names: ReadonlyMap<string, string>,
): Promise<HandOverOutcome> {
  const now = context.now()
  const [before] = await seatsToCome(tx, workspaceId, from, now, sessionId)
  if (!before) return { kind: 'notFound' }
  const candidates = [...new Set([from, ...to === null ? [] : [to], ...before.chair.hosts.map(host => host.id)])]
  await lockSessionWithHosts(tx, workspaceId, sessionId, candidates)
  // What was read before the locks may have changed.
  const [seat] = await seatsToCome(tx, workspaceId, from, now, sessionId)
  if (!seat) return { kind: 'notFound' }
  const { chair, host } = seat
  const at = secondsOf(seat.session.startsAt)
  const span = { from: at, to: at + 1, ...WIDE, holds: seat.eventType.settings.holds }
  const time = await loadHostsTime({ ...context, db: tx }, workspaceId, candidates, span)
  const sitting = await tx.select({ id: sessionHosts.hostId }).from(sessionHosts)
    .where(and(eq(sessionHosts.workspaceId, workspaceId), eq(sessionHosts.sessionId, sessionId)))
  const free = ableInstead(seat, time.for(seat.eventType.id, candidates), sitting.map(({ id }) => id))
  await returnTurns(tx, workspaceId, sessionId, now, chair.id)
  const pool = await loadTurns(tx, workspaceId, chair.poolId, chair.pool)
  const assignment = decide(chair, pool, free, to)
  if (!assignment) throw new NobodyFree()
  const batch = new Batch()
  recordAssignments(batch, { workspaceId, sessionId, kind: 'handedOver', at: now }, [{ chair, host: assignment.host, assignment }])
  batch.update(sql`update ${sessionHosts} set host_id = ${assignment.host}
    where ${sessionHosts.workspaceId} = ${workspaceId} and ${sessionHosts.sessionId} = ${sessionId} and ${sessionHosts.hostId} = ${from}`)
  batch.update(sql`update ${hosts} set taken_stamp = taken_stamp + 1
    where ${hosts.workspaceId} = ${workspaceId} and ${inArray(hosts.id, candidates)}`)
  await batch.write(tx)
  const nameOf = (id: string) => names.get(id) ?? host.name
  await applySessionChange(context, tx, workspaceId, sessionId, {
    kind: 'handedOver', by, at: now, from: host.name, to: nameOf(assignment.host), chair: chair.name,
    code: assignment.code, able: assignment.turns.map(turn => nameOf(turn.host)),
  }, { former: [host], newHostIds: [assignment.host] })
  return { kind: 'handedOver', to: nameOf(assignment.host) }
}

/** Who takes a chair: as picked, else by the chair's rotation; null where nobody is free. */
export function decide(chair: PoolChair, pool: readonly PoolHost[], free: ReadonlySet<string>, picked: string | null): Assignment | null {
  if (picked === null) {
    const able = new Set(pool.map(entry => entry.host).filter(host => free.has(host)))
    return able.size > 0 ? assign(chair.policy, pool, able) : null
  }
  const known = pool.some(entry => entry.host === picked) ? pool : [...pool, { host: picked, weight: 1, credit: 0, assignedAt: null }]
  return assign(chair.policy, known, new Set([...free, picked]), picked)
}

/** Who of some hosts could sit in a session instead: free by hours, calendars, sessions and limits, and not in it already. */
export function ableInstead({ session, eventType, chair }: Seat, time: readonly HostTime[], sitting: readonly string[]): Set<string> {
  const at = secondsOf(session.startsAt)
  const settings = {
    ...eventType.settings, bufferBeforeMinutes: session.bufferBeforeMinutes, bufferAfterMinutes: session.bufferAfterMinutes,
  }
  const others = time.filter(host => !sitting.includes(host.id) && !hasSessionAt(host, session))
  if (others.length === 0) return new Set()
  const asked = { ...chair, hosts: others.map(({ id }) => ({ id, name: '', weight: 1 })) }
  const query = queryFor(settings, [asked], others, {
    now: formatInstant(at), from: formatInstant(at), to: formatInstant(at + 1),
    durationMinutes: (secondsOf(session.endsAt) - at) / MINUTE,
    holidays: holidayDates(calendarsOf(settings), at, at + 1),
  })
  return new Set(ableAt(query, at))
}

/** What hosts have around a session, as far as it can keep them from it: with limits the whole week, else the days next to it. */
export function aroundSeat({ session, eventType: { settings } }: Seat): { from: number, to: number } {
  const { before, after } = settings.dailyLimit === null && settings.weeklyLimit === null ? NEAR : WIDE
  return { from: secondsOf(session.startsAt) - before, to: secondsOf(session.endsAt) + after }
}

/** Asked before anything is computed, as it rules most hosts out. */
function hasSessionAt(host: HostTime, { startsAt, endsAt }: Seat['session']): boolean {
  const [start, end] = [secondsOf(startsAt), secondsOf(endsAt)]
  return host.sessions.some(other => other.start < end && other.end > start)
}

/**
 * The chairs that a host has in sessions to come, by their start; those of one session only where it is named. Event types
 * are read as far as they are not known.
 */
export async function seatsToCome(
  db: Database, workspaceId: string, hostId: string, now: number, sessionId?: string, known: readonly EventType[] = [],
): Promise<Seat[]> {
  const rows = await db.select({ session: sessions, host: hosts, chair: chairs }).from(sessionHosts)
    .innerJoin(sessions, and(eq(sessions.workspaceId, sessionHosts.workspaceId), eq(sessions.id, sessionHosts.sessionId)))
    .innerJoin(hosts, and(eq(hosts.workspaceId, sessionHosts.workspaceId), eq(hosts.id, sessionHosts.hostId)))
    .innerJoin(chairs, and(eq(chairs.workspaceId, sessionHosts.workspaceId), eq(chairs.id, sessionHosts.chairId)))
    .where(and(
      eq(sessionHosts.workspaceId, workspaceId),
      eq(sessionHosts.hostId, hostId),
      eq(sessionHosts.active, true),
      gt(sessions.startsAt, dateOf(now)),
      // Follows from the line before, and spares it the sessions that are over.
      sql`upper(${sessionHosts.padded}) > ${dateOf(now).toISOString()}::timestamptz`,
      sessionId === undefined ? undefined : eq(sessions.id, sessionId),
    ))
    .orderBy(asc(sessions.startsAt))
  if (rows.length === 0) return []
  const eventTypes = new Map(known.map(eventType => [eventType.id, eventType]))
  const ofSessions = [...new Set(rows.map(({ session }) => session.eventTypeId))].filter(id => !eventTypes.has(id))
  for (const eventType of await loadEventTypes(db, workspaceId, { ofSessions })) eventTypes.set(eventType.id, eventType)
  return rows.flatMap(({ session, host, chair: { id, name, policy } }): Seat[] => {
    const eventType = eventTypes.get(session.eventTypeId)
    if (!eventType) return []
    // A chair that was taken away since has nobody left to take turns.
    const chair = eventType.chairs.find(candidate => candidate.id === id) ?? toPoolChair({ id, name, policy, hosts: [], groups: [] })
    return [{ session, host, eventType, chair }]
  })
}
