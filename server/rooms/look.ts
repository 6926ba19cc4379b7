import { and, asc, count, eq, gt, isNotNull, ne, or } from 'drizzle-orm'
import { isFull } from '../../core/rooms/accounts'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { persist } from '../database/faults'
import { withLock } from '../database/lock'
import { rooms, sessions, videoAccounts, videoUsers } from '../database/schema'
import { type JobSubject, planJob } from '../jobs/queue'
import { type AccountState, type ServiceUser, ServiceFault, type VideoService } from '../ports/video'
import { markLost, markRefused, markWorking, planLook } from './accounts'
import { isAccount, type VideoAccount, withCredentials } from './credentials'
import { faultOf } from './make'
import { LOST_ANSWER } from './withdraw'
import { saveUsers } from './users'

/**
 * The job that looks at one account: whether it still may make rooms, what it is allowed, who its users are. Where it
 * refused, one room finds out whether that is over.
 */
export async function lookAtVideoAccount(context: Context, subject: JobSubject): Promise<void> {
  await withLock(context.pool, `video account ${subject.id}`, async (db) => {
    const [account] = await db.select().from(videoAccounts).where(isAccount(subject))
    const service = account && context.video.get(account.service)
    if (!account || !service) return
    if (account.state === 'disconnected') return forgetCredentials(context, db, account)
    try {
      const seen = await withCredentials(context, db, service, account, async credentials => ({
        state: await service.readAccount(credentials),
        users: service.users ? await service.users.list(credentials) : [],
      }))
      await persist(() => afterLook(context, account, service, seen))
    } catch (error) {
      if (error instanceof ServiceFault) await persist(() => afterFault(context, account, service, error))
      else throw error
    }
  })
}

async function afterLook(
  context: Context, account: VideoAccount, service: VideoService, { state, users }: { state: AccountState, users: readonly ServiceUser[] },
): Promise<void> {
  const now = context.now()
  await context.db.transaction(async (tx) => {
    await tx.update(videoAccounts).set({ plan: state.plan, lookedAt: dateOf(now) }).where(isAccount(account))
    if (service.users) await saveUsers(context, tx, account, users)
    if (state.waiting) return markRefused(context, tx, account, { by: service.name, fault: { code: 'notApproved' } }, 'awaitsApproval')
    if (account.state !== 'connected') return markWorking(context, tx, account)
    if (!account.refusal) {
      if (users.some(user => user.invitedUntil !== null && user.invitedUntil > now)) await planLook(context, tx, account, 'refused')
      return
    }
    if (isFull(state.plan)) return planLook(context, tx, account, 'refused')
    const probe = await nextWaiting(tx, account, now)
    // Nobody waits: whoever needs the next room finds out.
    if (!probe) return markWorking(context, tx, account)
    await tx.update(videoAccounts).set({ probeRoomId: probe }).where(isAccount(account))
    await planJob(tx, 'makeRoom', { workspaceId: account.workspaceId, id: probe }, now)
    await planLook(context, tx, account, 'refused')
  })
}

/** The room whose session starts soonest of those that wait for an account. */
async function nextWaiting(tx: Database, { workspaceId, id }: VideoAccount, now: number): Promise<string | null> {
  const [room] = await tx.select({ id: rooms.id }).from(rooms)
    .innerJoin(sessions, and(eq(sessions.workspaceId, rooms.workspaceId), eq(sessions.id, rooms.sessionId)))
    .where(and(
      eq(rooms.workspaceId, workspaceId), eq(rooms.waitsFor, id), eq(rooms.state, 'failing'), eq(sessions.cancelled, false), gt(sessions.endsAt, dateOf(now)),
    )).orderBy(asc(sessions.startsAt)).limit(1)
  return room?.id ?? null
}

async function afterFault(context: Context, account: VideoAccount, service: VideoService, error: ServiceFault): Promise<void> {
  await context.db.transaction(async (tx) => {
    if (error.kind === 'accessLost') return markLost(tx, account)
    if (error.kind === 'accountRefused' || error.kind === 'awaitsApproval')
      return markRefused(context, tx, account, faultOf(service.name, error), error.kind)
    if (account.refusal || account.state === 'waiting') await planLook(context, tx, account, 'refused')
  })
}

/** Credentials of an account that a person took away are deleted once nothing is left to withdraw. */
async function forgetCredentials(context: Context, db: Database, account: VideoAccount): Promise<void> {
  const now = context.now()
  const [left] = await db.select({ rooms: count() }).from(rooms)
    .innerJoin(sessions, and(eq(sessions.workspaceId, rooms.workspaceId), eq(sessions.id, rooms.sessionId)))
    .where(and(
      eq(rooms.workspaceId, account.workspaceId), eq(rooms.accountId, account.id),
      or(
        and(ne(rooms.state, 'withdrawn'), gt(sessions.endsAt, dateOf(now))),
        and(eq(rooms.state, 'withdrawn'), or(isNotNull(rooms.externalId), gt(rooms.unansweredAt, dateOf(now - LOST_ANSWER)))),
      ),
    ))
  if ((left?.rooms ?? 0) > 0) return
  await db.delete(videoUsers).where(and(eq(videoUsers.workspaceId, account.workspaceId), eq(videoUsers.accountId, account.id)))
  await db.update(videoAccounts).set({ sealedCredentials: '' }).where(and(isAccount(account), eq(videoAccounts.state, 'disconnected')))
}

/** Has every account looked at: all are asked now and then, whether or not a room is needed. */
export async function planLooks(context: Context): Promise<void> {
  const found = await context.db.select({ workspaceId: videoAccounts.workspaceId, id: videoAccounts.id }).from(videoAccounts)
    .where(ne(videoAccounts.sealedCredentials, ''))
  for (const account of found) await planJob(context.db, 'lookAtVideoAccount', account, context.now())
}
