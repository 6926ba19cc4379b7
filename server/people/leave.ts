import { and, asc, eq, isNotNull, isNull, notExists } from 'drizzle-orm'
import { type Context, dateOf } from '../context'
import { disconnectHost } from '../calendar-sync'
import type { Database } from '../database/connection'
import { accounts, eventTypeDrafts, hosts, members, memberSessions } from '../database/schema'
import { takeHostOut } from '../event-types'
import { deletePicture } from './pictures'

/** Leaving a workspace. What is past stays as it was; sessions to come are to be handed over before. */

export type LeaveOutcome = { kind: 'left', closed: string[] } | { kind: 'notFound' } | { kind: 'lastOwner' }

/** Takes a member out of the workspace, with the host they are in it, if any. The last owner cannot go. */
export async function removeMember({ db, now }: Context, workspaceId: string, id: string, by: string): Promise<LeaveOutcome> {
  return db.transaction(async (tx) => {
    const owners = await lockOwners(tx, workspaceId)
    if (owners.length === 1 && owners[0]?.id === id) return { kind: 'lastOwner' }
    const isIt = and(eq(members.workspaceId, workspaceId), eq(members.id, id))
    const [member] = await tx.select().from(members).where(and(isIt, isNotNull(members.accountId))).for('update')
    if (!member) return { kind: 'notFound' }
    const at = dateOf(now())
    const [host] = await tx.select({ id: hosts.id }).from(hosts).where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.memberId, id)))
    const closed = host ? await leaveAsHost(tx, workspaceId, host.id, by, at) : []
    await tx.delete(memberSessions).where(and(eq(memberSessions.workspaceId, workspaceId), eq(memberSessions.memberId, id)))
    await tx.delete(eventTypeDrafts).where(and(eq(eventTypeDrafts.workspaceId, workspaceId), eq(eventTypeDrafts.memberId, id)))
    await tx.update(members).set({ accountId: null, withdrawnAt: at }).where(isIt)
    // Whoever belongs to no workspace any more can begin anew with the same address.
    if (member.accountId) {
      await tx.delete(accounts).where(and(
        eq(accounts.id, member.accountId),
        notExists(tx.select({ id: members.id }).from(members).where(eq(members.accountId, accounts.id))),
      ))
    }
    return { kind: 'left', closed }
  })
}

/** Takes a host out who does not sign in. */
export async function removeHost({ db, now }: Context, workspaceId: string, id: string, by: string): Promise<LeaveOutcome> {
  return db.transaction(async (tx) => {
    const [host] = await tx.select({ id: hosts.id }).from(hosts)
      .where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.id, id), isNull(hosts.memberId), isNull(hosts.leftAt))).for('update')
    return host ? { kind: 'left', closed: await leaveAsHost(tx, workspaceId, id, by, dateOf(now())) } : { kind: 'notFound' }
  })
}

async function leaveAsHost(tx: Database, workspaceId: string, id: string, by: string, at: Date): Promise<string[]> {
  const closed = await takeHostOut(tx, workspaceId, id, by, at)
  await disconnectHost(tx, workspaceId, id)
  await deletePicture(tx, workspaceId, id)
  await tx.update(hosts).set({ leftAt: at.toISOString(), memberId: null, slug: null })
    .where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.id, id)))
  return closed
}

/** The owners, locked: of two who go at once, the second waits here and then finds itself the last. */
export async function lockOwners(tx: Database, workspaceId: string): Promise<{ id: string }[]> {
  return tx.select({ id: members.id }).from(members)
    .where(and(eq(members.workspaceId, workspaceId), eq(members.role, 'owner'), isNotNull(members.accountId)))
    .orderBy(asc(members.id)).for('update')
}
