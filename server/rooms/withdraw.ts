import { and, eq } from 'drizzle-orm'
import { type Fault, unexpectedFault } from '../../core/faults'
import { type Context, dateOf, secondsOf } from '../context'
import { persist } from '../database/faults'
import { withLock } from '../database/lock'
import { rooms, videoAccounts } from '../database/schema'
import { type JobSubject, planJob, waitAfter } from '../jobs/queue'
import { recordTrail } from '../trail'
import { withCredentials } from './credentials'
import { faultOf, isRoom, OURSELVES, updateRoom } from './make'

type Room = typeof rooms.$inferSelect

/** Tries after which the room is left at its service until a person asks again: more than two days. */
const MOST_TRIES = 60

/** A service may still be making a room that it did not answer for in time, so it is looked for again for so long. Seconds. */
export const LOST_ANSWER = 900

/** The job that withdraws one room at its service. */
export async function withdrawRoom(context: Context, subject: JobSubject): Promise<void> {
  await withLock(context.pool, `room ${subject.id}`, async (db) => {
    const [room] = await db.select().from(rooms).where(isRoom(subject))
    if (room?.state !== 'withdrawn' || !room.accountId) return
    const [account] = await db.select().from(videoAccounts)
      .where(and(eq(videoAccounts.workspaceId, room.workspaceId), eq(videoAccounts.id, room.accountId)))
    const service = account && context.video.get(account.service)
    if (!account || !service) return
    try {
      const found = await withCredentials(context, db, service, account, async (credentials) => {
        // Whatever has its reference, known here or not: an answer may have been lost, or work been done twice.
        const listed = (await service.listRooms(credentials)).filter(({ reference }) => reference === room.reference)
        const ids = new Set([...listed.map(({ externalId }) => externalId), ...(room.externalId ? [room.externalId] : [])])
        for (const id of ids) await service.withdrawRoom(credentials, id)
        return ids.size > 0
      })
      await persist(() => afterWithdrawal(context, room, service.name, found))
    } catch (error) {
      await persist(() => afterFault(context, room, faultOf(service.name, error)))
    }
  })
}

async function afterWithdrawal(context: Context, room: Room, service: string, found: boolean): Promise<void> {
  await context.db.transaction(async (tx) => {
    await updateRoom(tx, room, { externalId: null, joinUrl: null, hostUrl: null, lastFault: null, nextTryAt: null })
    if (found)
      await recordTrail(tx, { workspaceId: room.workspaceId, sessionId: room.sessionId }, context.now(), 'roomWithdrawn', { service })
    // Whatever was found, the service may still be making what it was asked for without an answer.
    const { unansweredAt } = room
    if (unansweredAt && context.now() < secondsOf(unansweredAt) + LOST_ANSWER * context.settings.retryPace) {
      const attempts = room.attempts + 1
      await updateRoom(tx, room, { attempts })
      await planJob(
        tx,
        'withdrawRoom',
        { workspaceId: room.workspaceId, id: room.id },
        context.now() + waitAfter(attempts, context.settings.retryPace),
      )
    }
  })
}

async function afterFault(context: Context, room: Room, { by, fault }: { by: string, fault: Fault }): Promise<void> {
  const attempts = room.attempts + 1
  const again = attempts < MOST_TRIES ? context.now() + waitAfter(attempts, context.settings.retryPace) : null
  await context.db.transaction(async (tx) => {
    await updateRoom(tx, room, { attempts, lastFault: { by, fault }, nextTryAt: again === null ? null : dateOf(again) })
    await recordTrail(tx, { workspaceId: room.workspaceId, sessionId: room.sessionId }, context.now(), 'roomNotWithdrawn', {
      service: by,
      fault,
      nextAt: again,
    })
    if (again !== null) await planJob(tx, 'withdrawRoom', { workspaceId: room.workspaceId, id: room.id }, again)
  })
}

/** What becomes of a withdrawal whose job met an error before the service was asked. */
export async function withdrawalFailed(context: Context, subject: JobSubject, error: unknown): Promise<void> {
  const [room] = await context.db.select().from(rooms).where(isRoom(subject))
  if (room?.state === 'withdrawn') await afterFault(context, room, { by: OURSELVES, fault: unexpectedFault(error) })
}
