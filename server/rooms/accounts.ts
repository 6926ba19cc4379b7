import { and, eq, inArray, isNull, or } from 'drizzle-orm'
import type { HostConnection, SignedIn } from '../../core/views/desk'
import type { Context } from '../context'
import type { Database } from '../database/connection'
import { hosts, rooms, sessionHosts, videoAccounts } from '../database/schema'
import { planJob } from '../jobs/queue'
import type { AccountTokens, ConnectedAccount, VideoService } from '../ports/video'
import { seal, unseal } from '../secrets'

export type VideoAccount = typeof videoAccounts.$inferSelect

/** The account a session's room is made under: one of its hosts', else the workspace's. */
export async function accountFor(db: Database, workspaceId: string, sessionId: string): Promise<VideoAccount | null> {
  const sitting = await db.select({ hostId: sessionHosts.hostId }).from(sessionHosts)
    .where(and(eq(sessionHosts.workspaceId, workspaceId), eq(sessionHosts.sessionId, sessionId)))
  const accounts = await db.select().from(videoAccounts).where(and(
    eq(videoAccounts.workspaceId, workspaceId),
    eq(videoAccounts.state, 'connected'),
    or(isNull(videoAccounts.hostId), inArray(videoAccounts.hostId, sitting.map(one => one.hostId))),
  ))
  return accounts.find(one => one.hostId !== null) ?? accounts[0] ?? null
}

/** The account's tokens, renewed and kept where they are about to expire. Throws VideoFault. */
export async function usableTokens(context: Context, db: Database, service: VideoService, account: VideoAccount): Promise<AccountTokens> {
  const tokens: AccountTokens = JSON.parse(unseal(context.settings.secret, account.sealedTokens))
  const fresh = await service.refresh(tokens, context.now())
  if (!fresh) return tokens
  await db.update(videoAccounts)
    .set({ sealedTokens: seal(context.settings.secret, JSON.stringify(fresh)) })
    .where(isAccount(account))
  return fresh
}

/** Keeps a connection that a host has given consent to, and tries again the rooms that waited for one. */
export async function keepAccount(context: Context, workspaceId: string, hostId: string | null, connected: ConnectedAccount): Promise<void> {
  const values = {
    label: connected.label,
    sealedTokens: seal(context.settings.secret, JSON.stringify(connected.tokens)),
    state: 'connected' as const,
    connectedAt: new Date(context.now() * 1000),
  }
  await context.db.transaction(async (tx) => {
    await tx.insert(videoAccounts)
      .values({ workspaceId, hostId, service: 'lantern', ...values })
      .onConflictDoUpdate({ target: [videoAccounts.workspaceId, videoAccounts.service, videoAccounts.hostId], set: values })
    const waiting = await tx.select({ id: rooms.id }).from(rooms).where(and(eq(rooms.workspaceId, workspaceId), eq(rooms.state, 'failing')))
    for (const { id } of waiting) await planJob(tx, 'makeRoom', { workspaceId, id }, context.now())
  })
}

/** Takes a connection away; rooms that exist stay, new ones need another account. */
export async function dropAccount(db: Database, member: SignedIn, id: string): Promise<boolean> {
  const [account] = await db.select().from(videoAccounts).where(isAccount({ workspaceId: member.workspaceId, id }))
  if (!account || (account.hostId !== null && !await mayConnect(db, member, account.hostId))) return false
  await markLost(db, account)
  return true
}

export async function markLost(db: Database, account: VideoAccount): Promise<void> {
  await db.update(videoAccounts).set({ state: 'lost' }).where(isAccount(account))
}

/** Who is connected as whom. */
export async function listConnections(db: Database, workspaceId: string): Promise<HostConnection[]> {
  const found = await db.select({ host: hosts, account: videoAccounts }).from(hosts)
    .leftJoin(videoAccounts, and(eq(videoAccounts.workspaceId, hosts.workspaceId), eq(videoAccounts.hostId, hosts.id)))
    .where(eq(hosts.workspaceId, workspaceId))
    .orderBy(hosts.name)
  return found.map(({ host, account }) => ({
    hostId: host.id,
    name: host.name,
    account: account && { id: account.id, label: account.label, state: account.state, since: Math.floor(account.connectedAt.getTime() / 1000) },
  }))
}

/** Whose video account a member may connect: their own, and as owner or coordinator anybody's. */
export async function mayConnect(db: Database, member: SignedIn, hostId: string): Promise<boolean> {
  const [host] = await db.select({ memberId: hosts.memberId }).from(hosts).where(and(eq(hosts.workspaceId, member.workspaceId), eq(hosts.id, hostId)))
  return host !== undefined && (member.role !== 'host' || host.memberId === member.memberId)
}

function isAccount(account: { workspaceId: string, id: string }) {
  return and(eq(videoAccounts.workspaceId, account.workspaceId), eq(videoAccounts.id, account.id))
}
