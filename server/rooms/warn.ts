import { and, asc, eq, exists, gt, inArray, isNull, lt, or, sql } from 'drizzle-orm'
import { HOUR } from '../../core/time/civil'
import { applySessionChange } from '../changes'
import { type Context, dateOf, secondsOf } from '../context'
import { lockSession } from '../database/lock'
import { bookings, rooms, sessions } from '../database/schema'
import { isRoom, updateRoom } from './make'

/** Tells hosts of sessions that start soon and have no link yet: once under 24 hours before, and once more under an hour. */

const steps = [{ hours: 1, warnings: 2 }, { hours: 24, warnings: 1 }]

const isMissing = and(inArray(rooms.state, ['planned', 'making', 'failing']), isNull(rooms.replacedAt))

/** A room that was asked for a moment ago may come by itself. Seconds. */
const PATIENCE = 120

export async function warnOfMissingLinks(context: Context): Promise<void> {
  const { db, now, settings } = context
  const lately = dateOf(now() - PATIENCE * settings.retryPace)
  const found = await db.select({ room: rooms, startsAt: sessions.startsAt }).from(rooms)
    .innerJoin(sessions, and(eq(sessions.workspaceId, rooms.workspaceId), eq(sessions.id, rooms.sessionId)))
    .where(and(
      isMissing, lt(rooms.warnings, 2),
      eq(sessions.cancelled, false), gt(sessions.startsAt, dateOf(now())), lt(sessions.startsAt, dateOf(now() + 24 * HOUR)),
      or(isNull(rooms.waitsUntil), lt(rooms.waitsUntil, lately)),
      exists(db.select({ one: sql`1` }).from(bookings).where(and(
        eq(bookings.workspaceId, rooms.workspaceId), eq(bookings.sessionId, rooms.sessionId), eq(bookings.state, 'confirmed'),
      ))),
    )).orderBy(asc(sessions.startsAt))
  for (const { room, startsAt } of found) {
    const step = steps.find(({ hours }) => secondsOf(startsAt) - now() <= hours * HOUR)
    if (!step || room.warnings >= step.warnings) continue
    await db.transaction(async (tx) => {
      await lockSession(tx, room.workspaceId, room.sessionId)
      const [current] = await tx.select().from(rooms).where(and(isRoom(room), isMissing))
      if (!current || current.warnings >= step.warnings) return
      await updateRoom(tx, room, { warnings: step.warnings })
      await applySessionChange(context, tx, room.workspaceId, room.sessionId, {
        kind: 'linkMissing', hours: step.hours, by: { kind: 'system', name: 'Temporia' }, at: now(),
      })
    })
  }
}
