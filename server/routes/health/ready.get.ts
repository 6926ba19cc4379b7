import { sql } from 'drizzle-orm'
import { defineCall, Problem } from '../../http/problem'

const ANSWER_MS = 2000

/** The process can serve: the database answers in time, and jobs are run. */
export default defineCall(async (event, { db }) => {
  const late = new Promise<never>((_, reject) => setTimeout(() => reject(new Error('late')), ANSWER_MS).unref())
  const query = db.execute(sql`select 1`)
  query.catch(() => {})
  try {
    await Promise.race([query, late])
  } catch {
    throw new Problem(503, 'Not ready', 'The database does not answer.')
  }
  if (!event.context.jobsRunning?.()) throw new Problem(503, 'Not ready', 'No jobs are run just now: mails and video links wait.')
  return { ready: true }
})
