import { defineCall } from '../../http/define'
import { problem } from '../../http/problem'
import { areJobsRun } from '../../jobs/presence'

const ANSWER_MS = 2000

/** The process can serve: the database answers in time, and some process runs the jobs. */
export default defineCall('GET /health/ready', async (_event, { db }) => {
  const late = new Promise<never>((_, reject) => setTimeout(() => reject(new Error('late')), ANSWER_MS).unref())
  const query = areJobsRun(db)
  query.catch(() => {})
  let areRun: boolean
  try {
    areRun = await Promise.race([query, late])
  } catch {
    throw problem('notReady', 'databaseSilent', {})
  }
  if (!areRun) throw problem('notReady', 'noJobs', {})
  return { ready: true }
})
