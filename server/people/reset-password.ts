import { and, desc, eq, gt, sql } from 'drizzle-orm'
import type { Fault } from '../../core/validation'
import type { SignedIn } from '../../core/views/desk'
import { applyAccountChange } from '../changes'
import { type Context, dateOf } from '../context'
import { deliveries, members, workspaces } from '../database/schema'
import { readPasswordResetToken, tokensMatch, passwordResetToken } from '../secrets'
import { hashPassword, loadMember } from './members'
import { passwordFault } from './password'
import { endSessionsOf } from './sessions'

/** A forgotten password: a link goes to the member's address, and whoever follows it chooses a new one. */

/** One mail in this time, however often it is asked for: the earlier ones still work. Seconds. */
const MAIL_EVERY = 300

/** Mails a link to the member with this address, if there is one; nobody who asks learns which. */
export async function requestPasswordReset(context: Context, email: string): Promise<void> {
  const { db, now } = context
  const [member] = await db.select({ member: members }).from(members)
    .innerJoin(workspaces, eq(workspaces.id, members.workspaceId))
    .where(eq(members.email, email.trim().toLowerCase()))
    .orderBy(sql`${members.confirmedAt} is null`, desc(workspaces.createdAt)).limit(1)
  if (!member) return
  const { workspaceId, id } = member.member
  await db.transaction(async (tx) => {
    // Two requests at once would both find no earlier mail.
    await tx.select({ id: members.id }).from(members).where(and(eq(members.workspaceId, workspaceId), eq(members.id, id))).for('update')
    const recent = await tx.select({ id: deliveries.id }).from(deliveries).where(and(
      eq(deliveries.workspaceId, workspaceId),
      eq(deliveries.memberId, id),
      eq(deliveries.occasion, 'resetPassword'),
      gt(deliveries.createdAt, dateOf(now() - MAIL_EVERY)),
    )).limit(1)
    if (recent.length === 0) await applyAccountChange(context, tx, member.member, 'passwordForgotten', member.member.confirmedAt !== null)
  })
}

export type ResetOutcome = { kind: 'reset', member: SignedIn } | { kind: 'notFound' } | { kind: 'weak', fault: Fault }

/** Sets a new password by the mailed token and ends all sessions of the member. */
export async function resetPassword(context: Context, token: string, password: string): Promise<ResetOutcome> {
  const read = readPasswordResetToken(token)
  if (!read || read.expiresAt <= context.now()) return { kind: 'notFound' }
  const { workspaceId } = read
  const found = await context.db.select({ member: members, workspace: workspaces.name }).from(members)
    .innerJoin(workspaces, eq(workspaces.id, members.workspaceId))
    .where(eq(members.workspaceId, workspaceId))
  const row = found.find(({ member }) => tokensMatch(passwordResetToken(context.settings.secret, member, read.expiresAt), token))
  if (!row) return { kind: 'notFound' }
  const { member, workspace } = row
  const fault = passwordFault(password, { email: member.email, others: [workspace, member.name] })
  if (fault) return { kind: 'weak', fault }
  const passwordHash = await hashPassword(password)
  const changed = await context.db.transaction(async (tx) => {
    // The token was made over the earlier hash, so it works once.
    const updated = await tx.update(members).set({ passwordHash })
      .where(and(eq(members.workspaceId, workspaceId), eq(members.id, member.id), eq(members.passwordHash, member.passwordHash)))
      .returning({ id: members.id })
    if (updated.length > 0) await endSessionsOf(tx, workspaceId, member.id)
    return updated.length > 0
  })
  const signedIn = changed ? await loadMember(context.db, workspaceId, member.id) : null
  return signedIn ? { kind: 'reset', member: signedIn } : { kind: 'notFound' }
}
