import { and, eq, inArray, isNull, notExists } from 'drizzle-orm'
import type { Context } from '../context'
import {
  accounts,
  changes,
  chairGroups,
  chairHosts,
  chairs,
  deliveries,
  eventTypeAddresses,
  eventTypeDrafts,
  eventTypes,
  eventTypeVersions,
  groupHosts,
  hostGroups,
  hosts,
  hoursPlans,
  memberSessions,
  members,
  questionSets,
  sessions,
  videoAccounts,
  workspaceAddresses,
  workspaces,
} from '../database/schema'

/** Deletes a workspace that nobody confirmed, with all that was entered in it. One that is confirmed or has sessions stays. */
export async function deleteUnconfirmed({ db }: Pick<Context, 'db'>, workspaceId: string): Promise<void> {
  await db.transaction(async (tx) => {
    const [workspace] = await tx
      .select({ id: workspaces.id })
      .from(workspaces)
      .where(and(eq(workspaces.id, workspaceId), isNull(workspaces.confirmedAt)))
      .for('update')
    const [session] = await tx.select({ id: sessions.id }).from(sessions).where(eq(sessions.workspaceId, workspaceId)).limit(1)
    if (!workspace || session) return
    const people = await tx.select({ accountId: members.accountId }).from(members).where(eq(members.workspaceId, workspaceId))
    for (const table of [
      deliveries,
      changes,
      memberSessions,
      eventTypeDrafts,
      eventTypeVersions,
      eventTypeAddresses,
      chairGroups,
      chairHosts,
      chairs,
      eventTypes,
      questionSets,
      groupHosts,
      hostGroups,
      videoAccounts,
      hoursPlans,
      hosts,
      members,
      workspaceAddresses,
    ])
      await tx.delete(table).where(eq(table.workspaceId, workspaceId))
    await tx.delete(accounts).where(and(
      inArray(accounts.id, people.flatMap(({ accountId }) => accountId ?? [])),
      notExists(tx.select({ id: members.id }).from(members).where(eq(members.accountId, accounts.id))),
    ))
    await tx.delete(workspaces).where(eq(workspaces.id, workspaceId))
  })
}
