import { hash, verify } from '@node-rs/argon2'
import { and, asc, desc, eq, isNotNull, sql } from 'drizzle-orm'
import type { AccountView, SignedIn } from '../../core/views/desk'
import { type Context, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { accounts, members, workspaces } from '../database/schema'
import { loadMember } from './members'

/** How people sign in: an address and a password, whatever workspaces they are members of. */

export type Account = typeof accounts.$inferSelect

export function hashPassword(password: string): Promise<string> {
  return hash(password)
}

/** Checked against when nobody has the address, so that an unknown address takes as long as a wrong password. */
const nobody = hash('nobody has this password')

/** Unconfirmed sign-ups with one address that a password is tried for. */
const MOST_UNCONFIRMED = 3

/** Accounts with an address: the confirmed one comes before those who only say so. */
export async function accountsOf(db: Database, email: string, most = MOST_UNCONFIRMED): Promise<Account[]> {
  return db.select().from(accounts).where(eq(accounts.email, email.trim().toLowerCase()))
    .orderBy(sql`${accounts.confirmedAt} is null`, desc(accounts.createdAt)).limit(most)
}

/** The account behind a member. */
export async function accountOf(db: Database, { workspaceId, memberId }: Pick<SignedIn, 'workspaceId' | 'memberId'>): Promise<Account | null> {
  const [found] = await db.select({ account: accounts }).from(members).innerJoin(accounts, eq(accounts.id, members.accountId))
    .where(and(eq(members.workspaceId, workspaceId), eq(members.id, memberId)))
  return found?.account ?? null
}

/** Whose address and password these are; null where they do not belong together. */
export async function findByPassword(db: Database, email: string, password: string): Promise<Account | null> {
  const found = await accountsOf(db, email)
  if (found.length === 0) await verify(await nobody, password)
  for (const account of found) {
    if (await verify(account.passwordHash, password)) return account
  }
  return null
}

/** Whether a password is the member's own. */
export async function isOwnPassword(db: Database, member: SignedIn, password: string): Promise<boolean> {
  const account = await accountOf(db, member)
  return account !== null && isPassword(account, password)
}

export function isPassword(account: Account, password: string): Promise<boolean> {
  return verify(account.passwordHash, password)
}

export async function createAccount(db: Database, values: typeof accounts.$inferInsert): Promise<Account> {
  const [account] = await db.insert(accounts).values(values).returning()
  if (!account) throw new Error('The account was not saved')
  return account
}

/** What a person sees of their own account. */
export async function viewAccount({ db }: Pick<Context, 'db'>, member: SignedIn): Promise<AccountView | null> {
  const account = await accountOf(db, member)
  return account && {
    email: account.email,
    secondFactorSince: account.secondFactorSince ? secondsOf(account.secondFactorSince) : null,
    recoveryCodesLeft: account.recoveryHashes.length,
    newEmail: account.newEmail,
    oldConfirms: account.oldConfirms,
    newConfirms: account.newConfirms,
  }
}

/** The confirmed account of an address, if there is one. */
export async function confirmedAccount(db: Database, email: string): Promise<Account | null> {
  const [found] = await db.select().from(accounts)
    .where(and(eq(accounts.email, email.trim().toLowerCase()), isNotNull(accounts.confirmedAt)))
  return found ?? null
}

/** A person's places in workspaces, by the workspaces' names. */
export async function membershipsOf(
  db: Database, accountId: string,
): Promise<{ workspaceId: string, memberId: string, slug: string, name: string }[]> {
  return db.select({ workspaceId: members.workspaceId, memberId: members.id, slug: workspaces.slug, name: workspaces.name })
    .from(members)
    .innerJoin(workspaces, eq(workspaces.id, members.workspaceId))
    .where(eq(members.accountId, accountId))
    .orderBy(asc(sql`lower(${workspaces.name})`), asc(workspaces.createdAt))
}

/** Where somebody arrives who signs in: in the workspace that they entered last. */
export async function firstMembership(db: Database, accountId: string): Promise<SignedIn | null> {
  const [place] = await db.select({ workspaceId: members.workspaceId, id: members.id }).from(members)
    .where(eq(members.accountId, accountId)).orderBy(sql`${members.enteredAt} desc nulls last`, asc(members.workspaceId)).limit(1)
  return place ? loadMember(db, place.workspaceId, place.id) : null
}

/** Marks a workspace as the one that a member entered last. Only the order counts, so it is the database's clock. */
export async function markEntered(db: Database, { workspaceId, memberId }: SignedIn): Promise<void> {
  await db.update(members).set({ enteredAt: sql`clock_timestamp()` }).where(and(eq(members.workspaceId, workspaceId), eq(members.id, memberId)))
}
