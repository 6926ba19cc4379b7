import { and, eq, gt, isNull } from 'drizzle-orm'
import { groupBy } from '../../core/group-by'
import type { HostConnection, SignedIn } from '../../core/views/desk'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { hosts, rooms, sessions, videoAccounts } from '../database/schema'
import { planJob } from '../jobs/queue'
import { type ConnectedAccount, type Credentials, VideoFault, type VideoService } from '../ports/video'
import { seal, unseal } from '../secrets'

export type VideoAccount = typeof videoAccounts.$inferSelect

/** Makes calls with an account's credentials, which are renewed where they are about to expire or are refused. Throws VideoFault. */
export async function withCredentials<Result>(
  context: Context, service: VideoService, account: VideoAccount, work: (credentials: Credentials) => Promise<Result>,
): Promise<Result> {
  const credentials = await usableCredentials(context, service, account, null)
  try {
    return await work(credentials)
  } catch (error) {
    if (!(error instanceof VideoFault) || error.kind !== 'credentialsRefused' || !service.renewal) throw error
    return work(await usableCredentials(context, service, account, credentials))
  }
}

/**
 * Renews under the account's row lock, so that two rooms of one account do not renew at once: a service may let each
 * renewal be used only once. `refused` are credentials that the service no longer takes, whatever their date.
 */
async function usableCredentials(
  context: Context,
  { renewal }: VideoService,
  account: VideoAccount,
  refused: Credentials | null,
): Promise<Credentials> {
  const known = refused === null ? unsealCredentials(context, account) : null
  if (known !== null && !renewal?.isDue(known, context.now())) return known
  return context.db.transaction(async (tx) => {
    const [current] = await tx.select().from(videoAccounts).where(isAccount(account)).for('update')
    const stored = unsealCredentials(context, current ?? account)
    const isUsable = refused === null ? !renewal?.isDue(stored, context.now()) : stored !== refused
    if (isUsable || !renewal) return stored
    const fresh = await renewal.renew(stored)
    await tx
      .update(videoAccounts)
      .set({ sealedCredentials: seal(context.settings.secret, fresh) })
      .where(isAccount(account))
    return fresh
  })
}

/** Credentials that were sealed with another secret are lost for good. */
function unsealCredentials({ settings }: Context, account: VideoAccount): Credentials {
  try {
    return unseal(settings.secret, account.sealedCredentials)
  } catch {
    throw new VideoFault({ code: 'consentUnreadable', account: account.label }, 'accessLost')
  }
}

/** Saves a connection, and tries again the rooms that waited for one. */
export async function saveAccount(
  context: Context,
  workspaceId: string,
  hostId: string | null,
  service: string,
  connected: ConnectedAccount,
): Promise<void> {
  const values = {
    label: connected.label,
    sealedCredentials: seal(context.settings.secret, connected.credentials),
    state: 'connected' as const,
    connectedAt: new Date(context.now() * 1000),
  }
  await context.db.transaction(async (tx) => {
    await tx
      .insert(videoAccounts)
      .values({ workspaceId, hostId, service, ...values })
      .onConflictDoUpdate({ target: [videoAccounts.workspaceId, videoAccounts.service, videoAccounts.hostId], set: values })
    await planFailingRooms(tx, workspaceId, context.now())
  })
}

/** Tries rooms that fail again: another way has opened. */
export async function planFailingRooms(tx: Database, workspaceId: string, now: number): Promise<void> {
  const failing = await tx.select({ id: rooms.id }).from(rooms)
    .innerJoin(sessions, and(eq(sessions.workspaceId, rooms.workspaceId), eq(sessions.id, rooms.sessionId)))
    .where(and(eq(rooms.workspaceId, workspaceId), eq(rooms.state, 'failing'), eq(sessions.cancelled, false), gt(sessions.endsAt, dateOf(now))))
  for (const { id } of failing) await planJob(tx, 'makeRoom', { workspaceId, id }, now)
}

/** Whether a connection is one that the member may take away. */
export async function reachesAccount(db: Database, member: SignedIn, id: string): Promise<boolean> {
  const [account] = await db.select({ hostId: videoAccounts.hostId }).from(videoAccounts)
    .where(isAccount({ workspaceId: member.workspaceId, id }))
  return account !== undefined && mayConnect(db, member, account.hostId)
}

/** Takes a connection away; rooms that exist stay, new ones need another account. */
export async function dropAccount(db: Database, workspaceId: string, id: string): Promise<void> {
  const [account] = await db.select().from(videoAccounts).where(isAccount({ workspaceId, id }))
  if (account) await markLost(db, account)
}

/** Marks a connection as lost, unless it was made anew meanwhile. */
export async function markLost(db: Database, account: VideoAccount): Promise<void> {
  await db.update(videoAccounts).set({ state: 'lost' }).where(and(isAccount(account), eq(videoAccounts.connectedAt, account.connectedAt)))
}

/** Under whose account the rooms of each host are made. */
export async function listVideoStates(db: Database, workspaceId: string) {
  const accounts = await db
    .select({ hostId: videoAccounts.hostId, label: videoAccounts.label, state: videoAccounts.state }).from(videoAccounts)
    .where(eq(videoAccounts.workspaceId, workspaceId))
  const ofWorkspace = accounts.find(account => account.hostId === null && account.state === 'connected')
  const byHost = groupBy(accounts, account => account.hostId ?? '')
  return {
    of(hostId: string): { state: 'own' | 'workspace' | 'lost' | 'none', label: string | null } {
      const own = byHost.get(hostId) ?? []
      const connected = own.find(account => account.state === 'connected')
      if (connected) return { state: 'own', label: connected.label }
      if (ofWorkspace) return { state: 'workspace', label: ofWorkspace.label }
      return own[0] ? { state: 'lost', label: own[0].label } : { state: 'none', label: null }
    },
  }
}

/** Who is connected as whom; to a host only they themselves. */
export async function listConnections(db: Database, { workspaceId, memberId, role }: SignedIn): Promise<HostConnection[]> {
  const found = await db.select({ host: hosts, account: videoAccounts }).from(hosts)
    .leftJoin(videoAccounts, and(eq(videoAccounts.workspaceId, hosts.workspaceId), eq(videoAccounts.hostId, hosts.id)))
    .where(and(eq(hosts.workspaceId, workspaceId), isNull(hosts.leftAt), role === 'host' ? eq(hosts.memberId, memberId) : undefined))
    .orderBy(hosts.name)
  return found.map(({ host, account }) => ({
    hostId: host.id,
    name: host.name,
    email: host.email,
    own: host.memberId === memberId,
    connectsCalendars: host.memberId === null ? role !== 'host' : host.memberId === memberId,
    account: account && {
      id: account.id,
      label: account.label,
      state: account.state,
      since: Math.floor(account.connectedAt.getTime() / 1000),
    },
  }))
}

/** Whose video account a member may connect or disconnect: their own, and as owner or coordinator anybody's and the workspace's (null). */
export async function mayConnect(db: Database, member: SignedIn, hostId: string | null): Promise<boolean> {
  if (hostId === null) return member.role !== 'host'
  const [host] = await db
    .select({ memberId: hosts.memberId })
    .from(hosts)
    .where(and(eq(hosts.workspaceId, member.workspaceId), eq(hosts.id, hostId)))
  return host !== undefined && (member.role !== 'host' || host.memberId === member.memberId)
}

function isAccount(account: { workspaceId: string, id: string }) {
  return and(eq(videoAccounts.workspaceId, account.workspaceId), eq(videoAccounts.id, account.id))
}
