import { sql } from 'drizzle-orm'
import type { Database } from '../database/connection'

/** Any number that only worker locks use as their first key. */
export const WORKER_LOCK = 7_304_218

/** Whether some process runs jobs: its workers hold an advisory lock that ends with the process or its connection. */
export async function areJobsRun(db: Database): Promise<boolean> {
  const { rows } = await db.execute(sql`
    select 1 from pg_locks where locktype = 'advisory' and classid = ${WORKER_LOCK} and granted
    and database = (select oid from pg_database where datname = current_database()) limit 1`)
  return rows.length > 0
}
