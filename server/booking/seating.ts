import { randomUUID } from 'node:crypto'
import { and, eq, lte, sql } from 'drizzle-orm'
import type { TrailValues } from '../../core/booking/trail'
import type { Place } from '../../core/event-type/settings'
import type { FilledChair } from '../../core/rotation/chairs'
import { MINUTE } from '../../core/time/civil'
import { dateOf } from '../context'
import type { Database } from '../database/connection'
import { lockSession } from '../database/lock'
import { sessions } from '../database/schema'
import { type BookingDetails, loadAttendees, loadSession } from '../details'
import type { EventType, PoolChair, WorkspaceSnapshot } from '../event-types'

/** How a booking comes to sit in a session: one that is made for it, or one that it joins. */

/** Thrown to roll a transaction back: the start is no longer open. */
export class StartTaken extends Error {}

type Session = BookingDetails['session']

export interface JoinedSession extends Pick<BookingDetails, 'session' | 'hosts' | 'room'> {
  hostsHaveEntry: boolean
}

/** Takes a seat for each person, if by now the session still stands and has them. Throws StartTaken, which rolls the transaction back. */
export async function joinSession(
  tx: Database, { workspaceId, settings }: EventType, sessionId: string, people: number,
): Promise<JoinedSession> {
  await lockSession(tx, workspaceId, sessionId)
  const joined = await tx
    .update(sessions)
    .set({ seatsTaken: sql`${sessions.seatsTaken} + ${people}::int`, seats: sql`greatest(${sessions.seats}, ${settings.seats}::int)` })
    .where(
      and(
        eq(sessions.workspaceId, workspaceId),
        eq(sessions.id, sessionId),
        eq(sessions.cancelled, false),
        lte(sessions.seatsTaken, settings.seats - people),
      ),
    )
    .returning({ id: sessions.id })
  const found = joined.length > 0 ? await loadSession(tx, workspaceId, sessionId) : null
  if (!found) throw new StartTaken()
  const isKnown = found.session.sequence > 0 || (await loadAttendees(tx, workspaceId, sessionId)).length > 0
  return { ...found, hostsHaveEntry: isKnown }
}

/** A session as it is made for its first booking. */
export function newSession(
  { workspaceId, id, settings }: EventType, request: { start: number, durationMinutes: number, people: number, place: Place },
): Session {
  return {
    workspaceId,
    id: randomUUID(),
    eventTypeId: id,
    startsAt: dateOf(request.start),
    endsAt: dateOf(request.start + request.durationMinutes * MINUTE),
    bufferBeforeMinutes: settings.bufferBeforeMinutes,
    bufferAfterMinutes: settings.bufferAfterMinutes,
    seats: settings.seats,
    seatsTaken: request.people,
    place: request.place,
    cancelled: false,
    sequence: 0,
    notes: '',
    tags: [],
    notesVersion: 0,
  }
}

export function seatsOf(
  { workspaceId, settings }: EventType, { id, startsAt, endsAt }: Session, seated: readonly FilledChair<PoolChair>[],
) {
  const start = new Date(startsAt.getTime() - settings.bufferBeforeMinutes * MINUTE * 1000)
  const end = new Date(endsAt.getTime() + settings.bufferAfterMinutes * MINUTE * 1000)
  return seated.map(({ chair, host }) => ({
    workspaceId,
    sessionId: id,
    hostId: host,
    chairId: chair.id,
    padded: `[${start.toISOString()},${end.toISOString()})`,
  }))
}

export function seatedHosts(pool: WorkspaceSnapshot['hosts'], seated: readonly FilledChair<PoolChair>[]): BookingDetails['hosts'] {
  return pool.filter(host => seated.some(chair => chair.host === host.id)).sort((a, b) => (a.name < b.name ? -1 : 1))
}

/** Why a chair went to its host, as the trail keeps it. */
export function assignedEntry({ chair, host, assignment }: FilledChair<PoolChair>): TrailValues<'assigned'> {
  const name = (id: string) => chair.hosts.find(candidate => candidate.id === id)?.name ?? id
  return { host: name(host), chair: chair.name, code: assignment.code, able: assignment.turns.map(turn => name(turn.host)) }
}
