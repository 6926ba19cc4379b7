import { and, eq, inArray, isNull } from 'drizzle-orm'
import type { SignedIn } from '../../core/views/desk'
import { applyAccountChange } from '../changes'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { databaseFault } from '../database/faults'
import { accounts, members, workspaces } from '../database/schema'
import { deleteUnconfirmed } from '../maintenance'
import { forgetUnopened } from '../messages'
import { confirmationToken, idOfToken, tokensMatch } from '../secrets'
import { type Account, confirmedAccount, isPassword, membershipsOf } from './accounts'
import { loadMember } from './members'

/** Confirming that an address belongs to the person who signed up with it. */

export type ConfirmOutcome =
  | { kind: 'confirmed', member: SignedIn }
  /** The link alone does not show who follows it: somebody else may have signed up with the address. */
  | { kind: 'needsPassword' }
  | { kind: 'wrongPassword' }
  | { kind: 'addressKnown' }
  | { kind: 'notFound' }

/** Confirms by the mailed token, for the member who is signed in or who knows the password. */
export async function confirmAddress(
  context: Context,
  token: string,
  signedIn: SignedIn | null,
  password: string | null,
): Promise<ConfirmOutcome> {
  const account = await accountOfToken(context, token)
  const places = account ? await membershipsOf(context.db, account.id) : []
  const place = places.find(({ workspaceId }) => workspaceId === signedIn?.workspaceId) ?? places[0]
  if (!account || !place) return { kind: 'notFound' }
  if (!places.some(({ memberId }) => memberId === signedIn?.memberId)) {
    if (password === null) return { kind: 'needsPassword' }
    if (!(await isPassword(account, password))) return { kind: 'wrongPassword' }
  }
  try {
    await context.db.transaction(tx => markConfirmed(tx, context, account))
  } catch (error) {
    if (databaseFault(error)?.constraint === 'accounts_email_confirmed') return { kind: 'addressKnown' }
    throw error
  }
  await forgetOtherSignUps(context, account.email)
  const confirmed = await loadMember(context.db, place.workspaceId, place.memberId)
  return confirmed ? { kind: 'confirmed', member: confirmed } : { kind: 'notFound' }
}

export async function markConfirmed(tx: Database, context: Context, account: Account): Promise<void> {
  const at = dateOf(context.now())
  await tx.update(accounts).set({ confirmedAt: at }).where(and(eq(accounts.id, account.id), isNull(accounts.confirmedAt)))
  const owned = tx.select({ id: members.workspaceId }).from(members).where(and(eq(members.accountId, account.id), eq(members.role, 'owner')))
  await tx.update(workspaces).set({ confirmedAt: at }).where(and(inArray(workspaces.id, owned), isNull(workspaces.confirmedAt)))
  await forgetUnopened(tx, account.email)
}

/** Somebody who has the mail says that they did not sign up: all that was begun with it is deleted. False for a wrong token. */
export async function refuseSignUp(context: Context, token: string): Promise<boolean> {
  const account = await accountOfToken(context, token)
  if (!account || account.confirmedAt) return false
  await deleteBegun(context, account.id)
  return true
}

/** Whatever others have begun with an address goes once it is known whose it is. */
export async function forgetOtherSignUps(context: Context, email: string): Promise<void> {
  const others = await context.db.select({ id: accounts.id }).from(accounts)
    .where(and(eq(accounts.email, email), isNull(accounts.confirmedAt)))
  for (const { id } of others) await deleteBegun(context, id)
}

async function deleteBegun(context: Context, accountId: string): Promise<void> {
  for (const { workspaceId } of await membershipsOf(context.db, accountId)) await deleteUnconfirmed(context, workspaceId)
}

/** Mails the link again; false where the address is confirmed. */
export async function sendConfirmation(context: Context, signedIn: SignedIn): Promise<boolean> {
  if (signedIn.confirmed) return false
  const known = await confirmedAccount(context.db, signedIn.email) !== null
  await context.db.transaction(tx =>
    applyAccountChange(context, tx, { ...signedIn, id: signedIn.memberId }, 'confirmationRequested', known),
  )
  return true
}

async function accountOfToken({ db, settings }: Context, token: string): Promise<Account | null> {
  const id = idOfToken(token)
  if (!id) return null
  const [account] = await db.select().from(accounts).where(eq(accounts.id, id))
  return account && tokensMatch(confirmationToken(settings.secret, account), token) ? account : null
}
