import { and, eq } from 'drizzle-orm'
import { type Context, dateOf } from '../context'
import { eventTypes } from '../database/schema'

/** The list of event types: its order, and what is put away. */

/** Puts event types into an order; those not named keep their places after them. False where one is not the workspace's. */
export async function orderEventTypes({ db }: Context, workspaceId: string, ids: readonly string[]): Promise<boolean> {
  return db.transaction(async (tx) => {
    const all = await tx
      .select({ id: eventTypes.id, position: eventTypes.position })
      .from(eventTypes)
      .where(eq(eventTypes.workspaceId, workspaceId))
      .for('update')
    if (ids.some(id => !all.some(item => item.id === id))) return false
    const others = all.filter(item => !ids.includes(item.id)).sort((a, b) => a.position - b.position).map(item => item.id)
    for (const [position, id] of [...ids, ...others].entries()) {
      await tx.update(eventTypes).set({ position }).where(and(eq(eventTypes.workspaceId, workspaceId), eq(eventTypes.id, id)))
    }
    return true
  })
}

/** Puts an event type away or takes it out again; put away it is closed to clients, whatever its state. */
export async function archiveEventType({ db, now }: Context, workspaceId: string, id: string, archived: boolean): Promise<boolean> {
  const changed = await db.update(eventTypes).set({ archivedAt: archived ? dateOf(now()) : null })
    .where(and(eq(eventTypes.workspaceId, workspaceId), eq(eventTypes.id, id))).returning({ id: eventTypes.id })
  return changed.length > 0
}
