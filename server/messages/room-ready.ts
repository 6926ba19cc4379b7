import { and, eq, inArray } from 'drizzle-orm'
import type { Context } from '../context'
import type { Database } from '../database/connection'
import { bookings, deliveries } from '../database/schema'
import { planJob } from '../jobs/queue'
import { planMessages } from './plan'

/**
 * A session's room has become ready: confirmations still waiting go out now, and whoever already got one without the
 * link gets it in a message of its own. Run it in the transaction that holds the room's lock.
 */
export async function roomIsReady(db: Database, context: Context, workspaceId: string, sessionId: string): Promise<void> {
  const confirmed = await db.select({ id: bookings.id }).from(bookings)
    .where(and(eq(bookings.workspaceId, workspaceId), eq(bookings.sessionId, sessionId), eq(bookings.state, 'confirmed')))
  if (confirmed.length === 0) return
  const confirmations = await db.select().from(deliveries)
    .where(and(
      eq(deliveries.workspaceId, workspaceId),
      eq(deliveries.occasion, 'booked'),
      inArray(deliveries.bookingId, confirmed.map(one => one.id)),
    ))
    .for('update')
  for (const delivery of confirmations) {
    if (delivery.state === 'planned') await planJob(db, 'deliver', { workspaceId, id: delivery.id }, context.now())
  }
  for (const { id } of confirmed) {
    const withoutLink = confirmations.filter(one => one.bookingId === id && one.state !== 'planned' && one.withLink === false)
    await planMessages(db, context, workspaceId, id, 'linkFollows', context.now(), new Set(withoutLink.map(one => one.address)))
  }
}
