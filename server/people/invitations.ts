import { and, count, eq, gt, isNotNull, isNull } from 'drizzle-orm'
import type { Fault } from '../../core/validation'
import type { ClockFace } from '../../core/time/format'
import { DAY } from '../../core/time/civil'
import type { InvitationView, MemberRole, SignedIn } from '../../core/views/desk'
import { applyAccountChange } from '../changes'
import { type Context, dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { databaseFault } from '../database/faults'
import { accounts, deliveries, members, workspaces } from '../database/schema'
import { idOfToken, invitationToken, tokensMatch } from '../secrets'
import { type Account, confirmedAccount, createAccount, hashPassword, isPassword } from './accounts'
import { forgetOtherSignUps, markConfirmed } from './confirm'
import { createHost } from './hosts'
import { loadMember } from './members'
import { passwordFault } from './password'

/** Inviting people into a workspace by mail, and accepting it. An invitation is a member whom no account belongs to yet. */

export const INVITATION_DAYS = 30
const MOST_WAITING = 200
/** One mail in this time, however often it is sent again. Seconds. */
const MAIL_EVERY = 300

type Member = typeof members.$inferSelect

export interface Invitee {
  name: string
  email: string
  role: MemberRole
  hosts: boolean
}

export type InviteOutcome = { kind: 'invited', id: string } | { kind: 'memberAlready' } | { kind: 'invitedAlready' } | { kind: 'tooMany', most: number }

export async function invite(context: Context, by: SignedIn, invitee: Invitee): Promise<InviteOutcome> {
  const { workspaceId } = by
  const email = invitee.email.toLowerCase()
  return context.db.transaction(async (tx) => {
    await tx.select({ id: workspaces.id }).from(workspaces).where(eq(workspaces.id, workspaceId)).for('no key update')
    const [known] = await tx.select().from(members)
      .where(and(eq(members.workspaceId, workspaceId), eq(members.email, email), isNull(members.withdrawnAt)))
    if (known) return { kind: known.accountId ? 'memberAlready' : 'invitedAlready' }
    const [waiting] = await tx.select({ count: count() }).from(members)
      .where(and(eq(members.workspaceId, workspaceId), isNull(members.accountId), isNull(members.withdrawnAt)))
    if ((waiting?.count ?? 0) >= MOST_WAITING) return { kind: 'tooMany', most: MOST_WAITING }
    const [member] = await tx.insert(members).values({
      workspaceId,
      email,
      name: invitee.name,
      role: invitee.role,
      timeZone: by.timeZone,
      invitedToHost: invitee.role === 'host' || invitee.hosts,
      invitedBy: by.name,
      invitedUntil: dateOf(context.now() + INVITATION_DAYS * DAY),
    }).returning()
    if (!member) throw new Error('The invitation was not saved')
    await applyAccountChange(context, tx, member, 'invited', false, by.name)
    return { kind: 'invited', id: member.id }
  })
}

/** Mails an invitation again and lets it wait anew; false where none waits. */
export async function sendInvitation(context: Context, by: SignedIn, id: string): Promise<boolean> {
  return context.db.transaction(async (tx) => {
    const [member] = await tx.update(members).set({ invitedUntil: dateOf(context.now() + INVITATION_DAYS * DAY), invitedBy: by.name })
      .where(isWaiting(by.workspaceId, id)).returning()
    if (!member) return false
    const recent = await tx.select({ id: deliveries.id }).from(deliveries).where(and(
      eq(deliveries.workspaceId, by.workspaceId),
      eq(deliveries.memberId, id),
      gt(deliveries.createdAt, dateOf(context.now() - MAIL_EVERY)),
    )).limit(1)
    if (recent.length === 0) await applyAccountChange(context, tx, member, 'invited', false, by.name)
    return true
  })
}

/** Its link leads nowhere from now on; false where none waits. */
export async function withdrawInvitation({ db, now }: Context, workspaceId: string, id: string): Promise<boolean> {
  const withdrawn = await db.update(members).set({ withdrawnAt: dateOf(now()) })
    .where(isWaiting(workspaceId, id)).returning({ id: members.id })
  return withdrawn.length > 0
}

function isWaiting(workspaceId: string, id: string) {
  return and(eq(members.workspaceId, workspaceId), eq(members.id, id), isNull(members.accountId), isNull(members.withdrawnAt))
}

/** What the link of an invitation shows to whoever follows it; null for a wrong token. */
export async function viewInvitation(context: Context, token: string, signedIn: SignedIn | null): Promise<InvitationView | null> {
  const invited = await memberOfToken(context, token)
  if (!invited) return null
  const { member, workspace } = invited
  return {
    state: stateOf(context, member),
    workspace,
    name: member.name,
    email: member.email,
    role: member.role,
    hosts: member.invitedToHost,
    by: member.invitedBy ?? '',
    until: member.invitedUntil ? secondsOf(member.invitedUntil) : 0,
    account: signedIn?.email === member.email ? 'signedIn' : await confirmedAccount(context.db, member.email) ? 'known' : 'new',
    signedInAs: signedIn?.email ?? null,
  }
}

export interface Acceptance {
  name: string
  password: string | null
  timeZone: string
  clock: ClockFace | null
}

export type AcceptOutcome =
  | { kind: 'joined', member: SignedIn }
  | { kind: 'notFound' }
  | { kind: 'over', state: Exclude<InvitationView['state'], 'open'> }
  /** Somebody else is signed in in this browser. */
  | { kind: 'otherAddress', email: string }
  | { kind: 'needsPassword' } | { kind: 'signInFirst' } | { kind: 'wrongPassword' } | { kind: 'weak', fault: Fault } | { kind: 'memberAlready' }

/** Joins the workspace by the mailed token: as the account of the address, which is made where there is none. */
export async function acceptInvitation(
  context: Context, token: string, signedIn: SignedIn | null, acceptance: Acceptance,
): Promise<AcceptOutcome> {
  const invited = await memberOfToken(context, token)
  if (!invited) return { kind: 'notFound' }
  const { member, workspace } = invited
  const state = stateOf(context, member)
  if (state !== 'open') return { kind: 'over', state }
  if (signedIn && signedIn.email !== member.email) return { kind: 'otherAddress', email: member.email }
  const person = await personWho(context.db, member, workspace, signedIn, acceptance.password)
  if (person.kind !== 'person') return person
  try {
    const joined = await context.db.transaction(tx => join(tx, context, member, person, acceptance))
    if (joined.kind !== 'joined') return joined
  } catch (error) {
    const constraint = databaseFault(error)?.constraint
    if (constraint === 'members_account') return { kind: 'memberAlready' }
    // Somebody accepted with the same address at the same moment: the account is there now.
    if (constraint === 'accounts_email_confirmed') return { kind: 'needsPassword' }
    throw error
  }
  await forgetOtherSignUps(context, member.email)
  const loaded = await loadMember(context.db, member.workspaceId, member.id)
  return loaded ? { kind: 'joined', member: loaded } : { kind: 'notFound' }
}

type Person = { kind: 'person', account: Account } | { kind: 'person', account: null, passwordHash: string }

/** Whose account joins: the signed-in one, the confirmed one of the address if its password is right, or a new one. */
async function personWho(
  db: Database, member: Member, workspace: string, signedIn: SignedIn | null, password: string | null,
): Promise<Person | { kind: 'needsPassword' } | { kind: 'signInFirst' } | { kind: 'wrongPassword' } | { kind: 'weak', fault: Fault }> {
  if (signedIn) {
    const [row] = await db.select({ account: accounts }).from(members).innerJoin(accounts, eq(accounts.id, members.accountId))
      .where(and(eq(members.workspaceId, signedIn.workspaceId), eq(members.id, signedIn.memberId)))
    if (row) return { kind: 'person', account: row.account }
  }
  if (password === null) return { kind: 'needsPassword' }
  const account = await confirmedAccount(db, member.email)
  // Whoever has a second factor gives it where they sign in.
  if (account?.secondFactorSince) return { kind: 'signInFirst' }
  if (account) return await isPassword(account, password) ? { kind: 'person', account } : { kind: 'wrongPassword' }
  const fault = passwordFault(password, { email: member.email, others: [member.name, workspace] })
  return fault ? { kind: 'weak', fault } : { kind: 'person', account: null, passwordHash: await hashPassword(password) }
}

async function join(
  tx: Database, context: Context, { workspaceId, id }: Member, person: Person, { name, timeZone, clock }: Acceptance,
): Promise<{ kind: 'joined' } | { kind: 'over', state: 'accepted' | 'withdrawn' | 'expired' }> {
  const [member] = await tx.select().from(members).where(and(eq(members.workspaceId, workspaceId), eq(members.id, id))).for('update')
  const state = member ? stateOf(context, member) : 'withdrawn'
  if (!member || state !== 'open') return { kind: 'over', state: state === 'open' ? 'withdrawn' : state }
  const at = dateOf(context.now())
  const { email } = member
  const account = person.account ?? await createAccount(tx, { email, passwordHash: person.passwordHash, confirmedAt: at, createdAt: at })
  // Whoever has the link can read the address's mail.
  if (!account.confirmedAt) await markConfirmed(tx, context, account)
  await tx.update(members).set({ accountId: account.id, name, timeZone, clock })
    .where(and(eq(members.workspaceId, workspaceId), eq(members.id, id)))
  if (member.invitedToHost) await createHost(tx, { workspaceId, memberId: id, name, email, timeZone })
  return { kind: 'joined' }
}

function stateOf({ now }: Context, { accountId, withdrawnAt, invitedUntil }: Member): InvitationView['state'] {
  if (accountId) return 'accepted'
  if (withdrawnAt) return 'withdrawn'
  return !invitedUntil || secondsOf(invitedUntil) <= now() ? 'expired' : 'open'
}

async function memberOfToken({ db, settings }: Context, token: string): Promise<{ member: Member, workspace: string } | null> {
  const workspaceId = idOfToken(token)
  if (!workspaceId) return null
  const invited = await db.select({ member: members, workspace: workspaces.name }).from(members)
    .innerJoin(workspaces, eq(workspaces.id, members.workspaceId))
    .where(and(eq(members.workspaceId, workspaceId), isNotNull(members.invitedUntil)))
  return invited.find(({ member }) => tokensMatch(invitationToken(settings.secret, member), token)) ?? null
}
