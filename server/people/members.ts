import { hash, verify } from '@node-rs/argon2'
import { and, eq } from 'drizzle-orm'
import type { SignedIn } from '../../core/views/desk'
import type { Database } from '../database/connection'
import { members, workspaces } from '../database/schema'

export function hashPassword(password: string): Promise<string> {
  return hash(password)
}

/** Checked against when nobody has the address, so that an unknown address takes as long as a wrong password. */
const nobody = hash('nobody has this password')

/** The member whose address and password these are, or null. */
export async function signIn(db: Database, email: string, password: string): Promise<SignedIn | null> {
  const [member] = await db.select().from(members).where(eq(members.email, email.trim().toLowerCase()))
  const right = await verify(member?.passwordHash ?? await nobody, password)
  return member && right ? loadMember(db, member.workspaceId, member.id) : null
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
    role: member.role,
    timeZone: member.timeZone,
    workspace: { slug: workspace.slug, name: workspace.name },
  }
}
