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
export async function viewPeople({ db, now }: Context, member: SignedIn): Promise<PeopleView> {
  const { workspaceId, memberId } = member
  const rows = await db.select().from(members)
    .where(and(eq(members.workspaceId, workspaceId), isNull(members.withdrawnAt))).orderBy(asc(sql`lower(${members.name})`))
  const details = await viewHosts(db, member, now())
  const joined = rows.filter(row => row.accountId !== null)
  const hostOf = ({ id }: { id: string }) => details.find(host => host.memberId === id)?.host ?? null
  return {
    now: now(),
    people: [
      ...joined.map(row => ({
        name: row.name, email: row.email, timeZone: row.timeZone,
        member: { id: row.id, role: row.role, own: row.id === memberId }, host: hostOf(row),
      })),
      ...details.filter(host => !joined.some(row => row.id === host.memberId))
        .map(({ name, email, timeZone, host }) => ({ name, email, timeZone, member: null, host })),
    ],
    invitations: rows.filter(row => row.accountId === null).map(row => ({
      id: row.id, name: row.name, email: row.email, role: row.role, hosts: row.invitedToHost,
      by: row.invitedBy ?? '', until: row.invitedUntil ? secondsOf(row.invitedUntil) : 0,
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
