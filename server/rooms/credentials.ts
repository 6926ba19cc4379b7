import { and, eq, sql } from 'drizzle-orm'
import type { Context } from '../context'
import type { Database } from '../database/connection'
import { videoAccounts } from '../database/schema'
import { type Credentials, ServiceFault, type VideoService } from '../ports/video'
import { seal, unseal } from '../secrets'

/** Calls under an account: with credentials that hold, and no more at once than its service takes. */

export type VideoAccount = typeof videoAccounts.$inferSelect

export function isAccount(account: { workspaceId: string, id: string }) {
  return and(eq(videoAccounts.workspaceId, account.workspaceId), eq(videoAccounts.id, account.id))
}

/**
 * Makes calls with an account's credentials, which are renewed where they are about to expire or are refused. `lock` is the
 * connection that the job holds its lock on. Throws ServiceFault, also where the service has no call free within `mostSeconds`.
 */
export async function withCredentials<Result>(
  context: Context, lock: Database, service: VideoService, account: VideoAccount, work: (credentials: Credentials) => Promise<Result>,
  mostSeconds: number = SLOT_WAIT_SECONDS,
): Promise<Result> {
  return withSlot(lock, account.service, service.callsAtOnce, Math.min(mostSeconds, SLOT_WAIT_SECONDS), async () => {
    const credentials = await usableCredentials(context, service, account, null)
    try {
      return await work(credentials)
    } catch (error) {
      if (!(error instanceof ServiceFault) || error.kind !== 'credentialsRefused' || !service.renewal) throw error
      return work(await usableCredentials(context, service, account, credentials))
    }
  })
}

/** The first of the two keys of the locks that stand for calls to services. */
const SLOT_LOCK = 7_203
const SLOT_WAIT_SECONDS = 20
const SLOT_PAUSE_MS = 60

/** Counts calls over all processes: each holds one of as many locks as there may be calls, and lets go of it when it ends. */
async function withSlot<Result>(
  lock: Database, key: string, slots: number, mostSeconds: number, work: () => Promise<Result>,
): Promise<Result> {
  const until = Date.now() + mostSeconds * 1000
  for (;;) {
    const { rows: [taken] } = await lock.execute<{ slot: number }>(sql`select slot from generate_series(1, ${slots}::int) as slot
      where pg_try_advisory_lock(${SLOT_LOCK}, hashtext(${key} || ' ' || slot)) limit 1`)
    if (taken) {
      try {
        return await work()
      } finally {
        // Where the connection is gone, so is the lock.
        await lock.execute(sql`select pg_advisory_unlock(${SLOT_LOCK}, hashtext(${key} || ' ' || ${taken.slot}::int))`).catch(() => {})
      }
    }
    if (Date.now() > until) throw new ServiceFault({ code: 'tooManyCalls' })
    await new Promise(resolve => setTimeout(resolve, SLOT_PAUSE_MS))
  }
}

/**
 * Renews under the account's row lock, so that two rooms of one account do not renew at once: a service may let each
 * renewal be used only once. `refused` are credentials that the service no longer takes, whatever their date.
 */
async function usableCredentials(
  context: Context,
  { renewal }: VideoService,
  account: VideoAccount,
  refused: Credentials | null,
): Promise<Credentials> {
  const known = refused === null ? unsealCredentials(context, account) : null
  if (known !== null && !renewal?.isDue(known, context.now())) return known
  return context.db.transaction(async (tx) => {
    const [current] = await tx.select().from(videoAccounts).where(isAccount(account)).for('update')
    const stored = unsealCredentials(context, current ?? account)
    const isUsable = refused === null ? !renewal?.isDue(stored, context.now()) : stored !== refused
    if (isUsable || !renewal) return stored
    const fresh = await renewal.renew(stored)
    await tx
      .update(videoAccounts)
      .set({ sealedCredentials: seal(context.settings.secret, fresh) })
      .where(isAccount(account))
    return fresh
  })
}

/** Credentials that were sealed with another secret are lost for good. */
function unsealCredentials({ settings }: Context, account: VideoAccount): Credentials {
  try {
    return unseal(settings.secret, account.sealedCredentials)
  } catch {
    throw new ServiceFault({ code: 'consentUnreadable', account: account.label }, 'accessLost')
  }
}
