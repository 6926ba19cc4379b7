import { and, isNull, lt, sql } from 'drizzle-orm'
import { type Context, dateOf } from '../context'
import { idempotencyKeys, memberSessions, rateLimits, unopenedMails, workspaces } from '../database/schema'
import { deletePastTimes, planLostLooks } from '../calendar-sync'
import { deleteDueWorkspaces } from './delete-workspaces'
import { deleteUnconfirmed } from './unconfirmed'

export { deleteUnconfirmed }

/** What is of no more use is deleted, every hour. */

const DAY = 24 * 3600
const IDEMPOTENCY_DAYS = 30
const UNCONFIRMED_DAYS = 7
/** A job that failed for good stays this long for a person to see. */
const FAILED_JOB_DAYS = 30
const UNOPENED_SECONDS = 3600

export async function cleanUp(context: Context): Promise<void> {
  const { db } = context
  const now = context.now()
  await db.delete(rateLimits).where(lt(rateLimits.expire, now * 1000))
  await db.delete(idempotencyKeys).where(lt(idempotencyKeys.createdAt, dateOf(now - IDEMPOTENCY_DAYS * DAY)))
  await db.delete(memberSessions).where(lt(memberSessions.expiresAt, dateOf(now)))
  await db.delete(unopenedMails).where(lt(unopenedMails.at, dateOf(now - UNOPENED_SECONDS)))
  const stale = await db.select({ id: workspaces.id }).from(workspaces)
    .where(and(isNull(workspaces.confirmedAt), lt(workspaces.createdAt, dateOf(now - UNCONFIRMED_DAYS * DAY))))
  for (const { id } of stale) await deleteUnconfirmed(context, id)
  await planLostLooks(context)
  await deletePastTimes(context)
  await deleteDueWorkspaces(context)
  await deleteFailedJobs(context, dateOf(now - FAILED_JOB_DAYS * DAY))
}

/** The queue deletes what has succeeded; what failed for good is left to us. */
async function deleteFailedJobs({ db }: Context, before: Date): Promise<void> {
  await db.execute(sql`select graphile_worker.complete_jobs(array(
    select id from graphile_worker.jobs where attempts >= max_attempts and locked_at is null and updated_at < ${before.toISOString()}::timestamptz
  ))`)
}
