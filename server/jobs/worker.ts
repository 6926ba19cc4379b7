import { EventEmitter } from 'node:events'
import { Logger, run, type Runner, type TaskList, type WorkerEvents } from 'graphile-worker'
import type pg from 'pg'
import type { Context } from '../context'
import { deliver } from '../messages'
import { makeRoom, withdrawRoom } from '../rooms'
import { type JobName, type JobSubject, readJobSubject } from './queue'

const handlers: Record<JobName, (context: Context, subject: JobSubject) => Promise<void>> = { makeRoom, withdrawRoom, deliver }

const CONCURRENCY = 4
const RECOVER_EVERY_SECONDS = 5
/** Any number that only worker locks use as their first key. */
const WORKER_LOCK = 7_304_218

export function taskListFor(context: Context): TaskList {
  return Object.fromEntries(Object.entries(handlers).map(([name, handler]) =>
    [name, async (payload: unknown) => handler(context, readJobSubject(payload))]))
}

export interface Worker {
  stop: () => Promise<void>
}

/**
 * Runs jobs until stopped. Each of our workers holds a lock that ends with the process; jobs that a worker without its
 * lock left behind (the process was killed) are given back to the queue.
 */
export async function startWorker(context: Context, report: (message: string) => void): Promise<Worker> {
  const holder = await context.pool.connect()
  let broken = false
  holder.on('error', () => (broken = true))
  const events: WorkerEvents = new EventEmitter()
  let locking: Promise<unknown> = Promise.resolve()
  events.on('worker:create', ({ worker }) => {
    locking = locking
      .then(() => holder.query('select pg_advisory_lock($1, hashtext($2))', [WORKER_LOCK, worker.workerId]))
      .catch(() => (broken = true))
  })
  const runner: Runner = await run({
    pgPool: context.pool,
    taskList: taskListFor(context),
    concurrency: CONCURRENCY,
    noHandleSignals: true,
    pollInterval: 1000,
    logger: new Logger(() => (level, message) => {
      if (level === 'error') report(message)
    }),
    events,
  })
  await locking
  await recoverJobs(context.pool)
  const timer = setInterval(() => {
    recoverJobs(context.pool).catch(error => report(`Jobs left behind could not be looked for: ${String(error)}`))
  }, RECOVER_EVERY_SECONDS * 1000)
  return {
    stop: async () => {
      clearInterval(timer)
      await runner.stop()
      holder.release(broken)
    },
  }
}

/** Gives back the jobs of workers that are gone. A young lock is left alone: its worker may still be starting. */
export async function recoverJobs(pool: pg.Pool): Promise<string[]> {
  const { rows } = await pool.query<{ worker: string }>(
    `select distinct locked_by as worker from graphile_worker.jobs where locked_by is not null and locked_at < now() - interval '3 seconds'`)
  const client = await pool.connect()
  const gone: string[] = []
  try {
    for (const { worker } of rows) {
      const { rows: [answer] } = await client.query<{ free: boolean }>('select pg_try_advisory_lock($1, hashtext($2)) as free', [WORKER_LOCK, worker])
      if (!answer?.free) continue
      gone.push(worker)
      await client.query('select pg_advisory_unlock($1, hashtext($2))', [WORKER_LOCK, worker])
    }
    if (gone.length > 0) await client.query('select graphile_worker.force_unlock_workers($1)', [gone])
  } finally {
    client.release()
  }
  return gone
}
