import { and, eq } from 'drizzle-orm'
import { renderMessage } from '../../core/messages'
import type { Occasion } from '../../core/messages/occasions'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { withLock } from '../database/lock'
import { deliveries, rooms } from '../database/schema'
import { type JobSubject, planJob, waitAfter } from '../jobs/queue'
import { type Mail, MailFault } from '../ports/mail'
import { writeTrail } from '../trail'
import { type BookingStory, entryFor, fieldsFor, loadStory, type Reader } from './fields'

type Delivery = typeof deliveries.$inferSelect

const MOST_TRIES = 12

/** iTIP method that goes with each occasion; none where there is no entry yet. */
const methods: Record<Occasion, 'REQUEST' | 'CANCEL' | null> = {
  booked: 'REQUEST',
  linkFollows: 'REQUEST',
  cancelled: 'CANCEL',
  awaitingApproval: null,
  declined: null,
}

/** The job that sends one planned delivery. */
export async function deliver(context: Context, subject: JobSubject): Promise<void> {
  await withLock(context.pool, `deliver ${subject.id}`, async (db) => {
    const claimed = await claim(context, db, subject)
    if (!claimed) return
    const { delivery, story } = claimed
    try {
      await context.mail.send(compose(context, story, delivery))
    } catch (error) {
      if (!(error instanceof MailFault)) throw error
      await afterFault(context, db, delivery, story, error)
      return
    }
    await settle(db, delivery, { state: 'sent', sentAt: dateOf(context.now()), fault: null })
    await tell(context, db, delivery, story, 'messageSent', { occasion: delivery.occasion, address: delivery.address, link: delivery.withLink })
  })
}

/**
 * Marks the delivery as being sent before anything is sent. One found in that state under our own lock was left by a
 * process that died while sending: nobody knows whether it arrived, so it is not sent again, and the trail says so.
 */
async function claim(context: Context, db: Database, subject: JobSubject): Promise<{ delivery: Delivery, story: BookingStory } | null> {
  return db.transaction(async (tx) => {
    const [planned] = await tx.select().from(deliveries).where(isDelivery(subject))
    const story = planned ? await loadStory(tx, subject.workspaceId, planned.bookingId) : null
    if (!planned || !story) return null
    // The room's lock comes first: a room that becomes ready meanwhile sees either a planned or a claimed delivery.
    const room = story.room && (await tx.select().from(rooms)
      .where(and(eq(rooms.workspaceId, subject.workspaceId), eq(rooms.id, story.room.id))).for('update'))[0]
    const [delivery] = await tx.select().from(deliveries).where(isDelivery(subject)).for('update')
    if (delivery?.state === 'sending') {
      const fault = 'the application stopped while sending'
      await settle(tx, delivery, { state: 'unknown', fault })
      await tell(context, tx, delivery, story, 'messageUnknown', { occasion: delivery.occasion, address: delivery.address, fault })
      return null
    }
    if (delivery?.state !== 'planned') return null
    const seen = { ...story, room: room ?? null }
    const withLink = story.session.place.kind === 'video' && methods[delivery.occasion] === 'REQUEST' ? room?.state === 'ready' : null
    const attempts = delivery.attempts + 1
    await settle(tx, delivery, { state: 'sending', withLink, attempts })
    return { delivery: { ...delivery, withLink, attempts }, story: seen }
  })
}

function compose(context: Context, story: BookingStory, delivery: Delivery): Mail {
  const host = story.hosts.find(one => one.id === delivery.hostId) ?? null
  const reader: Reader = { audience: delivery.audience, name: delivery.name, timeZone: host?.timeZone ?? story.booking.timeZone }
  const message = renderMessage(delivery.occasion, host ? 'host' : 'client', fieldsFor(context, story, reader))
  const method = methods[delivery.occasion]
  const [answering] = story.hosts
  return {
    messageId: delivery.messageId,
    from: { name: story.workspace.name, address: context.settings.mailFrom },
    to: { name: delivery.name, address: delivery.address },
    replyTo: host ? { name: story.booking.clientName, address: story.booking.clientEmail }
      : answering ? { name: answering.name, address: answering.email } : null,
    ...message,
    calendar: method && { method, content: entryFor(context, story, reader, method) },
  }
}

async function afterFault(context: Context, db: Database, delivery: Delivery, story: BookingStory, fault: MailFault): Promise<void> {
  const about = { occasion: delivery.occasion, address: delivery.address, fault: fault.message }
  if (fault.outcome === 'unknown') {
    await settle(db, delivery, { state: 'unknown', fault: fault.message })
    await tell(context, db, delivery, story, 'messageUnknown', about)
    return
  }
  const again = delivery.attempts < MOST_TRIES ? context.now() + waitAfter(delivery.attempts, context.settings.retryPace) : null
  await db.transaction(async (tx) => {
    await settle(tx, delivery, { state: again === null ? 'failed' : 'planned', fault: fault.message })
    await tell(context, tx, delivery, story, 'messageFailed', { ...about, nextAt: again })
    if (again !== null) await planJob(tx, 'deliver', { workspaceId: delivery.workspaceId, id: delivery.id }, again)
  })
}

async function settle(db: Database, delivery: Delivery, change: Partial<Delivery>): Promise<void> {
  await db.update(deliveries).set(change).where(isDelivery(delivery))
}

async function tell(
  context: Context, db: Database, delivery: Delivery, story: BookingStory, ...[code, values]: TellArguments
): Promise<void> {
  await writeTrail(db, { workspaceId: delivery.workspaceId, sessionId: story.session.id, bookingId: delivery.bookingId }, context.now(), code, values)
}

type TellArguments = {
  [Code in 'messageSent' | 'messageFailed' | 'messageUnknown']: [Code, Parameters<typeof writeTrail<Code>>[4]]
}['messageSent' | 'messageFailed' | 'messageUnknown']

function isDelivery(subject: { workspaceId: string, id: string }) {
  return and(eq(deliveries.workspaceId, subject.workspaceId), eq(deliveries.id, subject.id))
}
