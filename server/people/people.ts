import { and, asc, eq, isNull, sql } from 'drizzle-orm'
import type { MemberRole, PeopleView, SignedIn, WorkspaceChoice } from '../../core/views/desk'
import { type Context, secondsOf } from '../context'
import { members } from '../database/schema'
import { membershipsOf } from './accounts'
import { createHost, viewHosts } from './hosts'
import { lockOwners } from './leave'
import { loadMember } from './members'

/** Who belongs to a workspace, and what they may do in it. */

/** Members and hosts, and invitations that wait. */
export async function viewPeople({ db, now }: Context, { workspaceId, memberId }: SignedIn): Promise<PeopleView> {
  const rows = await db.select().from(members)
    .where(and(eq(members.workspaceId, workspaceId), isNull(members.withdrawnAt))).orderBy(asc(sql`lower(${members.name})`))
  const details = await viewHosts(db, workspaceId, now())
  const joined = rows.filter(member => member.accountId !== null)
  const hostOf = (member: { id: string }) => details.find(host => host.memberId === member.id)?.host ?? null
  return {
    now: now(),
    people: [
      ...joined.map(member => ({
        name: member.name, email: member.email, timeZone: member.timeZone,
        member: { id: member.id, role: member.role, own: member.id === memberId }, host: hostOf(member),
      })),
      ...details.filter(host => !joined.some(member => member.id === host.memberId))
        .map(({ name, email, timeZone, host }) => ({ name, email, timeZone, member: null, host })),
    ],
    invitations: rows.filter(member => member.accountId === null).map(member => ({
      id: member.id, name: member.name, email: member.email, role: member.role, hosts: member.invitedToHost,
      by: member.invitedBy ?? '', until: member.invitedUntil ? secondsOf(member.invitedUntil) : 0,
    })),
  }
}

export type RoleOutcome = 'changed' | 'notFound' | 'lastOwner'

/** Gives a member another role. A workspace always has an owner. */
export async function changeRole({ db }: Context, workspaceId: string, id: string, role: MemberRole): Promise<RoleOutcome> {
  return db.transaction(async (tx) => {
    const owners = await lockOwners(tx, workspaceId)
    if (role !== 'owner' && owners.length === 1 && owners[0]?.id === id) return 'lastOwner'
    const changed = await tx.update(members).set({ role })
      .where(and(eq(members.workspaceId, workspaceId), eq(members.id, id), isNull(members.withdrawnAt))).returning({ id: members.id })
    return changed.length > 0 ? 'changed' : 'notFound'
  })
}

/** A host who does not sign in, say a colleague whose times others look after. */
export function addHost({ db }: Context, workspaceId: string, host: { name: string, email: string, timeZone: string }): Promise<string> {
  return db.transaction(tx => createHost(tx, { workspaceId, ...host, email: host.email.toLowerCase() }))
}

/** The workspaces of whoever is signed in. */
export async function listWorkspaces({ db }: Context, { workspaceId, memberId }: SignedIn): Promise<WorkspaceChoice[]> {
  const accountId = await accountIdOf(db, workspaceId, memberId)
  const places = accountId ? await membershipsOf(db, accountId) : []
  return places.map(place => ({ id: place.workspaceId, slug: place.slug, name: place.name, current: place.workspaceId === workspaceId }))
}

/** The same person as a member of another workspace; null where they are none. */
export async function memberIn({ db }: Context, { workspaceId, memberId }: SignedIn, other: string): Promise<SignedIn | null> {
  const accountId = await accountIdOf(db, workspaceId, memberId)
  const place = (accountId ? await membershipsOf(db, accountId) : []).find(candidate => candidate.workspaceId === other)
  return place ? loadMember(db, place.workspaceId, place.memberId) : null
}

async function accountIdOf(db: Context['db'], workspaceId: string, memberId: string): Promise<string | null> {
  const [row] = await db.select({ id: members.accountId }).from(members)
    .where(and(eq(members.workspaceId, workspaceId), eq(members.id, memberId)))
  return row?.id ?? null
}
