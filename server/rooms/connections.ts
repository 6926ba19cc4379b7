import { and, asc, count, eq, gt, isNull, ne } from 'drizzle-orm'
import { groupBy } from '../../core/group-by'
import type { ServiceUserState, VideoAccountView } from '../../core/views/connections'
import type { SignedIn } from '../../core/views/desk'
import { type Context, dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { hosts, rooms, sessions, videoAccounts, videoUsers } from '../database/schema'
import type { VideoAccount } from './credentials'

/** Who is connected as whom, for those who look. */

/** Under whose account the rooms of each host are made. */
export async function listVideoStates(db: Database, workspaceId: string) {
  const accounts = await db.select().from(videoAccounts)
    .where(and(eq(videoAccounts.workspaceId, workspaceId), ne(videoAccounts.state, 'disconnected')))
  const works = ({ state, refusal }: VideoAccount) => state === 'connected' && refusal === null
  const ofWorkspace = accounts.find(account => account.hostId === null && works(account))
  const byHost = groupBy(accounts, account => account.hostId ?? '')
  return {
    of(hostId: string): { state: 'own' | 'workspace' | 'lost' | 'none', label: string | null } {
      const own = byHost.get(hostId) ?? []
      const connected = own.find(works)
      if (connected) return { state: 'own', label: connected.label }
      if (ofWorkspace) return { state: 'workspace', label: ofWorkspace.label }
      return own[0] ? { state: 'lost', label: own[0].label } : { state: 'none', label: null }
    },
  }
}

/** The video accounts of a workspace by the host whose they are, the workspace's own under null. */
export async function viewAccounts(context: Context, workspaceId: string): Promise<Map<string | null, VideoAccountView[]>> {
  const { db, video, now } = context
  const found = await db.select().from(videoAccounts)
    .where(and(eq(videoAccounts.workspaceId, workspaceId), ne(videoAccounts.state, 'disconnected'))).orderBy(asc(videoAccounts.connectedAt))
  const waiting = await countWaiting(db, workspaceId, now())
  const views = found.flatMap((account): { hostId: string | null, view: VideoAccountView }[] => {
    const service = video.get(account.service)
    return service ? [{ hostId: account.hostId, view: {
      id: account.id,
      service: account.service,
      name: service.name,
      label: account.label,
      state: account.state,
      since: secondsOf(account.connectedAt),
      refusal: account.refusal,
      refusedSince: account.refusedSince && secondsOf(account.refusedSince),
      plan: account.plan,
      lookedAt: account.lookedAt && secondsOf(account.lookedAt),
      waiting: waiting.get(account.id) ?? 0,
    } }] : []
  })
  return new Map([...groupBy(views, ({ hostId }) => hostId)].map(([hostId, all]) => [hostId, all.map(({ view }) => view)]))
}

/** How many sessions to come have no room because of an account. */
export async function countWaiting(db: Database, workspaceId: string, now: number): Promise<Map<string, number>> {
  const rows = await db.select({ accountId: rooms.waitsFor, count: count() }).from(rooms)
    .innerJoin(sessions, and(eq(sessions.workspaceId, rooms.workspaceId), eq(sessions.id, rooms.sessionId)))
    .where(and(
      eq(rooms.workspaceId, workspaceId), eq(rooms.state, 'failing'), isNull(rooms.replacedAt), eq(sessions.cancelled, false), gt(sessions.endsAt, dateOf(now)),
    )).groupBy(rooms.waitsFor)
  return new Map(rows.flatMap(({ accountId, count: sessionsWaiting }) => (accountId ? [[accountId, sessionsWaiting]] : [])))
}

/** What hosts are in the workspace's accounts, by account and host. */
export async function viewUsers({ db, now }: Context, workspaceId: string) {
  const found = await db.select().from(videoUsers).where(eq(videoUsers.workspaceId, workspaceId))
  const byKey = new Map(found.map(user => [`${user.accountId} ${user.hostId}`, user]))
  return (accountId: string, hostId: string): { accountId: string, state: ServiceUserState, until: number | null } => {
    const user = byKey.get(`${accountId} ${hostId}`)
    const until = user?.invitedUntil ? secondsOf(user.invitedUntil) : null
    if (!user) return { accountId, state: 'none', until: null }
    if (until !== null) return { accountId, state: until > now() ? 'invited' : 'ended', until }
    return { accountId, state: user.isMain ? 'main' : 'user', until: null }
  }
}

/** Whose video account a member may connect: their own, and as owner or coordinator those of hosts who do not sign in. */
export async function mayConnect(db: Database, member: SignedIn, hostId: string): Promise<boolean> {
  const [host] = await db.select({ memberId: hosts.memberId }).from(hosts)
    .where(and(eq(hosts.workspaceId, member.workspaceId), eq(hosts.id, hostId)))
  return host !== undefined && (host.memberId === null ? member.role !== 'host' : host.memberId === member.memberId)
}

/** Whether a connection is one that the member may look after: their own, and as owner or coordinator all. */
export async function reachesAccount(db: Database, member: SignedIn, id: string): Promise<boolean> {
  const [found] = await db.select({ memberId: hosts.memberId }).from(videoAccounts)
    .leftJoin(hosts, and(eq(hosts.workspaceId, videoAccounts.workspaceId), eq(hosts.id, videoAccounts.hostId)))
    .where(and(eq(videoAccounts.workspaceId, member.workspaceId), eq(videoAccounts.id, id)))
  return found !== undefined && (member.role !== 'host' || found.memberId === member.memberId)
}
