import { and, eq, gt, inArray, lte, sql, type SQL } from 'drizzle-orm'
import { type Reach, reaches } from '../../core/account/rights'
import { LONGEST_MINUTES } from '../../core/event-type/settings'
import type { SignedIn } from '../../core/views/desk'
import { dateOf } from '../context'
import { among } from '../database/among'
import type { Database } from '../database/connection'
import { bookings, deliveries, eventTypes, hosts, sessionHosts, sessions } from '../database/schema'

/** Which sessions a member may see and change: those they sit in, and as far as they reach all of the workspace. */

/** The sessions of the workspace with which a member may do what a step of their reach names. */
export function sessionsOf(db: Database, member: SignedIn, needs: Reach['sessions']): SQL | undefined {
  const inWorkspace = eq(sessions.workspaceId, member.workspaceId)
  return reaches(member.reach, { sessions: needs }) && needs !== 'own' ? inWorkspace : and(inWorkspace, sitsIn(db, member))
}

/** Text of an event type's settings, without the rest of them. */
export const settingOf = (key: 'name' | 'teamName') => sql<string>`coalesce(${eventTypes.settings} ->> ${sql.raw(`'${key}'`)}, '')`

/** Sessions that a member hosts. */
function sitsIn(db: Database, member: SignedIn): SQL {
  return inArray(sessions.id, db.select({ id: sessionHosts.sessionId }).from(sessionHosts)
    .innerJoin(hosts, and(eq(hosts.workspaceId, sessionHosts.workspaceId), eq(hosts.id, sessionHosts.hostId)))
    .where(and(eq(sessionHosts.workspaceId, member.workspaceId), eq(hosts.memberId, member.memberId))))
}

/** Sessions that are not over. Their starts are bounded too, which is what the index on time goes by. */
export const notOver = (now: number) => and(gt(sessions.endsAt, dateOf(now)), gt(sessions.startsAt, dateOf(now - LONGEST_MINUTES * 60)))
export const over = (now: number) => and(lte(sessions.endsAt, dateOf(now)), lte(sessions.startsAt, dateOf(now)))

/**
 * Not those that everybody has left for other sessions. A scalar query, which is asked for cancelled ones alone: for `exists`,
 * PostgreSQL may read all bookings there are first.
 */
export const stillBooked = sql`(not ${sessions.cancelled} or (select true from ${bookings}
  where ${bookings.workspaceId} = ${sessions.workspaceId} and ${bookings.sessionId} = ${sessions.id} limit 1))`

/** Those of some sessions with which a member may do what a step of their reach names. */
export async function reachedOf(db: Database, member: SignedIn, ids: readonly string[], needs: Reach['sessions']): Promise<Set<string>> {
  if (needs !== 'own' && reaches(member.reach, { sessions: needs })) return new Set(ids)
  const found = await db.select({ id: sessions.id }).from(sessions)
    .where(and(sessionsOf(db, member, needs), among(sessions.id, ids)))
  return new Set(found.map(({ id }) => id))
}

export async function reachesSession(db: Database, member: SignedIn, id: string, needs: Reach['sessions']): Promise<boolean> {
  const found = await db.select({ id: sessions.id }).from(sessions).where(and(sessionsOf(db, member, needs), eq(sessions.id, id)))
  return found.length > 0
}

export async function reachesBooking(db: Database, member: SignedIn, id: string, needs: Reach['sessions']): Promise<boolean> {
  const found = await db.select({ id: bookings.id }).from(bookings)
    .innerJoin(sessions, and(eq(sessions.workspaceId, bookings.workspaceId), eq(sessions.id, bookings.sessionId)))
    .where(and(sessionsOf(db, member, needs), eq(bookings.id, id)))
  return found.length > 0
}

export async function reachesDelivery(db: Database, member: SignedIn, id: string, needs: Reach['sessions']): Promise<boolean> {
  const [found] = await db
    .select({ bookingId: deliveries.bookingId })
    .from(deliveries)
    .where(and(eq(deliveries.workspaceId, member.workspaceId), eq(deliveries.id, id)))
  return found?.bookingId ? reachesBooking(db, member, found.bookingId, needs) : false
}
