import { expect } from 'vitest'
import type { Context } from '../../server/context'

/** Waits until nothing in the queue is due: whoever locks a table would hold up jobs, and they the connections of others. */
export async function untilQuiet({ pool }: Context): Promise<void> {
  const left = async () =>
    (await pool.query('select 1 from graphile_worker.jobs where locked_at is not null or run_at < now() + interval \'2 seconds\'')).rows
  await expect.poll(left, { timeout: 60_000, message: 'jobs left in the queue' }).toEqual([])
}
