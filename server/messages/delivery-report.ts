import { and, eq, inArray } from 'drizzle-orm'
import { isUnknownAddress, type ReportedRecipient } from '../../core/messages/delivery-report'
import type { Context } from '../context'
import { bookings, deliveries } from '../database/schema'
import { recordTrail } from '../trail'
import { type Delivery, isDelivery, updateDelivery } from './claim'

/** What becomes of a mail that a server had taken and that came back. */

export type ReportOutcome =
  { kind: 'recorded', address: string, fault: string } | { kind: 'ignored', address: string, why: 'notFailed' | 'knownAlready' | 'otherAddress' }

/** Mails that one report may name. */
const MOST_IDS = 50

/** Null where none of the mails that the report may be about is one of ours. */
export async function recordDeliveryReport(
  context: Context, messageIds: readonly string[], recipients: readonly ReportedRecipient[],
): Promise<ReportOutcome[] | null> {
  const ids = [...new Set(messageIds)].slice(0, MOST_IDS)
  const [delivery] = ids.length === 0 ? [] : await context.db.select().from(deliveries).where(inArray(deliveries.messageId, ids))
  if (!delivery) return null
  const outcomes: ReportOutcome[] = []
  for (const recipient of recipients) outcomes.push(await record(context, delivery, recipient))
  return outcomes
}

async function record(
  context: Context, { workspaceId, id, address }: Delivery, { action, address: reported, status, reply }: ReportedRecipient,
): Promise<ReportOutcome> {
  if (reported !== address.toLowerCase()) return { kind: 'ignored', address: reported, why: 'otherAddress' }
  if (action !== 'failed') return { kind: 'ignored', address: reported, why: 'notFailed' }
  return context.db.transaction(async (tx): Promise<ReportOutcome> => {
    const [delivery] = await tx.select().from(deliveries).where(isDelivery({ workspaceId, id })).for('update')
    if (delivery?.state !== 'sent' && delivery?.state !== 'unknown') return { kind: 'ignored', address: reported, why: 'knownAlready' }
    const fault = { code: isUnknownAddress(status, reply) ? 'addressUnknown' as const : 'cameBack' as const, reply }
    await updateDelivery(tx, delivery, { state: 'failed', fault, nextTryAt: null })
    const { bookingId, occasion } = delivery
    const [booking] = bookingId === null ? [] : await tx.select({ sessionId: bookings.sessionId }).from(bookings)
      .where(and(eq(bookings.workspaceId, workspaceId), eq(bookings.id, bookingId)))
    if (bookingId && booking) {
      const about = { workspaceId, sessionId: delivery.sessionId ?? booking.sessionId, bookingId }
      await recordTrail(tx, about, context.now(), 'messageReturned', { occasion, address, fault })
    }
    return { kind: 'recorded', address: reported, fault: fault.code }
  })
}
