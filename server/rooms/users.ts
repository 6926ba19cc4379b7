import { and, asc, eq, gt, inArray, isNull } from 'drizzle-orm'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { hosts, rooms, sessionHosts, sessions, videoUsers } from '../database/schema'
import { planJob } from '../jobs/queue'
import type { ServiceUser, VideoService } from '../ports/video'
import type { VideoAccount } from './credentials'

/** Hosts as users of the workspace's account at a service, for whom its rooms are made. */

const ofAccount = ({ workspaceId, id }: VideoAccount) => and(eq(videoUsers.workspaceId, workspaceId), eq(videoUsers.accountId, id))

/** Those of some hosts who are users, by name. */
async function usersOf(tx: Database, account: VideoAccount, hostIds: readonly string[]) {
  if (hostIds.length === 0) return []
  const found = await tx.select({ user: videoUsers }).from(videoUsers)
    .innerJoin(hosts, and(eq(hosts.workspaceId, videoUsers.workspaceId), eq(hosts.id, videoUsers.hostId)))
    .where(and(ofAccount(account), isNull(videoUsers.invitedUntil), inArray(videoUsers.hostId, [...hostIds]))).orderBy(asc(hosts.name))
  return found.map(({ user }) => user)
}

/** For whom a room of some hosts is made: the service's id of the first who is a user, empty for the main user, null where it has none. */
export async function userFor(
  tx: Database, service: VideoService, account: VideoAccount, hostIds: readonly string[],
): Promise<string | null> {
  if (!service.users) return null
  const [first] = await usersOf(tx, account, hostIds)
  return first?.externalId ?? ''
}

/** Saves who is a user, as the service says; whoever has become one is from now on the one their rooms are made for. */
export async function saveUsers(context: Context, tx: Database, account: VideoAccount, found: readonly ServiceUser[]): Promise<void> {
  const { workspaceId, id: accountId } = account
  const people = await tx.select({ id: hosts.id, email: hosts.email, videoEmail: hosts.videoEmail }).from(hosts)
    .where(and(eq(hosts.workspaceId, workspaceId), isNull(hosts.leftAt)))
  const byAddress = new Map(found.map(user => [user.email.toLowerCase(), user]))
  const before = await tx.select().from(videoUsers).where(ofAccount(account))
  const wereUsers = new Set(before.filter(user => user.invitedUntil === null).map(user => user.hostId))
  await tx.delete(videoUsers).where(ofAccount(account))
  const rows = people.flatMap(({ id: hostId, email, videoEmail }) => {
    const user = byAddress.get((videoEmail || email).toLowerCase())
    return user ? [{
      workspaceId, accountId, hostId, externalId: user.id, isMain: user.isMain,
      invitedUntil: user.invitedUntil === null ? null : dateOf(user.invitedUntil),
    }] : []
  })
  if (rows.length > 0) await tx.insert(videoUsers).values(rows)
  const isNew = rows.filter(row => row.invitedUntil === null && !wereUsers.has(row.hostId)).map(row => row.hostId)
  if (isNew.length > 0) await planRoomsOf(context, tx, account, isNew)
}

/** Brings the rooms to come of some hosts up to date. */
async function planRoomsOf(context: Context, tx: Database, { workspaceId, id }: VideoAccount, hostIds: readonly string[]): Promise<void> {
  const now = context.now()
  const found = await tx.selectDistinct({ id: rooms.id }).from(rooms)
    .innerJoin(sessions, and(eq(sessions.workspaceId, rooms.workspaceId), eq(sessions.id, rooms.sessionId)))
    .innerJoin(sessionHosts, and(eq(sessionHosts.workspaceId, sessions.workspaceId), eq(sessionHosts.sessionId, sessions.id)))
    .where(and(
      eq(rooms.workspaceId, workspaceId), eq(rooms.accountId, id), eq(rooms.state, 'ready'), gt(sessions.startsAt, dateOf(now)),
      eq(sessions.cancelled, false), inArray(sessionHosts.hostId, [...hostIds]),
    ))
  for (const room of found) await planJob(tx, 'changeRoom', { workspaceId, id: room.id }, now)
}
