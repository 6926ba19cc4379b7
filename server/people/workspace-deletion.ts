import { and, eq, isNotNull, isNull } from 'drizzle-orm'
import type { SignedIn } from '../../core/views/desk'
import { applyAccountChange } from '../changes'
import { type Context, dateOf } from '../context'
import { accounts, members, workspaces } from '../database/schema'
import { isOwnPassword } from './accounts'

/** The deletion of a workspace: asked for by an owner, done after 30 days, and taken back by any owner until then. */

export type DeletionOutcome = 'asked' | 'wrongPassword' | 'wrongAddress'

/** From now on nobody books; all members are told by mail. Asking again changes nothing. */
export async function askForDeletion(
  context: Context, member: SignedIn, { slug, password }: { slug: string, password: string },
): Promise<DeletionOutcome> {
  if (slug !== member.workspace.slug) return 'wrongAddress'
  if (!await isOwnPassword(context.db, member, password)) return 'wrongPassword'
  await context.db.transaction(async (tx) => {
    const asked = await tx.update(workspaces).set({ deletionAskedAt: dateOf(context.now()), deletionAskedBy: member.name })
      .where(and(eq(workspaces.id, member.workspaceId), isNull(workspaces.deletionAskedAt))).returning({ id: workspaces.id })
    if (asked.length === 0) return
    const people = await tx.select({ workspaceId: members.workspaceId, id: members.id, name: members.name, email: accounts.email })
      .from(members).innerJoin(accounts, eq(accounts.id, members.accountId))
      .where(and(eq(members.workspaceId, member.workspaceId), isNotNull(accounts.confirmedAt)))
    for (const person of people) await applyAccountChange(context, tx, person, 'deletionAsked', true, member.name)
  })
  return 'asked'
}

/** Takes it back. */
export async function keepWorkspace({ db }: Context, workspaceId: string): Promise<void> {
  await db.update(workspaces).set({ deletionAskedAt: null, deletionAskedBy: null }).where(eq(workspaces.id, workspaceId))
}
