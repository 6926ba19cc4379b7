import { and, eq } from 'drizzle-orm'
import { renderAccountMessage } from '../../core/messages'
import { passwordResetSeconds } from '../../core/account/changes'
import { type AccountOccasion, accountOccasions } from '../../core/messages/occasions'
import { type Context, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { type deliveries, members, workspaces } from '../database/schema'
import type { Mail } from '../ports/mail'
import { confirmationToken, passwordResetToken } from '../secrets'

/** The mail of one delivery to a member about their own account, or null where it is no longer of use. */
export async function composeAccountMail(context: Context, db: Database, delivery: typeof deliveries.$inferSelect): Promise<Mail | null> {
  const occasion = accountOccasions.find(candidate => candidate === delivery.occasion)
  const [found] = await db.select({ member: members, workspace: workspaces.name }).from(members)
    .innerJoin(workspaces, eq(workspaces.id, members.workspaceId))
    .where(and(eq(members.workspaceId, delivery.workspaceId), eq(members.id, delivery.memberId ?? '')))
  if (!occasion || !found || (occasion === 'confirmAddress' && found.member.confirmedAt)) return null
  const { baseUrl, secret, mailFrom } = context.settings
  const links: Record<AccountOccasion, () => string> = {
    confirmAddress: () => `/desk/confirm?token=${confirmationToken(secret, found.member)}`,
    addressKnown: () => '/desk/sign-in',
    resetPassword: () =>
      `/desk/new-password?token=${passwordResetToken(secret, found.member, secondsOf(delivery.createdAt) + passwordResetSeconds)}`,
  }
  const link = `${baseUrl}${links[occasion]()}`
  return {
    messageId: delivery.messageId,
    from: { name: 'Temporia', address: mailFrom },
    to: { name: '', address: delivery.address },
    replyTo: null,
    ...renderAccountMessage(occasion, { workspace: found.workspace, link }),
    calendar: null,
  }
}
