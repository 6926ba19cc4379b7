import { and, eq, inArray } from 'drizzle-orm'
import { type Context, dateOf } from '../context'
import { chairGroups, chairHosts, chairs, eventTypeAddresses, eventTypeDrafts, eventTypes, eventTypeVersions, messageTexts, ownMessages, sessions } from '../database/schema'
import { isEventType } from './load'

/** The list of event types: its order, what is archived and what is deleted. */

/** Puts event types into an order; those not named keep their places after them. False where one is not the workspace's. */
export async function orderEventTypes({ db }: Context, workspaceId: string, ids: readonly string[]): Promise<boolean> {
  return db.transaction(async (tx) => {
    const all = await tx
      .select({ id: eventTypes.id, position: eventTypes.position })
      .from(eventTypes)
      .where(and(eq(eventTypes.workspaceId, workspaceId), eq(eventTypes.oneOff, false)))
      .for('update')
    if (ids.some(id => !all.some(item => item.id === id))) return false
    const others = all.filter(item => !ids.includes(item.id)).sort((a, b) => a.position - b.position).map(item => item.id)
    for (const [position, id] of [...ids, ...others].entries()) {
      await tx.update(eventTypes).set({ position }).where(and(eq(eventTypes.workspaceId, workspaceId), eq(eventTypes.id, id)))
    }
    return true
  })
}

/** Archives an event type or restores it; while archived it is closed to clients, whatever its state. */
export async function archiveEventType({ db, now }: Context, workspaceId: string, id: string, archived: boolean): Promise<boolean> {
  const changed = await db.update(eventTypes).set({ archivedAt: archived ? dateOf(now()) : null })
    .where(isEventType(workspaceId, id)).returning({ id: eventTypes.id })
  return changed.length > 0
}

export type DeleteOutcome = 'deleted' | 'notFound' | 'booked'

/** Deletes an event type with its drafts and versions, if nobody has ever booked it. */
export async function deleteEventType({ db }: Context, workspaceId: string, id: string): Promise<DeleteOutcome> {
  return db.transaction(async (tx) => {
    // Whoever books it meanwhile keeps the row, so this waits and then sees the session.
    const found = await tx.select({ id: eventTypes.id }).from(eventTypes)
      .where(isEventType(workspaceId, id)).for('update')
    if (found.length === 0) return 'notFound'
    const booked = await tx.select({ id: sessions.id }).from(sessions)
      .where(and(eq(sessions.workspaceId, workspaceId), eq(sessions.eventTypeId, id))).limit(1)
    if (booked.length > 0) return 'booked'
    const seats = tx.select({ id: chairs.id }).from(chairs).where(and(eq(chairs.workspaceId, workspaceId), eq(chairs.eventTypeId, id)))
    await tx.delete(chairGroups).where(and(eq(chairGroups.workspaceId, workspaceId), inArray(chairGroups.chairId, seats)))
    await tx.delete(chairHosts).where(and(eq(chairHosts.workspaceId, workspaceId), inArray(chairHosts.chairId, seats)))
    for (const table of [chairs, messageTexts, ownMessages, eventTypeDrafts, eventTypeVersions, eventTypeAddresses])
      await tx.delete(table).where(and(eq(table.workspaceId, workspaceId), eq(table.eventTypeId, id)))
    await tx.delete(eventTypes).where(and(eq(eventTypes.workspaceId, workspaceId), eq(eventTypes.id, id)))
    return 'deleted'
  })
}
