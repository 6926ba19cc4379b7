import { and, eq } from 'drizzle-orm'
import { applySessionChange } from '../changes'
import { type Context, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { persist } from '../database/faults'
import { withLock } from '../database/lock'
import type { sessions } from '../database/schema'
import { rooms, sessionHosts, videoAccounts } from '../database/schema'
import { type JobSubject, planJob, waitAfter } from '../jobs/queue'
import type { RoomRequest, VideoService } from '../ports/video'
import { recordTrail } from '../trail'
import { isAccount, type VideoAccount, withCredentials } from './credentials'
import { describeSession } from './describe'
import { faultOf, lockRoom, updateRoom } from './make'
import { userFor } from './users'

/** Tries after which a room is left as it is until the next sweep. */
const MOST_TRIES = 20

interface Known {
  room: typeof rooms.$inferSelect
  session: typeof sessions.$inferSelect
  account: VideoAccount
  service: VideoService
  request: RoomRequest
  userId: string | null
}

/** The job that keeps one room in step with its session: it compares both and changes what differs. */
export async function changeRoom(context: Context, subject: JobSubject): Promise<void> {
  await withLock(context.pool, `room ${subject.id}`, async (db) => {
    const known = await loadKnown(context, db, subject)
    if (!known) return
    const { room, session, account, service, request } = known
    const { externalId } = room
    if (externalId === null) return
    try {
      const outcome = await withCredentials(context, db, service, account, credentials =>
        service.changeRoom(credentials, externalId, request))
      await persist(() => afterLook(context, known, outcome))
    } catch (error) {
      const { by, fault } = faultOf(service.name, error)
      const attempts = room.attempts + 1
      const at = context.now() + waitAfter(attempts, context.settings.retryPace)
      const again = attempts < MOST_TRIES && at < secondsOf(session.endsAt) ? at : null
      await persist(() => context.db.transaction(async (tx) => {
        const found = await lockRoom(tx, room)
        if (found?.room.state !== 'ready') return
        await updateRoom(tx, room, { attempts })
        await recordTrail(tx, { workspaceId: room.workspaceId, sessionId: session.id }, context.now(), 'roomNotChanged', { service: by, fault, nextAt: again })
        if (again !== null) await planJob(tx, 'changeRoom', subject, again)
      }))
    }
  })
}

/** The room as it is and as it should be; null where there is nothing to keep in step. */
async function loadKnown(context: Context, db: Database, subject: JobSubject): Promise<Known | null> {
  return db.transaction(async (tx) => {
    const found = await lockRoom(tx, subject)
    if (found?.room.state !== 'ready' || !found.room.accountId || found.session.cancelled || secondsOf(found.session.endsAt) <= context.now()) return null
    const { room, session } = found
    const [account] = await tx.select().from(videoAccounts).where(isAccount({ workspaceId: room.workspaceId, id: room.accountId ?? '' }))
    const service = account && context.video.get(account.service)
    if (!account || !service) return null
    const seated = await tx.select({ id: sessionHosts.hostId }).from(sessionHosts)
      .where(and(eq(sessionHosts.workspaceId, room.workspaceId), eq(sessionHosts.sessionId, session.id)))
    const userId = await userFor(tx, service, account, seated.map(({ id }) => id))
    const request = await describeSession(context, tx, session, { reference: room.reference, userId })
    return { room, session, account, service, userId, request }
  })
}

async function afterLook(context: Context, { room, session, service, userId }: Known, outcome: 'same' | 'changed' | 'gone'): Promise<void> {
  const { workspaceId } = room
  const now = context.now()
  await context.db.transaction(async (tx) => {
    const found = await lockRoom(tx, room)
    if (found?.room.state !== 'ready') return
    if (outcome === 'gone') {
      await applySessionChange(context, tx, workspaceId, session.id, {
        kind: 'roomRenewed', way: null, by: { kind: 'system', name: service.name }, at: now,
      })
      return
    }
    await updateRoom(tx, room, { attempts: 0, userId })
    if (outcome === 'changed') await recordTrail(tx, { workspaceId, sessionId: session.id }, now, 'roomChanged', { service: service.name })
  })
}

/** What becomes of a room whose job met an error before the service was asked. */
export async function changingFailed(context: Context, subject: JobSubject): Promise<void> {
  const [room] = await context.db.select({ attempts: rooms.attempts }).from(rooms)
    .where(and(eq(rooms.workspaceId, subject.workspaceId), eq(rooms.id, subject.id)))
  const attempts = (room?.attempts ?? MOST_TRIES) + 1
  if (attempts >= MOST_TRIES) return
  await context.db.update(rooms).set({ attempts }).where(and(eq(rooms.workspaceId, subject.workspaceId), eq(rooms.id, subject.id)))
  await planJob(context.db, 'changeRoom', subject, context.now() + waitAfter(attempts, context.settings.retryPace))
}
