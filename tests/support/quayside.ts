import { randomInt } from 'node:crypto'
import { eq } from 'drizzle-orm'
import { videoAccounts } from '../../server/database/schema'
import { until } from '../../scripts/run/processes'
import { connectByCredentials } from '../../server/rooms'
import type { Context } from '../../server/context'
import type { TestWorkspace } from './workspace'

/** An account of Quayside Video of a test's own. */

export interface QuaysideAccount {
  number: string
  client: string
  secret: string
}

/** Makes an account whose users have some addresses, the main one first. */
export async function makeQuaysideAccount(url: string, users: readonly { name: string, address: string }[]): Promise<QuaysideAccount> {
  const account = { number: `test-${randomInt(1e9)}`, client: '77', secret: `secret-${randomInt(1e9)}` }
  const response = await fetch(`${url}/accounts`, {
    method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ ...account, name: `Practice ${account.number}`, users }),
  })
  if (!response.ok) throw new Error(await response.text())
  return account
}

/** Does something to an account on the service's own page: `quota`, `secret` or `expire`. */
export async function atQuayside(url: string, { number }: QuaysideAccount, what: string, more: Record<string, string> = {}): Promise<void> {
  await fetch(`${url}/accounts/${number}`, { method: 'POST', redirect: 'manual', body: new URLSearchParams({ do: what, ...more }) })
}

/** Connects it as the workspace's, and waits until it has been looked at. Gives its id here. */
export async function connectQuayside(
  context: Context, workspace: TestWorkspace, { number, client, secret }: QuaysideAccount,
): Promise<string> {
  const connection = context.video.get('quayside')?.connection
  if (connection?.way !== 'credentials') throw new Error('No Quayside Video')
  await connectByCredentials(context, workspace.id, 'quayside', connection, { account: number, client, secret })
  const find = async () => (await context.db.select().from(videoAccounts).where(eq(videoAccounts.workspaceId, workspace.id)))[0]
  await until(async () => Boolean((await find())?.lookedAt), 10, 'The account is not looked at')
  return (await find())?.id ?? ''
}

/** Calls of its interface that the service has answered, newest last, and the most that there were at once. */
export async function callsAtQuayside(url: string): Promise<{ most: number, calls: { call: string, status: number }[] }> {
  return (await fetch(`${url}/calls.json`)).json()
}
