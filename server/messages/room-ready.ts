import { and, eq, inArray } from 'drizzle-orm'
import { type Context, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { bookings, deliveries, sessions } from '../database/schema'
import { planJob } from '../jobs/queue'
import { planMessages } from './plan'

/**
 * A session's room has become ready: confirmations still waiting go out now, and whoever already got one without the
 * link gets it in a message of its own. Run it in the transaction that holds the session's lock.
 */
export async function roomIsReady(db: Database, context: Context, workspaceId: string, sessionId: string): Promise<void> {
  const confirmed = await db.select({ id: bookings.id }).from(bookings)
    .where(and(eq(bookings.workspaceId, workspaceId), eq(bookings.sessionId, sessionId), eq(bookings.state, 'confirmed')))
  const [session] = await db.select({ endsAt: sessions.endsAt }).from(sessions).where(and(eq(sessions.workspaceId, workspaceId), eq(sessions.id, sessionId)))
  if (confirmed.length === 0 || !session || secondsOf(session.endsAt) <= context.now()) return
  const confirmations = await db.select().from(deliveries)
    .where(and(
      eq(deliveries.workspaceId, workspaceId),
      eq(deliveries.occasion, 'booked'),
      inArray(deliveries.bookingId, confirmed.map(booking => booking.id)),
    ))
  for (const delivery of confirmations) {
    // One that met a fault keeps to its own next try.
    if (delivery.state === 'planned' && delivery.nextTryAt === null) await planJob(db, 'deliver', { workspaceId, id: delivery.id }, context.now())
  }
  for (const { id } of confirmed) {
    // A confirmation that is planned, be it once more, will hold the link itself.
    const withoutLink = confirmations.filter(confirmation => confirmation.bookingId === id && confirmation.withLink === false && confirmation.state !== 'planned' && confirmation.state !== 'overtaken')
    await planMessages(db, context, workspaceId, id, 'linkFollows', context.now(), new Set(withoutLink.map(delivery => delivery.address)))
  }
}
