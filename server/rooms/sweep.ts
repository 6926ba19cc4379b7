import { and, eq, gt, inArray, isNull, lt, ne, notExists, sql } from 'drizzle-orm'
import { groupBy } from '../../core/group-by'
import { DAY } from '../../core/time/civil'
import { type Context, dateOf, secondsOf } from '../context'
import { among } from '../database/among'
import type { Database } from '../database/connection'
import { LockBusy, withLock } from '../database/lock'
import { bookings, rooms, sessions, videoAccounts } from '../database/schema'
import { type JobName, planJob } from '../jobs/queue'
import { OutsideFault } from '../ports/outside'
import { type RoomAtService, ServiceFault, type VideoService } from '../ports/video'
import { applySessionChange } from '../changes'
import { type VideoAccount, withCredentials } from './credentials'
import { isRoom, updateRoom } from './make'

/**
 * Goes over everything that services and sessions have, and mends what does not belong together. Whatever else has failed,
 * a room without a session and a session without a room last no longer than until the next sweep.
 */

type Room = typeof rooms.$inferSelect

export type SweepFinding = { workspaceId: string } & (
  /** A session without a room, or whose room nobody works on any more: it is being made. */
  | { kind: 'noRoom', sessionId: string }
  /** A room that its service has lost, or has otherwise than it should be: it is brought in step, or made anew. */
  | { kind: 'notInStep', sessionId: string, service: string }
  /** A room whose session is cancelled or has another one: it is withdrawn. */
  | { kind: 'noSession', sessionId: string, service: string }
  /** A second room for one session: withdrawn. */
  | { kind: 'doubled', sessionId: string, service: string }
  /** A link of a session to come that does not answer. */
  | { kind: 'deadLink', sessionId: string }
  /** Rooms made by somebody else, or by an installation that this is a copy of: left alone. */
  | { kind: 'unknown', service: string, account: string, rooms: number }
  /** An account that could not be asked. */
  | { kind: 'notAsked', service: string, account: string }
)

interface Sweep {
  context: Context
  /** The connection that holds the lock. */
  lock: Database
  /** Whether what is found is mended too. */
  mends: boolean
}

const isUuid = (text: string) => /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(text)

/** How far ahead links are tried. */
const LINK_DAYS = 2
const LINK_TIMEOUT_MS = 10_000
/** A service's list may not show yet what was made a moment ago. Seconds. */
const SETTLES = 120

/** Null where another process is at it. With `mends` false it only looks. */
export async function sweepRooms(context: Context, { mends } = { mends: true }): Promise<SweepFinding[] | null> {
  try {
    return await withLock(context.pool, 'sweep of rooms', async (lock) => {
      const sweep = { context, lock, mends }
      const accounts = await lock.select().from(videoAccounts).where(ne(videoAccounts.sealedCredentials, ''))
      const findings = await sweepSessions(sweep)
      for (const account of accounts) {
        const service = context.video.get(account.service)
        if (service) findings.push(...await sweepAccount(sweep, service, account))
      }
      return [...findings, ...await sweepLinks(sweep)]
    })
  } catch (error) {
    if (error instanceof LockBusy) return null
    throw error
  }
}

async function sweepAccount({ context, lock, mends }: Sweep, service: VideoService, account: VideoAccount): Promise<SweepFinding[]> {
  const { workspaceId } = account
  const askedAt = context.now()
  let listed: RoomAtService[]
  try {
    listed = await withCredentials(context, lock, service, account, service.listRooms)
  } catch (error) {
    if (error instanceof ServiceFault) return [{ kind: 'notAsked', workspaceId, service: service.name, account: account.label }]
    throw error
  }
  const rows = await context.db.select({ room: rooms, session: sessions }).from(rooms)
    .innerJoin(sessions, and(eq(sessions.workspaceId, rooms.workspaceId), eq(sessions.id, rooms.sessionId)))
    .where(and(eq(rooms.workspaceId, workspaceId), eq(rooms.accountId, account.id)))
  // Two workspaces may be connected to the same account.
  const known = new Set((await context.db.select({ reference: rooms.reference }).from(rooms)
    .where(among(rooms.reference, listed.flatMap(({ reference }) => (isUuid(reference) ? [reference] : []))))).map(row => row.reference))
  const byReference = groupBy(listed, ({ reference }) => reference)
  const unknown = listed.filter(({ reference }) => !known.has(reference)).length
  const findings: SweepFinding[] = unknown > 0 ? [{ kind: 'unknown', workspaceId, service: service.name, account: account.label, rooms: unknown }] : []
  for (const { room, session } of rows) {
    const there = byReference.get(room.reference) ?? []
    const about = { workspaceId, sessionId: session.id, service: service.name }
    const plan = async (name: JobName) => mends && planJob(context.db, name, { workspaceId, id: room.id }, context.now())
    if (room.state === 'withdrawn') {
      if (there.length === 0) continue
      findings.push({ kind: 'noSession', ...about })
      await plan('withdrawRoom')
      continue
    }
    if (room.state !== 'ready' || session.cancelled || secondsOf(session.endsAt) <= context.now()) continue
    const own = there.find(({ externalId }) => externalId === room.externalId)
    const isYoung = room.askedAt !== null && secondsOf(room.askedAt) > askedAt - SETTLES * context.settings.retryPace
    if (isYoung) continue
    if (!own || own.start !== secondsOf(session.startsAt) || own.end !== secondsOf(session.endsAt)) {
      findings.push({ kind: 'notInStep', ...about })
      await plan('changeRoom')
    }
    for (const { externalId } of there.filter(other => other !== own)) {
      if (!own) break
      findings.push({ kind: 'doubled', ...about })
      if (mends) await withCredentials(context, lock, service, account, credentials => service.withdrawRoom(credentials, externalId))
    }
  }
  return findings
}

