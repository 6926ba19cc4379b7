import { and, eq, inArray, isNotNull } from 'drizzle-orm'
import type { Actor } from '../../core/booking/changes'
import { takingStates } from '../../core/booking/states'
import { putBack } from '../calendar-sync'
import { changeBooking } from '../changes'
import { type Context, secondsOf } from '../context'
import { bookings, sessionEntries } from '../database/schema'
import { moveBooking } from './move'

/**
 * Does to a session what somebody did to its entry in a host's calendar: moves it to where the entry is, or cancels it.
 * `inTheWay` where another session is at that time.
 */
export async function followEntry(context: Context, workspaceId: string, sessionId: string, by: Actor): Promise<'followed' | 'unchanged' | 'inTheWay'> {
  const { db } = context
  const [entry] = await db.select().from(sessionEntries).where(and(
    eq(sessionEntries.workspaceId, workspaceId), eq(sessionEntries.sessionId, sessionId), isNotNull(sessionEntries.noticed),
  ))
  const standing = await db.select({ id: bookings.id }).from(bookings).where(and(
    eq(bookings.workspaceId, workspaceId), eq(bookings.sessionId, sessionId), inArray(bookings.state, [...takingStates]),
  ))
  const [first] = standing
  if (!entry || !first) return 'unchanged'
  if (entry.noticed === 'moved') {
    if (!entry.noticedStart) return 'unchanged'
    const start = secondsOf(entry.noticedStart)
    const outcome = await moveBooking(context, workspaceId, { bookingId: first.id, start, whole: true, despite: true }, { by, zone: 'UTC', locale: 'en-GB' })
    if (outcome.kind !== 'moved') return outcome.kind === 'notFound' ? 'unchanged' : 'inTheWay'
    // What else the entry says is the session's again.
    await putBack(context, workspaceId, sessionId)
    return 'followed'
  }
  for (const { id } of standing) await changeBooking(context, workspaceId, id, 'cancelled', by)
  return 'followed'
}
