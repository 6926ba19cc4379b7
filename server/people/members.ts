import { hash, verify } from '@node-rs/argon2'
import { and, desc, eq, sql } from 'drizzle-orm'
import type { ClockFace } from '../../core/time/format'
import type { SignedIn } from '../../core/views/desk'
import type { Context } from '../context'
import type { Database } from '../database/connection'
import { members, workspaces } from '../database/schema'

export function hashPassword(password: string): Promise<string> {
  return hash(password)
}

/** Checked against when nobody has the address, so that an unknown address takes as long as a wrong password. */
const nobody = hash('nobody has this password')

/** Unconfirmed sign-ups with one address that a password is tried for. */
const MOST_UNCONFIRMED = 3

/** The member whose address and password these are, or null. A confirmed member comes before those who only say so. */
export async function signIn(db: Database, email: string, password: string): Promise<SignedIn | null> {
  const found = await db.select().from(members)
    .innerJoin(workspaces, eq(workspaces.id, members.workspaceId))
    .where(eq(members.email, email.trim().toLowerCase()))
    .orderBy(sql`${members.confirmedAt} is null`, desc(workspaces.createdAt)).limit(MOST_UNCONFIRMED)
  if (found.length === 0) await verify(await nobody, password)
  for (const { members: member } of found) {
    if (await verify(member.passwordHash, password)) return loadMember(db, member.workspaceId, member.id)
  }
  return null
}

/** Changes what a member has set for themselves. */
export async function updateMember(
  { db }: Context,
  { workspaceId, memberId }: SignedIn,
  settings: { timeZone: string, clock: ClockFace | null },
): Promise<SignedIn | null> {
  await db.update(members).set(settings).where(and(eq(members.workspaceId, workspaceId), eq(members.id, memberId)))
  return loadMember(db, workspaceId, memberId)
}

export async function loadMember(db: Database, workspaceId: string, memberId: string): Promise<SignedIn | null> {
  const [found] = await db.select().from(members)
    .innerJoin(workspaces, eq(workspaces.id, members.workspaceId))
    .where(and(eq(members.workspaceId, workspaceId), eq(members.id, memberId)))
  if (!found) return null
  const { members: member, workspaces: workspace } = found
  return {
    workspaceId,
    memberId,
    name: member.name,
    email: member.email,
    confirmed: member.confirmedAt !== null,
    role: member.role,
    timeZone: member.timeZone,
    clock: member.clock,
    workspace: { slug: workspace.slug, name: workspace.name },
  }
}
