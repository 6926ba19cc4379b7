import { verify } from '@node-rs/argon2'
import { and, eq, isNotNull, isNull, ne } from 'drizzle-orm'
import type { SignedIn } from '../../core/views/desk'
import { applyAccountChange } from '../changes'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { databaseFault } from '../database/faults'
import { members, workspaces } from '../database/schema'
import { deleteUnconfirmed } from '../maintenance'
import { forgetUnopened } from '../messages'
import { confirmationToken, tokensMatch, workspaceOfToken } from '../secrets'
import { loadMember } from './members'

/** Confirming that an address belongs to the member who signed up with it. */

export type ConfirmOutcome =
  | { kind: 'confirmed', member: SignedIn }
  /** The link alone does not show who follows it: somebody else may have signed up with the address. */
  | { kind: 'needsPassword' }
  | { kind: 'wrongPassword' }
  | { kind: 'addressKnown' }
  | { kind: 'notFound' }

type Member = typeof members.$inferSelect

/** Confirms by the mailed token, for the member who is signed in or who knows the password. */
export async function confirmAddress(
  context: Context,
  token: string,
  signedIn: SignedIn | null,
  password: string | null,
): Promise<ConfirmOutcome> {
  const member = await memberOfToken(context, token)
  if (!member) return { kind: 'notFound' }
  if (signedIn?.memberId !== member.id) {
    if (password === null) return { kind: 'needsPassword' }
    if (!(await verify(member.passwordHash, password))) return { kind: 'wrongPassword' }
  }
  try {
    await context.db.transaction(tx => markConfirmed(tx, context, member))
  } catch (error) {
    if (databaseFault(error)?.constraint === 'members_email_confirmed') return { kind: 'addressKnown' }
    throw error
  }
  // Whatever others have begun with this address goes: it is now known to be this member's.
  const others = await context.db
    .select({ workspaceId: members.workspaceId })
    .from(members)
    .where(and(eq(members.email, member.email), isNull(members.confirmedAt), ne(members.workspaceId, member.workspaceId)))
  for (const { workspaceId } of others) await deleteUnconfirmed(context, workspaceId)
  const confirmed = await loadMember(context.db, member.workspaceId, member.id)
  return confirmed ? { kind: 'confirmed', member: confirmed } : { kind: 'notFound' }
}

async function markConfirmed(tx: Database, context: Context, member: Member): Promise<void> {
  const at = dateOf(context.now())
  await tx
    .update(members)
    .set({ confirmedAt: at })
    .where(and(eq(members.workspaceId, member.workspaceId), eq(members.id, member.id), isNull(members.confirmedAt)))
  if (member.role === 'owner')
    await tx
      .update(workspaces)
      .set({ confirmedAt: at })
      .where(and(eq(workspaces.id, member.workspaceId), isNull(workspaces.confirmedAt)))
  await forgetUnopened(tx, member.email)
}

/** Somebody who has the mail says that they did not sign up: all that was begun with it is deleted. False for a wrong token. */
export async function refuseSignUp(context: Context, token: string): Promise<boolean> {
  const member = await memberOfToken(context, token)
  if (!member || member.confirmedAt) return false
  await deleteUnconfirmed(context, member.workspaceId)
  return true
}

/** Mails the link again; false where the address is confirmed. */
export async function sendConfirmation(context: Context, signedIn: SignedIn): Promise<boolean> {
  if (signedIn.confirmed) return false
  const known = await isKnown(context.db, signedIn.email)
  await context.db.transaction(tx =>
    applyAccountChange(context, tx, { ...signedIn, id: signedIn.memberId }, 'confirmationRequested', known),
  )
  return true
}

/** Whether a member has confirmed this address. */
export async function isKnown(db: Database, email: string): Promise<boolean> {
  const found = await db
    .select({ id: members.id })
    .from(members)
    .where(and(eq(members.email, email), isNotNull(members.confirmedAt)))
    .limit(1)
  return found.length > 0
}

async function memberOfToken({ db, settings }: Context, token: string): Promise<Member | null> {
  const workspaceId = workspaceOfToken(token)
  if (!workspaceId) return null
  const found = await db.select().from(members).where(eq(members.workspaceId, workspaceId))
  return found.find(member => tokensMatch(confirmationToken(settings.secret, member), token)) ?? null
}
