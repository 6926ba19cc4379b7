import { and, eq, inArray, type SQL } from 'drizzle-orm'
import type { SignedIn } from '../../core/views/desk'
import type { Database } from '../database/connection'
import { bookings, deliveries, hosts, sessionHosts, sessions } from '../database/schema'

/** Which sessions a member may see and change: as a host those they sit in, else all of the workspace. */

export function sessionsOf(db: Database, member: SignedIn): SQL | undefined {
  const inWorkspace = eq(sessions.workspaceId, member.workspaceId)
  if (member.role !== 'host') return inWorkspace
  const own = db.select({ id: sessionHosts.sessionId }).from(sessionHosts)
    .innerJoin(hosts, and(eq(hosts.workspaceId, sessionHosts.workspaceId), eq(hosts.id, sessionHosts.hostId)))
    .where(and(eq(sessionHosts.workspaceId, member.workspaceId), eq(hosts.memberId, member.memberId)))
  return and(inWorkspace, inArray(sessions.id, own))
}

export async function reachesSession(db: Database, member: SignedIn, id: string): Promise<boolean> {
  const found = await db.select({ id: sessions.id }).from(sessions).where(and(sessionsOf(db, member), eq(sessions.id, id)))
  return found.length > 0
}

export async function reachesBooking(db: Database, member: SignedIn, id: string): Promise<boolean> {
  const found = await db.select({ id: bookings.id }).from(bookings)
    .innerJoin(sessions, and(eq(sessions.workspaceId, bookings.workspaceId), eq(sessions.id, bookings.sessionId)))
    .where(and(sessionsOf(db, member), eq(bookings.id, id)))
  return found.length > 0
}

export async function reachesDelivery(db: Database, member: SignedIn, id: string): Promise<boolean> {
  const [found] = await db
    .select({ bookingId: deliveries.bookingId })
    .from(deliveries)
    .where(and(eq(deliveries.workspaceId, member.workspaceId), eq(deliveries.id, id)))
  return found?.bookingId ? reachesBooking(db, member, found.bookingId) : false
}
