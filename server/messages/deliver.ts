import { and, eq, sql } from 'drizzle-orm'
import type { TrailValues } from '../../core/booking/trail'
import { unexpectedFault } from '../../core/faults'
import { type Context, dateOf } from '../context'
import { Batch } from '../database/batch'
import { persist } from '../database/faults'
import { LockBusy, withLock } from '../database/lock'
import { bookings, deliveries, trail } from '../database/schema'
import { type JobSubject, planJob, waitAfter } from '../jobs/queue'
import { SendFault } from '../ports/send-fault'
import { recordTrail } from '../trail'
import { afterUnknown, claimDelivery, type ClaimedDelivery, type Delivery, isDelivery, trailName, updateDelivery } from './claim'
import type { Content } from './compose'

/** Servers mean some rejections for good and others for a while; after so many a person decides. */
const MOST_REJECTIONS = 3

/** Deliveries that this process is sending: a job that comes back early must not take one for abandoned. */
const inFlight = new Set<string>()

/** The job that sends one planned delivery. Messages about one booking to one address go out one after the other. */
export async function deliver(context: Context, subject: JobSubject): Promise<void> {
  const [planned] = await context.db
    .select({
      bookingId: deliveries.bookingId, memberId: deliveries.memberId, address: deliveries.address,
      sessionId: sql<string | null>`coalesce(${deliveries.sessionId}, ${bookings.sessionId})`,
    })
    .from(deliveries)
    .leftJoin(bookings, and(eq(bookings.workspaceId, deliveries.workspaceId), eq(bookings.id, deliveries.bookingId)))
    .where(isDelivery(subject))
  if (!planned) return
  if (inFlight.has(subject.id)) throw new LockBusy(subject.id)
  await withLock(context.pool, `mail ${planned.bookingId ?? planned.memberId} ${planned.address}`, async (db) => {
    const claimed = await claimDelivery(context, db, subject, planned)
    if (!claimed) return
    inFlight.add(subject.id)
    try {
      await send(context, claimed)
    } finally {
      inFlight.delete(subject.id)
    }
  })
}

async function send(context: Context, claimed: ClaimedDelivery): Promise<void> {
  try {
    await sendContent(context, claimed.content)
  } catch (error) {
    const fault = error instanceof SendFault ? error : new SendFault(unexpectedFault(error), 'unknown')
    await persist(() => afterFault(context, claimed, fault))
    return
  }
  await persist(() => recordSent(context, claimed))
}

async function sendContent({ mail, phoneTexts }: Context, content: Content): Promise<void> {
  if (content.channel === 'mail') return mail.send(content.mail)
  if (!phoneTexts) throw new SendFault({ code: 'noPhoneTexts' }, 'refused')
  return phoneTexts.send(content.text)
}

/** One statement: most messages end here. */
async function recordSent(context: Context, claimed: ClaimedDelivery): Promise<void> {
  const { delivery, sessionId } = claimed
  const { workspaceId, bookingId, occasion, address, withLink } = delivery
  const at = dateOf(context.now())
  const batch = new Batch()
  batch.update(
    sql`update ${deliveries} set state = 'sent', sent_at = ${at.toISOString()}::timestamptz, fault = null where ${isDelivery(delivery)}`,
  )
  const values: TrailValues<'messageSent'> = { ...trailName(delivery, claimed.ownName), occasion, address, link: withLink }
  if (sessionId && bookingId) batch.insert(trail, [{ workspaceId, sessionId, bookingId, at, code: 'messageSent', values }])
  await batch.write(context.db)
}

async function afterFault(context: Context, claimed: ClaimedDelivery, { fault, outcome }: SendFault): Promise<void> {
  const { delivery } = claimed
  const about = { ...trailName(delivery, claimed.ownName), occasion: delivery.occasion, address: delivery.address, fault }
  await context.db.transaction(async (tx) => {
    if (outcome === 'unknown') {
      const { unknowns, again } = afterUnknown(delivery)
      const next = again ? context.now() + waitAfter(1, context.settings.retryPace) : null
      await updateDelivery(tx, delivery, {
        state: again ? 'planned' : 'unknown',
        unknowns,
        fault,
        nextTryAt: next === null ? null : dateOf(next),
      })
      await recordDeliveryTrail(tx, context, claimed, 'messageUnknown', { ...about, again })
      if (next !== null) await planJob(tx, 'deliver', { workspaceId: delivery.workspaceId, id: delivery.id }, next)
      return
    }
    const next = context.now() + waitAfter(delivery.attempts, context.settings.retryPace)
    const isFinal = outcome === 'rejected' && (fault.code === 'addressUnknown' || fault.code === 'numberUnknown' || delivery.attempts >= MOST_REJECTIONS)
    const again = !isFinal && next < claimed.deadline ? next : null
    await updateDelivery(tx, delivery, {
      state: again === null ? 'failed' : 'planned',
      fault,
      nextTryAt: again === null ? null : dateOf(again),
    })
    await recordDeliveryTrail(tx, context, claimed, 'messageFailed', { ...about, nextAt: again })
    if (again !== null) await planJob(tx, 'deliver', { workspaceId: delivery.workspaceId, id: delivery.id }, again)
  })
}

/**
 * What becomes of a delivery whose job met an error that nobody foresaw, before it was claimed: it is tried again with
 * growing waits, and shown to a person meanwhile.
 */
export async function deliveryFailed(context: Context, subject: JobSubject, error: unknown): Promise<void> {
  const [delivery] = await context.db.select().from(deliveries).where(isDelivery(subject))
  if (!delivery || delivery.state !== 'planned') return
  const attempts = delivery.attempts + 1
  const next = context.now() + waitAfter(attempts, context.settings.retryPace)
  await context.db.transaction(async (tx) => {
    await updateDelivery(tx, delivery, { attempts, fault: unexpectedFault(error), nextTryAt: dateOf(next) })
    await planJob(tx, 'deliver', subject, next)
  })
}

/** Sends a delivery once more because a person asks for it. False where it is not waiting for one. */
export async function sendAgain(context: Context, workspaceId: string, id: string): Promise<boolean> {
  return context.db.transaction(async (tx) => {
    const [delivery] = await tx.select().from(deliveries).where(isDelivery({ workspaceId, id })).for('update')
    if (!delivery || !(['failed', 'unknown', 'planned'] satisfies Delivery['state'][]).some(state => state === delivery.state)) return false
    await updateDelivery(tx, delivery, { state: 'planned', unknowns: 0, fault: null, nextTryAt: null })
    await planJob(tx, 'deliver', { workspaceId, id }, context.now())
    return true
  })
}

async function recordDeliveryTrail(
  db: Parameters<typeof recordTrail>[0],
  context: Context,
  { delivery, sessionId }: ClaimedDelivery,
  ...[code, values]: TrailArguments
): Promise<void> {
  if (!sessionId || !delivery.bookingId) return
  await recordTrail(db, { workspaceId: delivery.workspaceId, sessionId, bookingId: delivery.bookingId }, context.now(), code, values)
}

type TrailArguments = {
  [Code in 'messageFailed' | 'messageUnknown']: [Code, TrailValues<Code>]
}['messageFailed' | 'messageUnknown']
