import { and, eq, isNull } from 'drizzle-orm'
import type { Context } from '../context'
import { sessions, workspaces } from '../database/schema'
import { deleteWorkspaceRows } from './delete-rows'

/** Deletes a workspace that nobody confirmed, with all that was entered in it. One that is confirmed or has sessions stays. */
export async function deleteUnconfirmed({ db }: Pick<Context, 'db'>, workspaceId: string): Promise<void> {
  await db.transaction(async (tx) => {
    const [workspace] = await tx
      .select({ id: workspaces.id })
      .from(workspaces)
      .where(and(eq(workspaces.id, workspaceId), isNull(workspaces.confirmedAt)))
      .for('update')
    const [session] = await tx.select({ id: sessions.id }).from(sessions).where(eq(sessions.workspaceId, workspaceId)).limit(1)
    if (workspace && !session) await deleteWorkspaceRows(tx, workspaceId)
  })
}
