import { eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import { formatTrailEntry } from '../core/catalogue/trail'
import type { Context } from '../server/context'
import { replayLedger } from '../core/rotation/ledger'
import { assignments, chairHosts, turns } from '../server/database/schema'
import { loadLedger } from '../server/rotation'
import { closeContext, makeContext } from '../server/start'
import { readTrail } from '../server/trail'
import { book, request, startsOf } from './support/http'
import { makeWorkspace } from './support/workspace'

const app = inject('app')
let context: Context
beforeAll(async () => (context = await makeContext(inject('environment'))))
afterAll(() => closeContext(context))

const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]

it('shares sessions by weight, also when many book at once, and every one says why it went where it went', async () => {
  const workspace = await makeWorkspace(context, { hosts: 3, eventTypes: [{ slug: 'talk', settings: { places } }] })
  const [heavy] = workspace.hosts
  await context.db.update(chairHosts).set({ weight: 2 }).where(eq(chairHosts.hostId, heavy?.id ?? ''))
  const path = `${workspace.slug}/talk`
  const starts = (await startsOf(app, path)).filter((_, index) => index % 3 === 0).slice(0, 24)
  const answers = await Promise.all(starts.map(start => book(app, path, request(start))))
  expect(answers.map(answer => answer.status)).toEqual(starts.map(() => 201))

  const { rows } = await context.db.execute<{ host: string, many: number }>(sql`
    select host_id as host, count(*)::int as many from session_hosts where workspace_id = ${workspace.id} group by 1`)
  const many = (id: string | undefined) => rows.find(row => row.host === id)?.many ?? 0
  expect(many(heavy?.id)).toBe(12)
  expect(workspace.hosts.slice(1).map(host => many(host.id))).toEqual([6, 6])

  const decided = await context.db.select().from(assignments).where(eq(assignments.workspaceId, workspace.id))
  expect(decided).toHaveLength(24)
  const ledger = await loadLedger(context.db, workspace.id, { poolId: decided[0]?.poolId ?? '' })
  const { pools, faults } = replayLedger(ledger)
  expect(faults).toEqual([])
  const owed = await context.db.select().from(turns).where(eq(turns.workspaceId, workspace.id))
  for (const { poolId, hostId, credit } of owed) expect(pools.get(poolId)?.get(hostId)?.credit).toBeCloseTo(credit, 9)
  expect(Math.abs(owed.reduce((sum, next) => sum + next.credit, 0))).toBeLessThan(1e-9)
  const trail = await readTrail(context.db, workspace.id, decided[0]?.sessionId ?? '')
  const said = trail.map(({ entry }) => formatTrailEntry(entry, 'Europe/Lisbon', 'en-GB'))
  expect(said.join('\n')).toMatch(/Host \d hosts it: (next in turn|most owed) by fair share \(.*Host 0.*were free\)/)
})
