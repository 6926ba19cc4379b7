import { EventEmitter } from 'node:events'
import { Logger, run, type Runner, type TaskList, type WorkerEvents } from 'graphile-worker'
import type pg from 'pg'
import type { Context } from '../context'
import type { FaultReport } from '../log'
import { WORKER_LOCK } from './presence'

/** Jobs that run at the same time. They mostly wait for others' servers, so a process of their own runs many. */
const CONCURRENCY = { all: 10, jobs: 20 } as const
/** Jobs that end within this time are marked as ended together. */
const COMPLETE_DELAY_MS = 50
const CHECK_EVERY_SECONDS = 5
const PAUSE_SECONDS = 1
/** How long jobs under way may take to end when the process stops or the database was lost. */
const STOP_SECONDS = 20
export interface Worker {
  stop: () => Promise<void>
}

/** Runs jobs until stopped, anew whenever the database was lost. */
export async function startWorker(context: Context, tasks: TaskList, report: FaultReport): Promise<Worker> {
  let stopping = false
  let current: RunningJobs | null = await startRunner(context, tasks, report)
  const loop = (async () => {
    while (!stopping) {
      await current?.ended
      const ended = current
      current = null
      await ended?.stop()
      while (!stopping && !current) {
        await pause(PAUSE_SECONDS)
        current = stopping ? null : await startRunner(context, tasks, report).catch(() => null)
      }
    }
  })()
  return {
    stop: async () => {
      stopping = true
      const last = current
      last?.end()
      await loop
    },
  }
}

interface RunningJobs {
  ended: Promise<void>
  end: () => void
  stop: () => Promise<void>
}

/**
 * One run of the queue. Its workers hold a lock that ends with this process or with the connection to the database; jobs that
 * workers without their lock left behind are given back to the queue. Ends when that connection does, since others take its
 * workers for dead from then on.
 */
async function startRunner(context: Context, tasks: TaskList, report: FaultReport): Promise<RunningJobs> {
  const holder = await context.pool.connect()
  let end = () => {}
  const ended = new Promise<void>(resolve => (end = resolve))
  let broken = false
  const lost = () => {
    broken = true
    end()
  }
  holder.on('error', lost)
  holder.on('end', lost)
  const events: WorkerEvents = new EventEmitter()
  let locking: Promise<unknown> = Promise.resolve()
  // Jobs are marked with the name of the pool of workers that took them.
  events.on('pool:create', ({ workerPool }) => {
    locking = holder.query('select pg_advisory_lock($1, hashtext($2))', [WORKER_LOCK, workerPool.id]).catch(lost)
  })
  // Two processes that look at once may meet in a deadlock; whoever is refused looks again a little later.
  const recover = () => recoverJobs(context.pool).then(() => {}, error => report('Looking for jobs left behind', error))
  let runner: Runner
  try {
    runner = await run({
      pgPool: context.pool,
      taskList: tasks,
      concurrency: context.settings.role === 'jobs' ? CONCURRENCY.jobs : CONCURRENCY.all,
      crontab: '17 * * * * cleanUp\n*/10 * * * * lookAtVideoAccounts\n* * * * * warnOfMissingLinks\n* * * * * expireRequests\n* * * * * endHolds\n* * * * * planReminders\n* * * * * planOwnMessages\n40 2 * * * sweepRooms\n10 3 * * * auditNightly',
      noHandleSignals: true,
      pollInterval: 1000,
      // A job that ended and is not yet marked so when the process dies runs again; each finds its work done.
      preset: { worker: { completeJobBatchDelay: COMPLETE_DELAY_MS } },
      // The handlers report what went wrong in them; the queue's own lines hold payloads and statements.
      logger: new Logger(() => () => {}),
      events,
    })
    await locking
    await recover()
  } catch (error) {
    holder.release(true)
    throw error
  }
  runner.promise.then(end, end)
  const timer = setInterval(() => {
    holder.query('select 1').catch(lost)
    void recover()
  }, CHECK_EVERY_SECONDS * 1000)
  return {
    ended,
    end,
    stop: async () => {
      clearInterval(timer)
      await Promise.race([runner.stop().catch(() => {}), pause(STOP_SECONDS)])
      holder.release(broken)
    },
  }
}

function pause(seconds: number): Promise<void> {
  return new Promise(resolve => setTimeout(resolve, seconds * 1000))
}

/**
 * Gives back the jobs of workers that are gone, under new numbers: where they do come to an end, they mark the old ones as done.
 * A young lock is left alone: its workers may still be starting.
 */
export async function recoverJobs(pool: pg.Pool): Promise<string[]> {
  const { rows } = await pool.query<{ worker: string }>(
    `select distinct locked_by as worker from graphile_worker.jobs where locked_by is not null and locked_at < now() - interval '3 seconds'`,
  )
  if (rows.length === 0) return []
  const client = await pool.connect()
  const gone: string[] = []
  let broken: Error | undefined
  try {
    for (const { worker } of rows) {
      const {
        rows: [answer],
      } = await client.query<{ free: boolean }>('select pg_try_advisory_lock($1, hashtext($2)) as free', [WORKER_LOCK, worker])
      if (!answer?.free) continue
      gone.push(worker)
      await client.query('select pg_advisory_unlock($1, hashtext($2))', [WORKER_LOCK, worker])
    }
    if (gone.length > 0) {
      await client.query('update graphile_worker._private_jobs set id = default, locked_by = null, locked_at = null where locked_by = any($1)', [gone])
    }
  } catch (error) {
    broken = error instanceof Error ? error : new Error(String(error))
    throw error
  } finally {
    client.release(broken)
  }
  return gone
}
