import { randomBytes } from 'node:crypto'
import { and, asc, eq, gte, inArray, isNull, lte, ne, or } from 'drizzle-orm'
import { nameForTeam } from '../../core/event-type/name-for-team'
import { settingsSchema } from '../../core/event-type/settings'
import { followsAtOnce, type OpenWay, ROOM_PART, type WayKind } from '../../core/rooms/ways'
import { type Context, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { eventTypes, hosts, rooms, sessionHosts, sessions, videoAccounts, workspaces } from '../database/schema'
import { isRoomOfSession } from '../details'
import type { FaultBy } from '../../core/faults'
import type { RoomDetails, VideoService } from '../ports/video'
import type { VideoAccount } from './credentials'
import { userFor } from './users'

/** The ways to a room that are open to a session at present. */

type Session = typeof sessions.$inferSelect

/** A way with what it needs: an account at a service, or the room itself where nobody has to be asked for it. */
export type SessionWay = OpenWay & { hostId: string | null, name: string, userId: string | null } & (
  { account: VideoAccount, service: VideoService } | { account: null, service: null, room: RoomDetails }
)

/** An account that would be a way if its service did as it is asked, or somebody approved it. */
export interface ClosedWay {
  account: VideoAccount
  name: string
  fault: FaultBy
}

export async function openWays(
  context: Context, tx: Database, session: Session, roomId: string,
): Promise<{ open: SessionWay[], order: readonly WayKind[], hosts: string[], waiting: ClosedWay | null }> {
  const { workspaceId } = session
  const [found] = await tx.select({ settings: eventTypes.settings, workspace: workspaces }).from(eventTypes)
    .innerJoin(workspaces, eq(workspaces.id, eventTypes.workspaceId))
    .where(and(eq(eventTypes.workspaceId, workspaceId), eq(eventTypes.id, session.eventTypeId)))
  if (!found) return { open: [], order: [], hosts: [], waiting: null }
  const { workspace } = found
  // What was published before rooms had settings has none.
  const room = settingsSchema.shape.room.parse(found.settings.room)
  const seated = await tx.select({ host: hosts }).from(sessionHosts)
    .innerJoin(hosts, and(eq(hosts.workspaceId, sessionHosts.workspaceId), eq(hosts.id, sessionHosts.hostId)))
    .where(and(eq(sessionHosts.workspaceId, workspaceId), eq(sessionHosts.sessionId, session.id))).orderBy(asc(hosts.name))
  const accounts = await tx.select().from(videoAccounts).where(and(
    eq(videoAccounts.workspaceId, workspaceId), inArray(videoAccounts.state, ['connected', 'waiting']),
    or(isNull(videoAccounts.hostId), inArray(videoAccounts.hostId, seated.map(({ host }) => host.id))),
  )).orderBy(asc(videoAccounts.connectedAt))
  const order = room.ways ?? workspace.roomWays
  const open: SessionWay[] = []
  let waiting: ClosedWay | null = null
  for (const account of accounts) {
    const service = context.video.get(account.service)
    const kind = account.hostId ? 'own' : 'workspace'
    if (!service || !order.includes(kind)) continue
    // The one room that finds out whether a refusal is over goes through.
    if (account.state === 'waiting' || (account.refusal && account.probeRoomId !== roomId)) {
      waiting ??= { account, name: service.name, fault: account.refusal ?? { by: service.name, fault: { code: 'notApproved' } } }
      continue
    }
    const userId = await userFor(tx, service, account, seated.map(({ host }) => host.id))
    open.push({ key: `account ${account.id}`, kind, hostId: account.hostId, name: service.name, userId, account, service })
  }
  if (workspace.roomPattern !== '')
    open.push({ ...local('pattern', 'pattern', null, ''), room: linkRoom(workspace.roomPattern.replace(ROOM_PART, unguessable())) })
  if (room.link !== '' && !followsAtOnce(spanOf(session), await others(tx, session, 'link', eq(sessions.eventTypeId, session.eventTypeId))))
    open.push({ ...local('link', 'link', null, nameForTeam(found.settings)), room: linkRoom(room.link) })
  for (const { host } of seated) {
    const { id, name, fixedRoom } = host
    const key = `fixed ${id}`
    if (!fixedRoom || followsAtOnce(spanOf(session), await others(tx, session, key, eq(sessionHosts.hostId, id)))) continue
    const { link, number, passcode } = fixedRoom
    open.push({ ...local('fixed', key, id, name), room: { ...linkRoom(link), number: number || null, passcode: passcode || null } })
  }
  return { open, order, hosts: seated.map(({ host }) => host.name), waiting }
}

const spanOf = ({ startsAt, endsAt }: Pick<Session, 'startsAt' | 'endsAt'>) => ({ start: secondsOf(startsAt), end: secondsOf(endsAt) })

function local<Kind extends WayKind>(kind: Kind, key: string, hostId: string | null, name: string) {
  return { kind, key, hostId, name, userId: null, account: null, service: null } as const
}

function linkRoom(joinUrl: string): RoomDetails {
  return { externalId: '', joinUrl, hostUrl: null, number: null, passcode: null }
}

/** 128 bits in letters that every meeting server takes. */
function unguessable(): string {
  return randomBytes(16).toString('hex')
}

/**
 * Other sessions by video around one, whose people would meet in a room that is the same for both: those that have it, and
 * earlier ones that have none yet.
 */
async function others(
  tx: Database, session: Session, key: string, which: ReturnType<typeof eq>,
): Promise<{ start: number, end: number }[]> {
  const found = await tx.selectDistinct({
    id: sessions.id, startsAt: sessions.startsAt, endsAt: sessions.endsAt, place: sessions.place, state: rooms.state, wayKey: rooms.wayKey,
  }).from(sessions)
    .leftJoin(rooms, isRoomOfSession)
    .innerJoin(sessionHosts, and(eq(sessionHosts.workspaceId, sessions.workspaceId), eq(sessionHosts.sessionId, sessions.id)))
    .where(and(
      eq(sessions.workspaceId, session.workspaceId), ne(sessions.id, session.id), eq(sessions.cancelled, false), which,
      lte(sessions.startsAt, session.endsAt), gte(sessions.endsAt, session.startsAt),
    ))
  const isEarlier = (other: { id: string, startsAt: Date }) =>
    other.startsAt < session.startsAt || (other.startsAt.getTime() === session.startsAt.getTime() && other.id < session.id)
  return found
    .filter(other => other.place.kind === 'video' && (other.wayKey === key || (other.state !== 'ready' && isEarlier(other))))
    .map(spanOf)
}
