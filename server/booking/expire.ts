import { and, asc, eq, lte } from 'drizzle-orm'
import { changeBooking } from '../changes'
import { type Context, dateOf } from '../context'
import { bookings } from '../database/schema'

/** Requests that expire in one go; the next minute takes the rest. */
const MOST = 200

/** Lets requests expire that nobody has answered in time. One that meets an error does not hold up the others. */
export async function expireRequests(context: Context): Promise<void> {
  const due = await context.db.select({ workspaceId: bookings.workspaceId, id: bookings.id }).from(bookings)
    .where(and(eq(bookings.state, 'awaitingApproval'), lte(bookings.expiresAt, dateOf(context.now()))))
    .orderBy(asc(bookings.expiresAt)).limit(MOST)
  const errors: unknown[] = []
  for (const { workspaceId, id } of due) {
    try {
      await changeBooking(context, workspaceId, id, 'expired', { kind: 'system', name: 'Temporia' })
    } catch (error) {
      errors.push(error)
    }
  }
  if (errors.length > 0) throw errors[0]
}
