import { and, eq } from 'drizzle-orm'
import type { Context } from '../context'
import type { Database } from '../database/connection'
import { withLock } from '../database/lock'
import { rooms, videoAccounts } from '../database/schema'
import { type JobSubject, planJob, waitAfter } from '../jobs/queue'
import { VideoFault } from '../ports/video'
import { writeTrail } from '../trail'
import { usableTokens } from './accounts'
import { isRoom } from './make'

const MOST_TRIES = 12

/** Takes a cancelled session's room back. Run it in the transaction that cancels the session. */
export async function planWithdrawal(db: Database, workspaceId: string, sessionId: string, at: number): Promise<void> {
  const [room] = await db.update(rooms).set({ state: 'withdrawn', attempts: 0, nextTryAt: null, lastFault: null })
    .where(and(eq(rooms.workspaceId, workspaceId), eq(rooms.sessionId, sessionId)))
    .returning({ id: rooms.id, externalId: rooms.externalId })
  if (room?.externalId) await planJob(db, 'withdrawRoom', { workspaceId, id: room.id }, at)
}

/** The job that withdraws one room at its service. */
export async function withdrawRoom(context: Context, subject: JobSubject): Promise<void> {
  await withLock(context.pool, `room ${subject.id}`, async (db) => {
    const [room] = await db.select().from(rooms).where(isRoom(subject))
    if (!room?.externalId || !room.accountId) return
    const [account] = await db.select().from(videoAccounts)
      .where(and(eq(videoAccounts.workspaceId, room.workspaceId), eq(videoAccounts.id, room.accountId)))
    const service = account ? context.video[account.service] : null
    if (!account || !service) return
    const about = { workspaceId: room.workspaceId, sessionId: room.sessionId }
    try {
      await service.withdrawRoom(await usableTokens(context, db, service, account), room.externalId)
    } catch (error) {
      if (!(error instanceof VideoFault)) throw error
      const attempts = room.attempts + 1
      const again = attempts < MOST_TRIES ? context.now() + waitAfter(attempts, context.settings.retryPace) : null
      await db.transaction(async (tx) => {
        await tx.update(rooms).set({ attempts }).where(isRoom(room))
        await writeTrail(tx, about, context.now(), 'roomNotWithdrawn', { service: service.name, fault: error.message, nextAt: again })
        if (again !== null) await planJob(tx, 'withdrawRoom', subject, again)
      })
      return
    }
    await db.transaction(async (tx) => {
      await tx.update(rooms).set({ externalId: null, joinUrl: null, hostUrl: null }).where(isRoom(room))
      await writeTrail(tx, about, context.now(), 'roomWithdrawn', { service: service.name })
    })
  })
}
