import { and, eq, inArray } from 'drizzle-orm'
import type { Actor } from '../../core/booking/changes'
import { takingStates } from '../../core/booking/states'
import { changeBooking } from '../changes'
import type { Context } from '../context'
import { bookings, sessionEntries } from '../database/schema'

/** Cancels a session whose entry somebody deleted from a host's calendar. False where nobody did. */
export async function followEntry(context: Context, workspaceId: string, sessionId: string, by: Actor): Promise<boolean> {
  const { db } = context
  const deleted = await db.$count(sessionEntries, and(
    eq(sessionEntries.workspaceId, workspaceId), eq(sessionEntries.sessionId, sessionId), eq(sessionEntries.noticed, 'deleted'),
  ))
  if (deleted === 0) return false
  const standing = await db.select({ id: bookings.id }).from(bookings).where(and(
    eq(bookings.workspaceId, workspaceId), eq(bookings.sessionId, sessionId), inArray(bookings.state, [...takingStates]),
  ))
  for (const { id } of standing) await changeBooking(context, workspaceId, id, 'cancelled', by)
  return true
}
