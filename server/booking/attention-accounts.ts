import { and, asc, eq, isNotNull, isNull, lt, ne } from 'drizzle-orm'
import { hasWayToRoom } from '../../core/checks'
import { nameForTeam } from '../../core/event-type/name-for-team'
import { conditionOf } from '../../core/rooms/accounts'
import { DAY } from '../../core/time/civil'
import type { Attention, SignedIn } from '../../core/views/desk'
import { type Context, dateOf, secondsOf } from '../context'
import { hosts, videoAccounts, videoUsers } from '../database/schema'
import { hostIdsOf, isOpen, knownEventTypes, loadRoomWays } from '../event-types'
import { countWaiting } from '../rooms'

/** Video accounts that wait for a person: one line for each, however many sessions have no room because of it. */

/** How long before its end an invitation is pointed out. */
const ENDS_SOON_DAYS = 3

export async function videoAccountsToMend({ db, video, now }: Context, { workspaceId, memberId, role }: SignedIn): Promise<Attention[]> {
  const found = await db.select({ account: videoAccounts, host: hosts.name, memberId: hosts.memberId }).from(videoAccounts)
    .leftJoin(hosts, and(eq(hosts.workspaceId, videoAccounts.workspaceId), eq(hosts.id, videoAccounts.hostId)))
    .where(and(
      eq(videoAccounts.workspaceId, workspaceId), ne(videoAccounts.state, 'disconnected'), isNull(hosts.leftAt),
      role === 'host' ? eq(hosts.memberId, memberId) : undefined,
    )).orderBy(asc(videoAccounts.connectedAt))
  const waiting = await countWaiting(db, workspaceId, now())
  return found.flatMap(({ account, host, memberId: of }): Attention[] => {
    const { id, refusal, refusedSince } = account
    const service = video.get(account.service)?.name
    const state = conditionOf(account)
    if (!service || state === 'works') return []
    return [{
      kind: 'videoAccount', accountId: id, own: of !== null && of === memberId, host, service, state,
      since: refusedSince && secondsOf(refusedSince), fault: refusal?.fault ?? null, sessions: waiting.get(id) ?? 0,
    }]
  })
}

export async function invitationsEnding({ db, video, now }: Context, workspaceId: string): Promise<Attention[]> {
  const found = await db.select({ user: videoUsers, host: hosts.name, service: videoAccounts.service }).from(videoUsers)
    .innerJoin(hosts, and(eq(hosts.workspaceId, videoUsers.workspaceId), eq(hosts.id, videoUsers.hostId), isNull(hosts.leftAt)))
    .innerJoin(videoAccounts, and(
      eq(videoAccounts.workspaceId, videoUsers.workspaceId), eq(videoAccounts.id, videoUsers.accountId), eq(videoAccounts.state, 'connected'),
    ))
    .where(and(eq(videoUsers.workspaceId, workspaceId), lt(videoUsers.invitedUntil, dateOf(now() + ENDS_SOON_DAYS * DAY))))
    .orderBy(asc(videoUsers.invitedUntil))
  return found.flatMap(({ user, host, service }): Attention[] => {
    const name = video.get(service)?.name
    return name && user.invitedUntil ? [{ kind: 'videoInvitation', hostId: user.hostId, host, service: name, until: secondsOf(user.invitedUntil) }] : []
  })
}

/** Open event types by video for whose hosts, all of them, no way leads to a room: whoever books gets no link. */
export async function eventTypesWithoutRooms(context: Context, workspaceId: string): Promise<Attention[]> {
  // Settings that cannot be read show elsewhere; Today is shown all the same.
  const byVideo = (await knownEventTypes(context, workspaceId).catch(() => []))
    .filter(eventType => isOpen(eventType) && eventType.settings.places.every(({ kind }) => kind === 'video'))
  if (byVideo.length === 0) return []
  const roomWays = await loadRoomWays(context, workspaceId)
  const withFixedRoom = new Set((await context.db.select({ id: hosts.id }).from(hosts)
    .where(and(eq(hosts.workspaceId, workspaceId), isNotNull(hosts.fixedRoom)))).map(({ id }) => id))
  return byVideo.flatMap((eventType): Attention[] => {
    const { id, settings } = eventType
    const hasWay = (hostId: string) => hasWayToRoom({ settings, roomWays }, { id: hostId, hasFixedRoom: withFixedRoom.has(hostId) })
    const isStopped = !hostIdsOf(eventType).some(hasWay)
    return isStopped ? [{ kind: 'noRoomWay', eventTypeId: id, eventType: nameForTeam(settings) }] : []
  })
}