/** Sessions to come that should have a room: those without one, and those whose room no job works on any more. */
async function sweepSessions({ context, lock: db, mends }: Sweep): Promise<SweepFinding[]> {
  const now = context.now()
  const standing = and(eq(sessions.cancelled, false), gt(sessions.endsAt, dateOf(now)), sql`${sessions.place} ->> 'kind' = 'video'`)
  const confirmed = sql`exists (select 1 from ${bookings} where ${bookings.workspaceId} = ${sessions.workspaceId}
    and ${bookings.sessionId} = ${sessions.id} and ${bookings.state} = 'confirmed')`
  const without = await db.select({ workspaceId: sessions.workspaceId, sessionId: sessions.id }).from(sessions).where(and(
    standing, confirmed,
    notExists(db.select({ one: sql`1` }).from(rooms)
      .where(and(eq(rooms.workspaceId, sessions.workspaceId), eq(rooms.sessionId, sessions.id), isNull(rooms.replacedAt)))),
  ))
  for (const { workspaceId, sessionId } of mends ? without : [])
    await context.db.transaction(tx => applySessionChange(context, tx, workspaceId, sessionId, { kind: 'roomMissed', by: { kind: 'system', name: '' }, at: now }))
  const left = await db.select({ workspaceId: rooms.workspaceId, id: rooms.id, sessionId: rooms.sessionId }).from(rooms)
    .innerJoin(sessions, and(eq(sessions.workspaceId, rooms.workspaceId), eq(sessions.id, rooms.sessionId)))
    .where(and(
      standing, confirmed, isNull(rooms.replacedAt), isNull(rooms.waitsFor), inArray(rooms.state, ['planned', 'making', 'failing']),
      sql`coalesce(${rooms.lastFault} -> 'fault' ->> 'code', '') <> 'noVideoAccount'`,
      sql`not exists (select 1 from graphile_worker.jobs
        where key = 'makeRoom:' || ${rooms.workspaceId} || ':' || ${rooms.id})`,
    ))
  for (const { workspaceId, id } of mends ? left : []) await planJob(context.db, 'makeRoom', { workspaceId, id }, now)
  return [...without, ...left].map(({ workspaceId, sessionId }) => ({ kind: 'noRoom' as const, workspaceId, sessionId }))
}

/** Tries the links of the next days that no service answers for, and marks those that are dead. */
async function sweepLinks({ context, lock: db, mends }: Sweep): Promise<SweepFinding[]> {
  const now = context.now()
  const found = await db.select({ room: rooms }).from(rooms)
    .innerJoin(sessions, and(eq(sessions.workspaceId, rooms.workspaceId), eq(sessions.id, rooms.sessionId)))
    .where(and(
      eq(rooms.state, 'ready'), isNull(rooms.accountId), eq(sessions.cancelled, false),
      gt(sessions.endsAt, dateOf(now)), lt(sessions.startsAt, dateOf(now + LINK_DAYS * DAY)),
    ))
  const findings: SweepFinding[] = []
  const answers = new Map<string, Promise<boolean>>()
  for (const { room } of found) {
    const link = room.joinUrl
    if (!link) continue
    const tried = answers.get(link) ?? linkAnswers(context, link)
    answers.set(link, tried)
    if (!await tried) findings.push({ kind: 'deadLink', workspaceId: room.workspaceId, sessionId: room.sessionId })
    if (!mends) continue
    if (await tried) await forgetDeadLink(context, room)
    else {
      await context.db.update(rooms).set({ lastFault: { by: null, fault: { code: 'deadLink' } } }).where(and(isRoom(room), eq(rooms.state, 'ready')))
    }
  }
  return findings
}

async function forgetDeadLink(context: Context, room: Room): Promise<void> {
  if (room.lastFault?.fault.code === 'deadLink') await updateRoom(context.db, room, { lastFault: null })
}

/** Whether there is something at a link. What cannot be asked from here, such as a server in somebody's own network, may be there. */
async function linkAnswers(context: Context, link: string): Promise<boolean> {
  try {
    const { status } = await context.outside.fetch(link, { timeoutMs: LINK_TIMEOUT_MS })
    return status !== 404 && status !== 410
  } catch (error) {
    return !(error instanceof OutsideFault) || !['unknownHost', 'unreachable'].includes(error.code)
  }
}
