import { and, desc, eq, gt, inArray, ne } from 'drizzle-orm'
import type { Device, SignedIn } from '../../core/views/desk'
import { type Context, dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { members, memberSessions, workspaces } from '../database/schema'
import { hashToken } from '../secrets'
import type { SessionCookie } from './sessions'

/** Where a person is signed in, in all of their workspaces. */

export async function listDevices({ db, now }: Context, member: SignedIn, current: SessionCookie): Promise<Device[]> {
  const rows = await db.select({ session: memberSessions, workspace: workspaces.name }).from(memberSessions)
    .innerJoin(workspaces, eq(workspaces.id, memberSessions.workspaceId))
    .where(and(ofPerson(db, member), gt(memberSessions.expiresAt, dateOf(now()))))
    .orderBy(desc(memberSessions.lastSeenAt))
  return rows.map(({ session, workspace }) => ({
    id: session.idHash,
    device: session.device,
    workspace,
    since: secondsOf(session.createdAt),
    lastSeen: secondsOf(session.lastSeenAt),
    current: session.idHash === hashToken(current.id),
  }))
}

/** Ends one session of the person; false where it is none of theirs. */
export async function endDevice({ db }: Context, member: SignedIn, id: string): Promise<boolean> {
  const ended = await db.delete(memberSessions).where(and(ofPerson(db, member), eq(memberSessions.idHash, id)))
    .returning({ id: memberSessions.idHash })
  return ended.length > 0
}

/** Ends all sessions of the person but the one that asks. */
export async function endOtherDevices({ db }: Context, member: SignedIn, current: SessionCookie): Promise<void> {
  await db.delete(memberSessions).where(and(ofPerson(db, member), ne(memberSessions.idHash, hashToken(current.id))))
}

/** Sessions of the same person, whichever workspace they have entered. */
function ofPerson(db: Database, { workspaceId, memberId }: SignedIn) {
  const own = db.select({ id: members.accountId }).from(members).where(and(eq(members.workspaceId, workspaceId), eq(members.id, memberId)))
  return inArray(memberSessions.memberId, db.select({ id: members.id }).from(members).where(inArray(members.accountId, own)))
}
