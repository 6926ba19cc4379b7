import { and, eq } from 'drizzle-orm'
import { reachOf } from '../../core/account/rights'
import type { ClockFace } from '../../core/time/format'
import type { SignedIn } from '../../core/views/desk'
import { DELETION_SECONDS } from '../../core/workspace'
import { type Context, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { accounts, members, workspaces } from '../database/schema'

/** Changes what a member has set for themselves. */
export async function updateMember(
  { db }: Context,
  { workspaceId, memberId }: SignedIn,
  settings: { timeZone: string, clock: ClockFace | null, phone?: string | null | undefined },
): Promise<SignedIn | null> {
  await db.update(members).set(settings).where(and(eq(members.workspaceId, workspaceId), eq(members.id, memberId)))
  return loadMember(db, workspaceId, memberId)
}

/** A person in a workspace; null for whoever has not accepted their invitation. */
export async function loadMember(db: Database, workspaceId: string, memberId: string): Promise<SignedIn | null> {
  const [found] = await db.select().from(members)
    .innerJoin(accounts, eq(accounts.id, members.accountId))
    .innerJoin(workspaces, eq(workspaces.id, members.workspaceId))
    .where(and(eq(members.workspaceId, workspaceId), eq(members.id, memberId)))
  if (!found) return null
  const { members: member, accounts: account, workspaces: workspace } = found
  return {
    workspaceId,
    memberId,
    name: member.name,
    email: account.email,
    confirmed: account.confirmedAt !== null,
    role: member.role,
    reach: reachOf(member.role, workspace.hostReach),
    timeZone: member.timeZone,
    clock: member.clock,
    phone: member.phone,
    workspace: {
      slug: workspace.slug,
      name: workspace.name,
      deletedAt: workspace.deletionAskedAt && secondsOf(workspace.deletionAskedAt) + DELETION_SECONDS,
    },
  }
}
