import { and, asc, eq, gt } from 'drizzle-orm'
import type { Fault } from '../../core/validation'
import type { SignedIn } from '../../core/views/desk'
import { applyAccountChange } from '../changes'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { accounts, deliveries, members, workspaces } from '../database/schema'
import { readPasswordResetToken, tokensMatch, passwordResetToken } from '../secrets'
import { accountsOf, firstMembership, hashPassword } from './accounts'
import { passwordFault } from './password'
import { endSessionsOf } from './sessions'

/** A forgotten password: a link goes to the person's address, and whoever follows it chooses a new one. */

/** One mail in this time, however often it is asked for: the earlier ones still work. Seconds. */
const MAIL_EVERY = 300

/** Mails a link to the person with this address, if there is one; nobody who asks learns which. */
export async function requestPasswordReset(context: Context, email: string): Promise<void> {
  const { db, now } = context
  const [account] = await accountsOf(db, email, 1)
  if (!account) return
  await db.transaction(async (tx) => {
    // Two requests at once would both find no earlier mail.
    await tx.select({ id: accounts.id }).from(accounts).where(eq(accounts.id, account.id)).for('update')
    const [member] = await tx.select().from(members).where(eq(members.accountId, account.id)).orderBy(asc(members.workspaceId)).limit(1)
    if (!member) return
    const recent = await tx.select({ id: deliveries.id }).from(deliveries).where(and(
      eq(deliveries.workspaceId, member.workspaceId),
      eq(deliveries.memberId, member.id),
      eq(deliveries.occasion, 'resetPassword'),
      gt(deliveries.createdAt, dateOf(now() - MAIL_EVERY)),
    )).limit(1)
    if (recent.length === 0) await applyAccountChange(context, tx, member, 'passwordForgotten', account.confirmedAt !== null)
  })
}

/** `member` is null where a second factor is to be given before anybody is signed in. */
export type ResetOutcome = { kind: 'reset', email: string, member: SignedIn | null } | { kind: 'notFound' } | { kind: 'weak', fault: Fault }

/** Sets a new password by the mailed token and ends all sessions of the person. */
export async function resetPassword(context: Context, token: string, password: string): Promise<ResetOutcome> {
  const read = readPasswordResetToken(token)
  if (!read || read.expiresAt <= context.now()) return { kind: 'notFound' }
  const [account] = await context.db.select().from(accounts).where(eq(accounts.id, read.accountId))
  if (!account || !tokensMatch(passwordResetToken(context.settings.secret, account, read.expiresAt), token)) return { kind: 'notFound' }
  const fault = passwordFault(password, { email: account.email, others: await namesAround(context.db, account.id) })
  if (fault) return { kind: 'weak', fault }
  const passwordHash = await hashPassword(password)
  const changed = await context.db.transaction(async (tx) => {
    // The token was made over the earlier hash, so it works once.
    const updated = await tx.update(accounts).set({ passwordHash })
      .where(and(eq(accounts.id, account.id), eq(accounts.passwordHash, account.passwordHash))).returning({ id: accounts.id })
    if (updated.length > 0) await endSessionsOf(tx, account.id)
    return updated.length > 0
  })
  if (!changed) return { kind: 'notFound' }
  const member = account.secondFactorSince === null ? await firstMembership(context.db, account.id) : null
  return { kind: 'reset', email: account.email, member }
}

/** What others know of a person: their names and their businesses. */
async function namesAround(db: Database, accountId: string): Promise<string[]> {
  const rows = await db.select({ member: members.name, workspace: workspaces.name }).from(members)
    .innerJoin(workspaces, eq(workspaces.id, members.workspaceId)).where(eq(members.accountId, accountId))
  return rows.flatMap(({ member, workspace }) => [member, workspace])
}
