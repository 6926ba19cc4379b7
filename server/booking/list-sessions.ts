import { and, asc, desc, eq, exists, gte, inArray, lt, sql, type SQL } from 'drizzle-orm'
import type { BookingState } from '../../core/booking/states'
import { nameForTeam } from '../../core/event-type/name-for-team'
import { groupBy } from '../../core/group-by'
import type { SignedIn } from '../../core/views/desk'
import { type SessionList, SESSIONS_A_PAGE } from '../../core/views/session-list'
import { type Context, dateOf, secondsOf } from '../context'
import { among } from '../database/among'
import type { Database } from '../database/connection'
import { bookings, escapeLike, eventTypes, hosts, searchText, sessionHosts, sessions } from '../database/schema'
import { notOver, over, reachedOf, sessionsOf, settingOf, stillBooked } from './scope'

/** The sessions of a workspace, as many as a page holds, found by whom, when, with whom and what. */

export interface SessionFilter {
  /** A part of a client's name or address. */
  search: string
  when: 'coming' | 'past'
  /** Starts with from <= start < to, in seconds. */
  from?: number
  to?: number
  hostId?: string
  eventTypeId?: string
  state?: BookingState
  tag?: string
  /** From 1 on. */
  page: number
}

export async function listSessions({ db, now }: Context, member: SignedIn, filter: SessionFilter): Promise<SessionList> {
  const { workspaceId } = member
  const isComing = filter.when === 'coming'
  const conditions: (SQL | undefined)[] = [
    sessionsOf(db, member, 'times'),
    stillBooked,
    isComing ? notOver(now()) : over(now()),
    filter.from === undefined ? undefined : gte(sessions.startsAt, dateOf(filter.from)),
    filter.to === undefined ? undefined : lt(sessions.startsAt, dateOf(filter.to)),
    filter.eventTypeId === undefined ? undefined : eq(sessions.eventTypeId, filter.eventTypeId),
    // One host has few sessions: they are found first (`offset 0`), and looked up among the others then.
    filter.hostId === undefined ? undefined : sql`${sessions.id} in (select session_id from ${sessionHosts}
      where ${sessionHosts.workspaceId} = ${workspaceId} and ${sessionHosts.hostId} = ${filter.hostId} offset 0)`,
    filter.tag === undefined ? undefined : sql`${sessions.tags} @> ${JSON.stringify([filter.tag])}::jsonb`,
    // What is not shown is not searched.
    filter.state === undefined && filter.tag === undefined && filter.search === '' ? undefined : sessionsOf(db, member, 'clients'),
    filter.state === undefined ? undefined : exists(db.select({ one: sql`1` }).from(bookings).where(and(
      eq(bookings.workspaceId, workspaceId), eq(bookings.sessionId, sessions.id), eq(bookings.state, filter.state),
    ))),
    // Found by the trigram index first, and looked up among the sessions then.
    filter.search === '' ? undefined : inArray(sessions.id, db.select({ id: bookings.sessionId }).from(bookings).where(and(
      eq(bookings.workspaceId, workspaceId), sql`${searchText(bookings)} like ${`%${escapeLike(filter.search.toLowerCase())}%`}`,
    ))),
  ]
  const order = isComing ? asc : desc
  // Settings are large: they are read for the rows of the page alone, and not for those that are passed over.
  const shown = db.select({
    id: sessions.id, startsAt: sessions.startsAt, endsAt: sessions.endsAt, cancelled: sessions.cancelled, tags: sessions.tags,
    eventTypeId: sessions.eventTypeId,
  }).from(sessions)
    .where(and(...conditions)).orderBy(order(sessions.startsAt), order(sessions.id))
    .limit(SESSIONS_A_PAGE + 1).offset((filter.page - 1) * SESSIONS_A_PAGE).as('shown')
  const found = await db.select({
    session: { id: shown.id, startsAt: shown.startsAt, endsAt: shown.endsAt, cancelled: shown.cancelled, tags: shown.tags },
    name: settingOf('name'),
    teamName: settingOf('teamName'),
  }).from(shown)
    .innerJoin(eventTypes, and(eq(eventTypes.workspaceId, workspaceId), eq(eventTypes.id, shown.eventTypeId)))
    .orderBy(order(shown.startsAt), order(shown.id))
  const page = found.slice(0, SESSIONS_A_PAGE)
  const ids = page.map(({ session }) => session.id)
  if (ids.length === 0) return { rows: [], hasMore: false }
  const [sitting, { open, booked }] = await Promise.all([sittingIn(db, workspaceId, ids), bookedIn(db, member, ids)])
  return {
    rows: page.map(({ session, name, teamName }) => ({
      id: session.id,
      eventType: nameForTeam({ name, teamName }),
      start: secondsOf(session.startsAt),
      end: secondsOf(session.endsAt),
      cancelled: session.cancelled,
      hosts: (sitting.get(session.id) ?? []).map(host => host.name),
      open: open.has(session.id),
      tags: open.has(session.id) ? session.tags : [],
      clients: (booked.get(session.id) ?? []).map(({ name, state }) => ({ name, state })),
    })),
    hasMore: found.length > SESSIONS_A_PAGE,
  }
}

/** Who sits in sessions, by name. */
async function sittingIn(db: Database, workspaceId: string, ids: readonly string[]) {
  return groupBy(await db.select({ sessionId: sessionHosts.sessionId, name: hosts.name }).from(sessionHosts)
    .innerJoin(hosts, and(eq(hosts.workspaceId, sessionHosts.workspaceId), eq(hosts.id, sessionHosts.hostId)))
    .where(and(eq(sessionHosts.workspaceId, workspaceId), among(sessionHosts.sessionId, ids)))
    .orderBy(asc(hosts.name)), row => row.sessionId)
}

/** Who has booked sessions, as far as the member may see that. */
async function bookedIn(db: Database, member: SignedIn, ids: readonly string[]) {
  const open = await reachedOf(db, member, ids, 'clients')
  const booked = groupBy(await db.select({ sessionId: bookings.sessionId, name: bookings.clientName, state: bookings.state }).from(bookings)
    .where(and(eq(bookings.workspaceId, member.workspaceId), among(bookings.sessionId, open)))
    .orderBy(asc(bookings.createdAt)), row => row.sessionId)
  return { open, booked }
}
