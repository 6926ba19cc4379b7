import { randomBytes } from 'node:crypto'
import { and, eq, gt } from 'drizzle-orm'
import type { SignedIn } from '../../core/views/desk'
import { type Context, dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { members, memberSessions } from '../database/schema'
import { hashToken } from '../secrets'
import { loadMember } from './members'

/** Where a member is signed in: a row that sign-out, a changed password or the member's removal can end. */

/** What the sealed cookie holds. */
export interface SessionCookie {
  workspaceId: string
  id: string
}

export const SESSION_SECONDS = 14 * 24 * 3600
/** Last seen is written no more often than this. */
const SEEN_EVERY = 300

export async function startSession(
  context: Context,
  member: Pick<SignedIn, 'workspaceId' | 'memberId'>,
  device: string,
): Promise<SessionCookie> {
  const id = randomBytes(32).toString('base64url')
  const now = context.now()
  await context.db.insert(memberSessions).values({
    workspaceId: member.workspaceId,
    memberId: member.memberId,
    idHash: hashToken(id),
    device,
    createdAt: dateOf(now),
    lastSeenAt: dateOf(now),
    expiresAt: dateOf(now + SESSION_SECONDS),
  })
  return { workspaceId: member.workspaceId, id }
}

/** The member who is signed in by a cookie, or null where its session has ended. */
export async function memberOfSession(context: Context, cookie: SessionCookie): Promise<SignedIn | null> {
  const now = context.now()
  const [found] = await context.db.select().from(memberSessions).where(and(isSession(cookie), gt(memberSessions.expiresAt, dateOf(now))))
  if (!found) return null
  if (secondsOf(found.lastSeenAt) < now - SEEN_EVERY)
    await context.db
      .update(memberSessions)
      .set({ lastSeenAt: dateOf(now) })
      .where(isSession(cookie))
  return loadMember(context.db, found.workspaceId, found.memberId)
}

export async function endSession({ db }: Context, cookie: SessionCookie): Promise<void> {
  await db.delete(memberSessions).where(isSession(cookie))
}

/** Ends all sessions of a person, in whatever workspace, for a changed password. */
export async function endSessionsOf(db: Database, accountId: string): Promise<void> {
  const places = await db.select({ workspaceId: members.workspaceId, id: members.id }).from(members).where(eq(members.accountId, accountId))
  for (const { workspaceId, id } of places)
    await db.delete(memberSessions).where(and(eq(memberSessions.workspaceId, workspaceId), eq(memberSessions.memberId, id)))
}

function isSession({ workspaceId, id }: SessionCookie) {
  return and(eq(memberSessions.workspaceId, workspaceId), eq(memberSessions.idHash, hashToken(id)))
}
