import { and, eq, isNull } from 'drizzle-orm'
import { type Context, dateOf } from '../context'
import { withLock } from '../database/lock'
import { hosts, videoAccounts, videoUsers } from '../database/schema'
import { planLook } from './accounts'
import { isAccount, withCredentials } from './credentials'

/** Inviting a host to be a user of the workspace's account, by a mail of the service. Both throw ServiceFault. */

/** Sends the invitation, or sends it once more; null where there is no such host, or the service has no users. */
export async function inviteUser(
  context: Context, workspaceId: string, accountId: string, hostId: string,
): Promise<{ until: number | null } | null> {
  const found = await find(context, workspaceId, accountId, hostId)
  if (!found) return null
  const { account, host, service, users } = found
  const person = { name: host.name, email: host.videoEmail || host.email }
  const user = await withLock(context.pool, `user ${accountId} ${hostId}`, lock =>
    withCredentials(context, lock, service, account, credentials => users.invite(credentials, person)))
  const values = { externalId: user.id, isMain: user.isMain, invitedUntil: user.invitedUntil === null ? null : dateOf(user.invitedUntil) }
  await context.db.transaction(async (tx) => {
    await tx.insert(videoUsers).values({ workspaceId, accountId, hostId, ...values })
      .onConflictDoUpdate({ target: [videoUsers.workspaceId, videoUsers.accountId, videoUsers.hostId], set: values })
    await planLook(context, tx, account, 'waiting')
  })
  return { until: user.invitedUntil }
}

/** False where the host is not invited. */
export async function withdrawUser(context: Context, workspaceId: string, accountId: string, hostId: string): Promise<boolean> {
  const isUser = and(eq(videoUsers.workspaceId, workspaceId), eq(videoUsers.accountId, accountId), eq(videoUsers.hostId, hostId))
  const [user] = await context.db.select().from(videoUsers).where(isUser)
  const found = await find(context, workspaceId, accountId, hostId)
  if (!found || !user?.invitedUntil) return false
  const { account, service, users } = found
  await withLock(context.pool, `user ${accountId} ${hostId}`, lock =>
    withCredentials(context, lock, service, account, credentials => users.withdraw(credentials, user.externalId)))
  await context.db.delete(videoUsers).where(isUser)
  return true
}

async function find({ db, video }: Context, workspaceId: string, accountId: string, hostId: string) {
  const [account] = await db.select().from(videoAccounts).where(and(isAccount({ workspaceId, id: accountId }), eq(videoAccounts.state, 'connected')))
  const [host] = await db.select().from(hosts).where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.id, hostId), isNull(hosts.leftAt)))
  const service = account && video.get(account.service)
  return account && host && service?.users ? { account, host, service, users: service.users } : null
}
