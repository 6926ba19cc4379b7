import { and, asc, eq, inArray } from 'drizzle-orm'
import { takingStates } from '../../core/booking/states'
import { nameForTeam } from '../../core/event-type/name-for-team'
import { groupBy } from '../../core/group-by'
import type { EngineSession } from '../../core/openings'
import { poolAfter, type PoolHost } from '../../core/rotation'
import type { HandOverView } from '../../core/views/rotation'
import { type Context, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { among } from '../database/among'
import { bookings, hosts, sessionHosts } from '../database/schema'
import { holdsOf, hostedAlone, knownEventTypes } from '../event-types'
import { rememberHostsTime, WIDE } from '../hosts-time'
import { loadTurns } from '../rotation'
import { ableInstead, aroundSeat, decide, type Seat, seatsToCome } from './hand-over'

/**
 * What handing over all of a host's sessions to come would lead to: for each, who is next in turn, and who else is free. Each
 * proposal counts with those before it, so that together they can be carried out.
 */
export async function viewHandOver(context: Context, workspaceId: string, hostId: string): Promise<HandOverView | null> {
  const { db, now } = context
  const everybody = await db.select({ id: hosts.id, name: hosts.name, leftAt: hosts.leftAt }).from(hosts)
    .where(eq(hosts.workspaceId, workspaceId)).orderBy(asc(hosts.name))
  const known = everybody.find(person => person.id === hostId)
  if (!known) return null
  const people = everybody.filter(person => person.leftAt === null).map(({ id, name }) => ({ id, name }))
  const host = { id: known.id, name: known.name }
  const eventTypes = await knownEventTypes({ db }, workspaceId)
  const closes = hostedAlone(eventTypes, hostId)
    .filter(eventType => eventType.state === 'open').map(({ settings }) => nameForTeam(settings))
  const seats = await seatsToCome(db, workspaceId, hostId, now(), undefined, eventTypes)
  const [first, last] = [seats[0], seats.at(-1)]
  if (!first || !last) return { host, hosts: people, closes, seats: [] }
  const ids = people.map(person => person.id)
  const span = { from: secondsOf(first.session.startsAt), to: secondsOf(last.session.startsAt) + 1 }
  const time = await rememberHostsTime(context, workspaceId, ids, { ...span, ...WIDE, holds: holdsOf(seats.map(seat => seat.eventType)) })
  const chairs = new Map(seats.map(({ chair }) => [chair.poolId, chair]))
  const [others, ...loaded] = await Promise.all([
    aroundSessions(db, workspaceId, seats),
    ...[...chairs].map(async ([id, { pool }]) => [id, await loadTurns(db, workspaceId, id, pool)] as const),
  ])
  const pools = new Map<string, PoolHost[]>(loaded)
  /** Sessions that proposals before have given to a host. */
  const given = new Map<string, { eventTypeId: string, session: Omit<EngineSession, 'sameEventType'> }[]>()
  const found: HandOverView['seats'] = []
  for (const seat of seats) {
    const { session, eventType, chair } = seat
    const sitting = others.sitting.get(session.id) ?? []
    const [from, to] = [secondsOf(session.startsAt), secondsOf(session.endsAt)]
    // Most are ruled out at once, by what they have at that time.
    const busyOf = (of: readonly string[]) => time.for(eventType.id, time.idle(of, from, to), aroundSeat(seat)).map(host => ({
      ...host,
      sessions: [...host.sessions, ...(given.get(host.id) ?? []).map(({ eventTypeId, session }) =>
        ({ ...session, sameEventType: eventTypeId === eventType.id }))],
    }))
    const pooled = ableInstead(seat, busyOf(chair.hosts.map(member => member.id)), sitting)
    // Others are asked only where nobody of the chair is free.
    const free = pooled.size > 0 ? pooled : ableInstead(seat, busyOf(ids), sitting)
    const pool = pools.get(chair.poolId) ?? []
    const assignment = decide(chair, pool, free, null)
    pools.set(chair.poolId, assignment ? poolAfter(pool, assignment, now()) : pool)
    if (assignment) {
      const taken = given.get(assignment.host) ?? []
      given.set(assignment.host, [...taken, { eventTypeId: eventType.id, session: asTaken(seat) }])
    }
    const inPool = new Set(chair.hosts.map(member => member.id))
    found.push({
      sessionId: session.id,
      eventType: nameForTeam(eventType.settings),
      chair: chair.name,
      start: secondsOf(session.startsAt),
      end: secondsOf(session.endsAt),
      clients: others.clients.get(session.id) ?? [],
      proposal: assignment?.host ?? null,
      free: [...free].filter(id => inPool.has(id)),
      others: [...free].filter(id => !inPool.has(id)),
    })
  }
  return { host, hosts: people, closes, seats: found }
}

/** Who sits in some sessions, and who has booked them. */
async function aroundSessions(db: Database, workspaceId: string, seats: readonly Seat[]) {
  const ids = [...new Set(seats.map(seat => seat.session.id))]
  const [sitting, clients] = await Promise.all([
    db.select({ sessionId: sessionHosts.sessionId, hostId: sessionHosts.hostId }).from(sessionHosts)
      .where(and(eq(sessionHosts.workspaceId, workspaceId), among(sessionHosts.sessionId, ids))),
    db.select({ sessionId: bookings.sessionId, name: bookings.clientName }).from(bookings)
      .where(and(eq(bookings.workspaceId, workspaceId), among(bookings.sessionId, ids), inArray(bookings.state, [...takingStates])))
      .orderBy(asc(bookings.createdAt)),
  ])
  return {
    sitting: new Map([...groupBy(sitting, row => row.sessionId)].map(([id, rows]) => [id, rows.map(row => row.hostId)])),
    clients: new Map([...groupBy(clients, row => row.sessionId)].map(([id, rows]) => [id, rows.map(row => row.name)])),
  }
}

function asTaken({ session }: Seat): Omit<EngineSession, 'sameEventType'> {
  return {
    id: session.id,
    start: secondsOf(session.startsAt),
    end: secondsOf(session.endsAt),
    bufferBeforeMinutes: session.bufferBeforeMinutes,
    bufferAfterMinutes: session.bufferAfterMinutes,
    seatsTaken: session.seatsTaken,
  }
}
