import { randomBytes } from 'node:crypto'
import { and, eq, sql } from 'drizzle-orm'
import { generateSecret, generateURI, verify } from 'otplib'
import type { SignedIn } from '../../core/views/desk'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { accounts } from '../database/schema'
import { hashToken, seal, unseal } from '../secrets'
import { type Account, accountOf, isPassword } from './accounts'

/** A second factor of sign-in: codes by time (TOTP, RFC 6238), and recovery codes for when the telephone is lost. */

const RECOVERY_CODES = 10
/** Clocks may be apart by so many seconds. */
const TOLERANCE = 30
const ISSUER = 'Temporia'

/** Takes a code of the account, once: by time, or a recovery code. False for one that is wrong or was used before. */
export async function takeCode(context: Context, account: Account, code: string): Promise<boolean> {
  const plain = code.replace(/[\s-]/g, '').toUpperCase()
  return /^\d{6}$/.test(plain) ? takeTimedCode(context, account, plain) : takeRecoveryCode(context.db, account, plain)
}

async function takeTimedCode({ db, settings, now }: Context, account: Account, token: string): Promise<boolean> {
  if (account.sealedFactor === null) return false
  const secret = unseal(settings.secret, account.sealedFactor)
  const result = await verify({ secret, token, epoch: now(), epochTolerance: TOLERANCE, afterTimeStep: account.lastCodeStep })
  if (!result.valid || !('timeStep' in result)) return false
  // Of two who bring the same code at once, one has it.
  const taken = await db.update(accounts).set({ lastCodeStep: result.timeStep })
    .where(and(eq(accounts.id, account.id), sql`${accounts.lastCodeStep} < ${result.timeStep}`)).returning({ id: accounts.id })
  return taken.length > 0
}

async function takeRecoveryCode(db: Database, account: Account, code: string): Promise<boolean> {
  const hash = hashToken(`${account.id} ${code}`)
  const taken = await db.update(accounts).set({ recoveryHashes: sql`array_remove(${accounts.recoveryHashes}, ${hash})` })
    .where(and(eq(accounts.id, account.id), sql`${hash} = any(${accounts.recoveryHashes})`)).returning({ id: accounts.id })
  return taken.length > 0
}

export type BeginOutcome = { kind: 'begun', secret: string, uri: string } | { kind: 'wrongPassword' } | { kind: 'notPossible' }

/** Makes a secret for the person's authenticator. It counts once a code of it was entered. */
export async function beginSecondFactor(context: Context, member: SignedIn, password: string): Promise<BeginOutcome> {
  const account = await accountOf(context.db, member)
  if (!account || account.confirmedAt === null || account.secondFactorSince !== null) return { kind: 'notPossible' }
  if (!await isPassword(account, password)) return { kind: 'wrongPassword' }
  const secret = generateSecret()
  await context.db.update(accounts).set({ sealedFactor: seal(context.settings.secret, secret) }).where(eq(accounts.id, account.id))
  return { kind: 'begun', secret, uri: generateURI({ issuer: ISSUER, label: account.email, secret }) }
}

/** Turns the second factor on by a first code; gives the recovery codes, which are shown this once. Null for a wrong code. */
export async function confirmSecondFactor(context: Context, member: SignedIn, code: string): Promise<string[] | null> {
  const account = await accountOf(context.db, member)
  if (!account || account.sealedFactor === null || account.secondFactorSince !== null) return null
  if (!await takeCode(context, account, code)) return null
  const codes = Array.from({ length: RECOVERY_CODES }, makeRecoveryCode)
  await context.db.update(accounts).set({ secondFactorSince: dateOf(context.now()), recoveryHashes: hashesOf(account, codes) })
    .where(eq(accounts.id, account.id))
  return codes
}

/** Turns it off, which takes the password and a code. */
export async function endSecondFactor(
  context: Context, member: SignedIn, password: string, code: string,
): Promise<'ended' | 'wrongPassword' | 'wrongCode'> {
  const account = await accountOf(context.db, member)
  if (!account || !await isPassword(account, password)) return 'wrongPassword'
  if (account.secondFactorSince !== null && !await takeCode(context, account, code)) return 'wrongCode'
  await context.db.update(accounts).set({ sealedFactor: null, secondFactorSince: null, recoveryHashes: [] })
    .where(eq(accounts.id, account.id))
  return 'ended'
}

/** 50 bits in letters and figures that are not taken for each other. */
function makeRecoveryCode(): string {
  const letters = 'ABCDEFGHJKMNPQRSTVWXYZ0123456789'
  const text = [...randomBytes(10)].map(byte => letters[byte % letters.length]).join('')
  return `${text.slice(0, 5)}-${text.slice(5)}`
}

const hashesOf = (account: Account, codes: readonly string[]) => codes.map(code => hashToken(`${account.id} ${code.replace('-', '')}`))
