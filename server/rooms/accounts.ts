import { and, eq, gt, inArray, isNotNull, isNull, ne, or, sql } from 'drizzle-orm'
import type { FaultBy } from '../../core/faults'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { rooms, sessions, videoAccounts, workspaces } from '../database/schema'
import { planJob } from '../jobs/queue'
import type { ConnectedAccount } from '../ports/video'
import { seal } from '../secrets'
import { isAccount, type VideoAccount } from './credentials'

/** Connections to video services: made, taken away, refused and working again. */

/**
 * Saves a connection, and tries again the rooms that waited for one. It takes the place of the owner's former account at the
 * service, whose rooms are still withdrawn under its own credentials.
 */
export async function saveAccount(
  context: Context,
  workspaceId: string,
  hostId: string | null,
  service: string,
  connected: ConnectedAccount,
): Promise<void> {
  const values = {
    label: connected.label,
    refusal: null,
    refusedSince: null,
    probeRoomId: null,
    plan: null,
    sealedCredentials: seal(context.settings.secret, connected.credentials),
    state: 'connected' as const,
    connectedAt: new Date(context.now() * 1000),
  }
  await context.db.transaction(async (tx) => {
    // Of two that are connected at once, the second takes the place of the first.
    await tx.select({ id: workspaces.id }).from(workspaces).where(eq(workspaces.id, workspaceId)).for('no key update')
    const owned = await tx.select().from(videoAccounts).where(and(
      eq(videoAccounts.workspaceId, workspaceId), eq(videoAccounts.service, service),
      hostId === null ? isNull(videoAccounts.hostId) : eq(videoAccounts.hostId, hostId),
    ))
    const known = owned.find(({ label }) => label === connected.label)
    for (const { id } of owned.filter(other => other !== known && other.state !== 'disconnected')) await dropAccount(tx, workspaceId, id)
    const [account] = known
      ? await tx.update(videoAccounts).set(values).where(isAccount(known)).returning({ id: videoAccounts.id })
      : await tx.insert(videoAccounts).values({ workspaceId, hostId, service, ...values }).returning({ id: videoAccounts.id })
    // Whether it needs somebody's approval, and who its users are, is found out before its first room.
    if (account) await planJob(tx, 'lookAtVideoAccount', { workspaceId, id: account.id }, context.now())
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

/**
 * Takes a connection away; rooms that exist stay, new ones need another account. Its credentials stay until nothing is left to
 * withdraw.
 */
export async function dropAccount(db: Database, workspaceId: string, id: string): Promise<void> {
  await db.update(videoAccounts).set({ state: 'disconnected', refusal: null, refusedSince: null, probeRoomId: null })
    .where(isAccount({ workspaceId, id }))
}

/** Marks a connection as lost, unless it was made anew meanwhile. */
export async function markLost(db: Database, account: VideoAccount): Promise<void> {
  await db.update(videoAccounts).set({ state: 'lost', refusal: null, refusedSince: null, probeRoomId: null }).where(and(
    isAccount(account), eq(videoAccounts.connectedAt, account.connectedAt), ne(videoAccounts.state, 'disconnected'),
  ))
}

/**
 * Marks a connection that refuses whatever is asked of it, or that somebody has to approve first: no room is asked of it any
 * more but the one that finds out whether that is over.
 */
export async function markRefused(context: Context, tx: Database, account: VideoAccount, refusal: FaultBy, kind: 'accountRefused' | 'awaitsApproval'): Promise<void> {
  const now = context.now()
  await tx.update(videoAccounts).set({
    refusal, refusedSince: sql`coalesce(${videoAccounts.refusedSince}, ${dateOf(now).toISOString()}::timestamptz)`, probeRoomId: null,
    ...(kind === 'awaitsApproval' ? { state: 'waiting' as const } : {}),
  }).where(and(isAccount(account), eq(videoAccounts.connectedAt, account.connectedAt)))
  await planLook(context, tx, account, 'refused')
}

/** Marks that its service does as it is asked again, and makes the rooms that waited for that. */
export async function markWorking(context: Context, tx: Database, account: VideoAccount): Promise<void> {
  const changed = await tx.update(videoAccounts).set({ refusal: null, refusedSince: null, probeRoomId: null, state: 'connected' }).where(and(
    isAccount(account), eq(videoAccounts.connectedAt, account.connectedAt),
    or(isNotNull(videoAccounts.refusal), inArray(videoAccounts.state, ['waiting', 'lost'])),
  )).returning({ id: videoAccounts.id })
  if (changed.length > 0) await planFailingRooms(tx, account.workspaceId, context.now())
}

/** How soon an account is looked at again. Seconds, where nothing hurries the installation. */
const lookPauses = { refused: 300, waiting: 60 } as const

export async function planLook(
  { settings, now }: Context, tx: Database, { workspaceId, id }: VideoAccount, why: keyof typeof lookPauses,
): Promise<void> {
  await planJob(tx, 'lookAtVideoAccount', { workspaceId, id }, now() + Math.max(1, Math.round(lookPauses[why] * settings.retryPace)))
}
