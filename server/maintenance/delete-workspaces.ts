import { and, asc, eq, gt, inArray, lte, sql } from 'drizzle-orm'
import { expectedStates } from '../../core/booking/states'
import { DAY } from '../../core/time/civil'
import { DELETION_SECONDS } from '../../core/workspace'
import { changeBooking } from '../changes'
import { type Context, dateOf } from '../context'
import { bookings, sessions, workspaces } from '../database/schema'
import { deleteWorkspaceRows } from './delete-rows'

/** Deletes workspaces whose 30 days are over: first what is still to come is cancelled and everybody told, then all goes. */

/** What could not be sent or withdrawn by then is given up. */
const GRACE = 2 * DAY

export async function deleteDueWorkspaces(context: Context): Promise<void> {
  const due = await context.db.select({ id: workspaces.id, askedAt: workspaces.deletionAskedAt }).from(workspaces)
    .where(lte(workspaces.deletionAskedAt, dateOf(context.now() - DELETION_SECONDS)))
  for (const { id, askedAt } of due) {
    await cancelToCome(context, id)
    const givesUp = askedAt !== null && askedAt <= dateOf(context.now() - DELETION_SECONDS - GRACE)
    if (givesUp || !await isUnderWay(context, id)) await deleteDue(context, id)
  }
}

async function cancelToCome(context: Context, workspaceId: string): Promise<void> {
  const [workspace] = await context.db.select({ name: workspaces.name }).from(workspaces).where(eq(workspaces.id, workspaceId))
  const open = await context.db.select({ id: bookings.id, state: bookings.state }).from(bookings)
    .innerJoin(sessions, and(eq(sessions.workspaceId, bookings.workspaceId), eq(sessions.id, bookings.sessionId)))
    .where(and(
      eq(bookings.workspaceId, workspaceId), gt(sessions.endsAt, dateOf(context.now())),
      inArray(bookings.state, expectedStates),
    ))
    .orderBy(asc(bookings.createdAt))
  const by = { kind: 'system' as const, name: workspace?.name ?? '' }
  for (const { id, state } of open) await changeBooking(context, workspaceId, id, state === 'awaitingApproval' ? 'declined' : 'cancelled', by)
}

/** Whether mails are still to go out, or rooms to be made or withdrawn. */
async function isUnderWay({ db }: Context, workspaceId: string): Promise<boolean> {
  const { rows } = await db.execute(sql`
    select 1 from graphile_worker.jobs where key like ${`%:${workspaceId}:%`} and attempts < max_attempts limit 1`)
  return rows.length > 0
}

/** Unless an owner has kept it at the last moment. */
async function deleteDue({ db, now }: Context, workspaceId: string): Promise<void> {
  await db.transaction(async (tx) => {
    const [workspace] = await tx.select({ id: workspaces.id }).from(workspaces)
      .where(and(eq(workspaces.id, workspaceId), lte(workspaces.deletionAskedAt, dateOf(now() - DELETION_SECONDS)))).for('update')
    if (workspace) await deleteWorkspaceRows(tx, workspaceId)
  })
}
