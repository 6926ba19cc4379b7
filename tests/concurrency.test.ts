import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { book, request, startsOf } from './support/http'
import { makeWorkspace } from './support/workspace'

const app = inject('app')
let context: Context
beforeAll(async () => (context = await makeContext(inject('environment'))))
afterAll(() => closeContext(context))

const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]

/** Pairs of active sessions of one host whose padded times overlap, asked of the database itself. */
async function overlaps(): Promise<number> {
  const { rows } = await context.db.execute(sql`
    select 1 from session_hosts a join session_hosts b
      on a.workspace_id = b.workspace_id and a.host_id = b.host_id and a.session_id < b.session_id and a.padded && b.padded
    where a.active and b.active`)
  return rows.length
}

describe('many at once', () => {
  it('200 for the same opening: one has it, the others get the nearest', async () => {
    const workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'talk', settings: { places } }] })
    const path = `${workspace.slug}/talk`
    const start = (await startsOf(app, path))[5] ?? ''
    const answers = await Promise.all(Array.from({ length: 200 }, () => book(app, path, request(start))))
    expect(answers.filter(answer => answer.status === 201)).toHaveLength(1)
    const others = answers.filter(answer => answer.status === 409)
    expect(others).toHaveLength(199)
    for (const { body } of others) {
      expect(body.nearest.length).toBeGreaterThan(0)
      expect(body.nearest.map((item: { start: string }) => item.start)).not.toContain(start)
    }
    expect(await overlaps()).toBe(0)
  })

  it('50 for different openings that touch each other’s buffers: no host sits in two', async () => {
    const workspace = await makeWorkspace(context, {
      hosts: 3,
      eventTypes: [{ slug: 'talk', settings: { places, startEveryMinutes: 10, bufferBeforeMinutes: 5 } }],
    })
    const path = `${workspace.slug}/talk`
    const starts = (await startsOf(app, path)).slice(0, 50)
    const answers = await Promise.all(starts.map(start => book(app, path, request(start))))
    expect(answers.every(answer => answer.status === 201 || answer.status === 409)).toBe(true)
    expect(answers.filter(answer => answer.status === 201).length).toBeGreaterThan(20)
    expect(await overlaps()).toBe(0)
  })

  it('20 for a session of three seats: three have one', async () => {
    const workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'clinic', settings: { places, seats: 3 } }] })
    const path = `${workspace.slug}/clinic`
    const [start = ''] = await startsOf(app, path)
    const answers = await Promise.all(Array.from({ length: 20 }, () => book(app, path, request(start))))
    expect(answers.filter(answer => answer.status === 201)).toHaveLength(3)
  })

  it('10 under a daily limit of two: two have one', async () => {
    const workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'talk', settings: { places, dailyLimit: 2 } }] })
    const path = `${workspace.slug}/talk`
    const all = await startsOf(app, path)
    const day = all[4]?.slice(0, 10) ?? ''
    const answers = await Promise.all(all.filter(start => start.startsWith(day)).slice(0, 10).map(start => book(app, path, request(start))))
    expect(answers.filter(answer => answer.status === 201)).toHaveLength(2)
  })

  it('20 under a limit of three a day over five hosts: three have one', async () => {
    const workspace = await makeWorkspace(context, { hosts: 5, eventTypes: [{ slug: 'talk', settings: { places, totalDailyLimit: 3 } }] })
    const path = `${workspace.slug}/talk`
    const all = await startsOf(app, path)
    const day = all[4]?.slice(0, 10) ?? ''
    const answers = await Promise.all(all.filter(start => start.startsWith(day)).slice(0, 20).map(start => book(app, path, request(start))))
    expect(answers.filter(answer => answer.status === 201)).toHaveLength(3)
    expect((await startsOf(app, path)).filter(start => start.startsWith(day))).toEqual([])
  })

  it('the database itself refuses what would overlap', async () => {
    await expect(
      context.db.execute(sql`
      insert into session_hosts (workspace_id, session_id, host_id, chair_id, padded, active)
      select a.workspace_id, b.id, a.host_id, a.chair_id, a.padded, true
      from session_hosts a join sessions b on b.workspace_id = a.workspace_id and b.id <> a.session_id
      where a.active and not exists (select 1 from session_hosts c where c.workspace_id = b.workspace_id and c.session_id = b.id and c.host_id = a.host_id) limit 1`),
    ).rejects.toMatchObject({ cause: { code: '23P01', constraint: 'session_hosts_no_overlap' } })
  })
})
