import { and, eq, isNotNull, ne } from 'drizzle-orm'
import { addressChangeSeconds } from '../../core/account/changes'
import type { SignedIn } from '../../core/views/desk'
import { applyAccountChange } from '../changes'
import { type Context, dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { accounts, hosts, members } from '../database/schema'
import { addressChangeToken, idOfToken, tokensMatch } from '../secrets'
import { type Account, accountOf, isPassword } from './accounts'

/** Another address for one's account: a link goes to the old and to the new one, and it changes once both were followed. */

export type AddressOutcome = 'asked' | 'wrongPassword' | 'sameAddress' | 'notConfirmed'

export async function askForAddress(context: Context, member: SignedIn, email: string, password: string): Promise<AddressOutcome> {
  const wanted = email.trim().toLowerCase()
  return context.db.transaction(async (tx) => {
    const account = await accountOf(tx, member)
    if (!account || !await isPassword(account, password)) return 'wrongPassword'
    if (account.confirmedAt === null) return 'notConfirmed'
    if (account.email === wanted) return 'sameAddress'
    await tx.update(accounts).set({ newEmail: wanted, newEmailAt: dateOf(context.now()), oldConfirms: false, newConfirms: false })
      .where(eq(accounts.id, account.id))
    const person = { workspaceId: member.workspaceId, id: member.memberId, name: member.name }
    await applyAccountChange(context, tx, { ...person, email: account.email }, 'addressChangeAsked', true)
    await applyAccountChange(context, tx, { ...person, email: wanted }, 'addressChangeAsked', false)
    return 'asked'
  })
}

/** Drops a change that is not complete. */
export async function dropAddressChange({ db }: Context, member: SignedIn): Promise<void> {
  const account = await accountOf(db, member)
  if (account) await db.update(accounts).set(noChange).where(eq(accounts.id, account.id))
}

export type ConfirmChangeOutcome =
  | { kind: 'changed', email: string }
  /** The other mailbox is still to agree. */
  | { kind: 'waiting', other: string }
  | { kind: 'notFound' }
  | { kind: 'taken' }

/** Notes that a mailbox agrees, by its mailed token; with the second one the address changes everywhere. */
export async function confirmAddressChange(context: Context, token: string): Promise<ConfirmChangeOutcome> {
  const id = idOfToken(token)
  if (!id) return { kind: 'notFound' }
  return context.db.transaction(async (tx) => {
    const [account] = await tx.select().from(accounts).where(and(eq(accounts.id, id), isNotNull(accounts.newEmail))).for('update')
    const { newEmail, newEmailAt } = account ?? {}
    if (!account || !newEmail || !newEmailAt || context.now() > secondsOf(newEmailAt) + addressChangeSeconds) return { kind: 'notFound' }
    const { secret } = context.settings
    const isOld = tokensMatch(token, addressChangeToken(secret, account, 'old'))
    const isNew = tokensMatch(token, addressChangeToken(secret, account, 'new'))
    if (!isOld && !isNew) return { kind: 'notFound' }
    const [oldConfirms, newConfirms] = [account.oldConfirms || isOld, account.newConfirms || isNew]
    if (!oldConfirms || !newConfirms) {
      await tx.update(accounts).set({ oldConfirms, newConfirms }).where(eq(accounts.id, id))
      return { kind: 'waiting', other: oldConfirms ? newEmail : account.email }
    }
    const [other] = await tx.select({ id: accounts.id }).from(accounts)
      .where(and(eq(accounts.email, newEmail), isNotNull(accounts.confirmedAt), ne(accounts.id, id)))
    if (other) return { kind: 'taken' }
    await moveAddress(tx, account, newEmail)
    return { kind: 'changed', email: newEmail }
  })
}

const noChange = { newEmail: null, newEmailAt: null, oldConfirms: false, newConfirms: false }

/** The address is the account's, its places' in workspaces, and that of the hosts behind them who had the old one. */
async function moveAddress(tx: Database, account: Account, email: string): Promise<void> {
  await tx.update(accounts).set({ email, ...noChange }).where(eq(accounts.id, account.id))
  const places = await tx.update(members).set({ email }).where(eq(members.accountId, account.id))
    .returning({ workspaceId: members.workspaceId, id: members.id })
  for (const { workspaceId, id } of places) {
    await tx.update(hosts).set({ email })
      .where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.memberId, id), eq(hosts.email, account.email)))
  }
}
