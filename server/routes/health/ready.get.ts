import { sql } from 'drizzle-orm'
import { defineCall, Problem } from '../../http/problem'

/** The process can serve: the database answers too. */
export default defineCall(async (_event, { db }) => {
  try {
    await db.execute(sql`select 1`)
  } catch {
    throw new Problem(503, 'Not ready', 'The database does not answer.')
  }
  return { ready: true }
})
