import type { InputFault } from '../../core/validation'
import type { ClockFace } from '../../core/time/format'
import type { SignedIn } from '../../core/views/desk'
import { applyAccountChange } from '../changes'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { databaseFault, withRetries } from '../database/faults'
import { members, workspaces } from '../database/schema'
import { type Account, confirmedAccount, createAccount, hashPassword } from './accounts'
import { createHost } from './hosts'
import { loadMember } from './members'
import { freeWorkspaceSlug, lockAddresses } from '../workspace'
import { passwordFault } from './password'

/**
 * A new workspace with its owner, who hosts in it. It can be set up at once, and is seen by others once the owner has
 * followed the link that is mailed to the address. Only the address itself learns whether it is already known.
 */

export interface SignUp {
  workspace: string
  name: string
  email: string
  password: string
  timeZone: string
  clock: ClockFace | null
}

export async function signUp(context: Context, request: SignUp): Promise<{ member: SignedIn } | { errors: InputFault[] }> {
  const email = request.email.toLowerCase()
  const fault = passwordFault(request.password, { email, others: [request.name, request.workspace] })
  if (fault) return { errors: [{ ...fault, path: 'password' }] }
  const passwordHash = await hashPassword(request.password)
  // Two workspaces of one name at once: the second takes the next address.
  const made = await withRetries(
    () => createWorkspace(context, { ...request, email }, passwordHash),
    error => databaseFault(error)?.constraint === 'workspaces_slug_unique',
  )
  const member = await loadMember(context.db, made.workspaceId, made.memberId)
  if (!member) throw new Error('The member was not saved')
  return { member }
}

async function createWorkspace(
  context: Context, request: SignUp, passwordHash: string,
): Promise<{ workspaceId: string, memberId: string }> {
  return context.db.transaction(async (tx) => {
    const { name, email } = request
    const account = await createAccount(tx, { email, passwordHash, createdAt: dateOf(context.now()) })
    const made = await insertWorkspace(tx, context, account, request)
    const isKnown = await confirmedAccount(tx, email) !== null
    await applyAccountChange(context, tx, { workspaceId: made.workspaceId, id: made.memberId, name, email }, 'signedUp', isKnown)
    return made
  })
}

/** Another workspace of somebody who is a member of one already; they own it and host in it. Their address must be confirmed. */
export async function createAnotherWorkspace(context: Context, member: SignedIn, name: string): Promise<SignedIn> {
  const account = await confirmedAccount(context.db, member.email)
  if (!account) throw new Error('The address is not confirmed')
  const made = await withRetries(
    () => context.db.transaction(tx => insertWorkspace(tx, context, account, { ...member, workspace: name })),
    error => databaseFault(error)?.constraint === 'workspaces_slug_unique',
  )
  const there = await loadMember(context.db, made.workspaceId, made.memberId)
  if (!there) throw new Error('The member was not saved')
  return there
}

/** A workspace with its owner, who hosts in it; it is confirmed if the owner's address is. */
async function insertWorkspace(
  tx: Database, context: Context, account: Account, request: Pick<SignUp, 'workspace' | 'name' | 'email' | 'timeZone' | 'clock'>,
): Promise<{ workspaceId: string, memberId: string }> {
  const { name, email, timeZone, clock } = request
  await lockAddresses(tx)
  const [workspace] = await tx
    .insert(workspaces)
    .values({
      slug: await freeWorkspaceSlug(tx, request.workspace),
      name: request.workspace,
      timeZone,
      looks: { colour: '#54305C' },
      createdAt: dateOf(context.now()),
      confirmedAt: account.confirmedAt && dateOf(context.now()),
    })
    .returning({ id: workspaces.id })
  if (!workspace) throw new Error('The workspace was not saved')
  const workspaceId = workspace.id
  const [member] = await tx
    .insert(members)
    .values({ workspaceId, accountId: account.id, name, email, role: 'owner', timeZone, clock })
    .returning({ id: members.id })
  if (!member) throw new Error('The member was not saved')
  await createHost(tx, { workspaceId, memberId: member.id, name, email, timeZone })
  return { workspaceId, memberId: member.id }
}
