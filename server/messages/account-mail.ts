import { and, eq } from 'drizzle-orm'
import { renderAccountMessage } from '../../core/messages'
import { passwordResetSeconds } from '../../core/account/changes'
import { type AccountOccasion, accountOccasions } from '../../core/messages/occasions'
import { englishLocale, formatDay } from '../../core/time/format'
import { DELETION_SECONDS } from '../../core/workspace'
import { type Context, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { accounts, changes, type deliveries, members, workspaces } from '../database/schema'
import type { Mail } from '../ports/mail'
import { addressChangeToken, confirmationToken, invitationToken, passwordResetToken } from '../secrets'

/** Who made the change that a delivery tells of. */
async function askedBy(db: Database, { workspaceId, changeId }: typeof deliveries.$inferSelect): Promise<string | null> {
  const [change] = await db.select({ name: changes.actorName }).from(changes)
    .where(and(eq(changes.workspaceId, workspaceId), eq(changes.id, changeId ?? '')))
  return change?.name ?? null
}

/** The mail of one delivery to a member about their own account, or null where it is no longer of use. */
export async function composeAccountMail(context: Context, db: Database, delivery: typeof deliveries.$inferSelect): Promise<Mail | null> {
  const occasion = accountOccasions.find(candidate => candidate === delivery.occasion)
  const [found] = await db.select({ member: members, account: accounts, workspace: workspaces }).from(members)
    .innerJoin(workspaces, eq(workspaces.id, members.workspaceId))
    .leftJoin(accounts, eq(accounts.id, members.accountId))
    .where(and(eq(members.workspaceId, delivery.workspaceId), eq(members.id, delivery.memberId ?? '')))
  if (!occasion || !found) return null
  const { member, account, workspace } = found
  const { baseUrl, secret, mailFrom } = context.settings
  const links: Record<AccountOccasion, () => string | null> = {
    confirmAddress: () => account && !account.confirmedAt ? `/desk/confirm?token=${confirmationToken(secret, account)}` : null,
    addressKnown: () => '/desk/sign-in',
    resetPassword: () => account
      && `/desk/new-password?token=${passwordResetToken(secret, account, secondsOf(delivery.createdAt) + passwordResetSeconds)}`,
    oldAddress: () => account?.newEmail ? `/desk/change-address?token=${addressChangeToken(secret, account, 'old')}` : null,
    newAddress: () => account?.newEmail ? `/desk/change-address?token=${addressChangeToken(secret, account, 'new')}` : null,
    deletionAsked: () => workspace.deletionAskedAt ? '/desk/workspace' : null,
    connectionAsked: () => account && !member.withdrawnAt ? '/desk/connections' : null,
    invited: () => account || member.withdrawnAt ? null : `/desk/invitation?token=${invitationToken(secret, member)}`,
  }
  const path = links[occasion]()
  if (path === null) return null
  const link = `${baseUrl}${path}`
  return {
    messageId: delivery.messageId,
    from: { name: 'Temporia', address: mailFrom },
    to: { name: '', address: delivery.address },
    replyTo: null,
    ...renderAccountMessage(occasion, {
      workspace: workspace.name,
      by: (occasion === 'deletionAsked' ? workspace.deletionAskedBy : occasion === 'connectionAsked' ? await askedBy(db, delivery) : member.invitedBy) ?? '',
      day: workspace.deletionAskedAt
        ? formatDay(secondsOf(workspace.deletionAskedAt) + DELETION_SECONDS, member.timeZone, englishLocale(undefined)) : '',
      link,
    }),
    calendar: null,
  }
}
