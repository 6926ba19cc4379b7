import { expect } from 'vitest'
import type { Context } from '../../server/context'

/** Waits until nothing of a workspace is left in the queue: its rooms are made and its mails are sent. */
export async function untilQuiet({ pool }: Context, workspaceId: string): Promise<void> {
  const left = async () =>
    (await pool.query<{ task: string }>('select task_identifier as task from graphile_worker.jobs where key like $1', [`%:${workspaceId}:%`])).rows
  await expect.poll(left, { timeout: 30_000, message: 'jobs left in the queue' }).toEqual([])
}
