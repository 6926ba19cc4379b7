import { sql, type SQL } from 'drizzle-orm'
import { z } from 'zod'
import { dateOf } from '../context'
import type { Database } from '../database/connection'

/** What runs later. Planned inside the transaction that makes it necessary, so that neither is there without the other. */

const subject = z.object({ workspaceId: z.string(), id: z.string() })
export type JobSubject = z.infer<typeof subject>

export const jobNames = ['makeRoom', 'changeRoom', 'withdrawRoom', 'lookAtVideoAccount', 'deliver', 'sendList', 'lookAtCalendars', 'writeEntries',
  'checkPayment', 'closePayment', 'refundPayment',
] as const
export type JobName = (typeof jobNames)[number]

/** Mails that thousands may be due of at once go out after those that somebody waits for. */
export const AFTER_OTHERS = 5
/** What nobody waits for runs after everything else that is due: whole installations are looked at in one go. */
const LATER = 10
const priorities: Partial<Record<JobName, number>> = { lookAtVideoAccount: LATER, lookAtCalendars: LATER }

export function readJobSubject(payload: unknown): JobSubject {
  return subject.parse(payload)
}

/** Runs of a job that may end in an error that nothing could be written down about, before it waits for a person. */
export const MOST_RUNS = 25

export function jobKey(name: JobName, about: JobSubject): string {
  return `${name}:${about.workspaceId}:${about.id}`
}

export interface PlannedJob {
  name: JobName
  about: JobSubject
  /** When it runs, in seconds since the epoch. */
  at: number
  /** Higher ones run after lower ones that are due. */
  priority?: number | undefined
  /** It is planned only where this holds. */
  where?: SQL
}

/** The call that plans jobs; planning one again for the same subject moves it to the new time. */
export function addJobs(jobs: readonly PlannedJob[]): SQL {
  const conditional = jobs.filter(({ where }) => where)
  const specs = [jobs.filter(({ where }) => !where), ...conditional.map(job => [job])].filter(of => of.length > 0)
  return sql`graphile_worker.add_jobs(array(${sql.join(specs.map(specsOf), sql` union all `)}))`
}

function specsOf(jobs: readonly PlannedJob[]): SQL {
  const specs = jobs.map(({ name, about, at, priority = priorities[name] ?? 0 }) =>
    ({ name, payload: about, run_at: dateOf(at).toISOString(), key: jobKey(name, about), priority }))
  return sql`select (name, payload, null, run_at, ${MOST_RUNS}::smallint, key, priority, null)::graphile_worker.job_spec
    from json_to_recordset(${JSON.stringify(specs)}::json) as spec(name text, payload json, run_at timestamptz, key text, priority int)
    where ${jobs[0]?.where ?? sql`true`}`
}

export async function planJob(db: Database, name: JobName, about: JobSubject, at: number): Promise<void> {
  await db.execute(sql`select ${addJobs([{ name, about, at }])}`)
}

const waits = [2, 5, 15, 30, 60, 120, 300, 600, 900, 1800]
const LONGEST_WAIT = 3600

/** Seconds to wait after a number of failed tries: longer each time, an hour at most. */
export function waitAfter(attempts: number, pace: number): number {
  return Math.max(1, Math.round((waits[attempts - 1] ?? LONGEST_WAIT) * pace))
}
