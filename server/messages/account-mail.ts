import { and, eq } from 'drizzle-orm'
import { renderAccountMessage } from '../../core/messages'
import { type AccountOccasion, accountOccasions } from '../../core/messages/occasions'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { deliveries, members, workspaces } from '../database/schema'
import { planJob } from '../jobs/queue'
import type { Mail } from '../ports/mail'
import { confirmationToken } from '../secrets'

/** Mails to a member about their own account, on the same way out as those about bookings. */

/** Plans a mail to a member. Run it in the transaction of its cause. */
export async function planAccountMail(db: Database, context: Context, member: { workspaceId: string, id: string, name: string, email: string }, occasion: AccountOccasion): Promise<void> {
  const { workspaceId } = member
  const domain = context.settings.mailFrom.split('@')[1] ?? 'localhost'
  const [planned] = await db.insert(deliveries).values({
    workspaceId, memberId: member.id, occasion, audience: 'member', name: member.name, address: member.email,
    messageId: `<${member.id}.${occasion}.${context.now()}@${domain}>`, createdAt: dateOf(context.now()),
  }).returning({ id: deliveries.id })
  if (planned) await planJob(db, 'deliver', { workspaceId, id: planned.id }, context.now())
}

/** The mail of one delivery to a member, or null where it is no longer of use. */
export async function composeAccountMail(context: Context, db: Database, delivery: typeof deliveries.$inferSelect): Promise<Mail | null> {
  const occasion = accountOccasions.find(candidate => candidate === delivery.occasion)
  const [found] = await db.select({ member: members, workspace: workspaces.name }).from(members)
    .innerJoin(workspaces, eq(workspaces.id, members.workspaceId))
    .where(and(eq(members.workspaceId, delivery.workspaceId), eq(members.id, delivery.memberId ?? '')))
  if (!occasion || !found || (occasion === 'confirmAddress' && found.member.confirmedAt)) return null
  const { baseUrl, secret, mailFrom } = context.settings
  const link = occasion === 'confirmAddress' ? `${baseUrl}/desk/confirm?token=${confirmationToken(secret, found.member)}` : `${baseUrl}/desk/sign-in`
  return {
    messageId: delivery.messageId,
    from: { name: 'Temporia', address: mailFrom },
    to: { name: '', address: delivery.address },
    replyTo: null,
    ...renderAccountMessage(occasion, { workspace: found.workspace, link }),
    calendar: null,
  }
}
