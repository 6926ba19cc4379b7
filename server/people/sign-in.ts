import type { SignedIn } from '../../core/views/desk'
import type { Context } from '../context'
import { type Account, findByPassword, firstMembership } from './accounts'
import { takeCode } from './second-factor'

/** Signing in: by address and password, and by a code where the person has a second factor. */

export type SignInOutcome = { kind: 'signedIn', member: SignedIn } | { kind: 'wrong' } | CodeOutcome

export type CodeOutcome = { kind: 'codeNeeded' } | { kind: 'wrongCode' }

/** Who signs in, in the workspace they were last seen in. */
export async function signIn(context: Context, email: string, password: string, code?: string): Promise<SignInOutcome> {
  const account = await findByPassword(context.db, email, password)
  if (!account) return { kind: 'wrong' }
  const missing = await checkCode(context, account, code)
  if (missing) return missing
  const member = await firstMembership(context.db, account.id)
  return member ? { kind: 'signedIn', member } : { kind: 'wrong' }
}

/** What is missing for the second factor; null where there is none, or its code is right. */
export async function checkCode(context: Context, account: Account, code: string | undefined): Promise<CodeOutcome | null> {
  if (account.secondFactorSince === null) return null
  if (!code) return { kind: 'codeNeeded' }
  return await takeCode(context, account, code) ? null : { kind: 'wrongCode' }
}
