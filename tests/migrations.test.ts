import { randomUUID } from 'node:crypto'
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { drizzle } from 'drizzle-orm/node-postgres'
import pg from 'pg'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { migrateDatabase } from '../server/database/migrate'
import * as schema from '../server/database/schema'
import { listVersions, loadEventTypes } from '../server/event-types'
import { hashPassword } from '../server/people'
import { findByPassword, firstMembership } from '../server/people/accounts'

const FOLDER = 'server/database/migrations'
const name = `old_${randomUUID().replaceAll('-', '')}`
let admin: pg.Pool
let pool: pg.Pool
let first: string

beforeAll(async () => {
  admin = new pg.Pool({ connectionString: inject('databaseUrl') })
  await admin.query(`create database ${name}`)
  const url = new URL(inject('databaseUrl'))
  url.pathname = `/${name}`
  pool = new pg.Pool({ connectionString: url.href })
  // Only the first migration, as an installation of that day has it.
  first = mkdtempSync(join(tmpdir(), 'temporia-first-'))
  mkdirSync(join(first, 'meta'))
  const journal = JSON.parse(readFileSync(join(FOLDER, 'meta/_journal.json'), 'utf8'))
  writeFileSync(join(first, 'meta/_journal.json'), JSON.stringify({ ...journal, entries: journal.entries.slice(0, 1) }))
  cpSync(join(FOLDER, '0000_first.sql'), join(first, '0000_first.sql'))
})
afterAll(async () => {
  await pool.end()
  await admin.query(`drop database ${name}`)
  await admin.end()
  rmSync(first, { recursive: true, force: true })
})

describe('an installation of the first day', () => {
  it('is brought to the present with its event types, hours and chairs as they were', async () => {
    await migrateDatabase(pool, first)
    const [workspace, host, eventType, chair] = [randomUUID(), randomUUID(), randomUUID(), randomUUID()]
    const plan = {
      timeZone: 'Europe/Lisbon',
      weekly: [{ days: ['MO'], from: '09:00', to: '17:00' }],
      recurring: [],
      exceptions: [],
      valid: { from: null, to: null },
    }
    const settings = {
      name: 'Talk',
      summary: '',
      description: '',
      timeZone: 'Europe/Lisbon',
      durations: [30],
      startEveryMinutes: 30,
      bufferBeforeMinutes: 0,
      bufferAfterMinutes: 0,
      leadTimeMinutes: 0,
      horizon: { kind: 'open' },
      dailyLimit: null,
      weeklyLimit: null,
      seats: 1,
      approval: false,
      hours: { mode: 'narrow', plan },
      places: [{ key: 'video', kind: 'video', label: '', detail: '' }],
      questions: [],
      calendarTitle: 'Talk',
    }
    await pool.query('insert into workspaces (id, slug, name, time_zone, looks) values ($1, $2, $3, $4, $5)', [
      workspace,
      'old',
      'Old',
      'Europe/Lisbon',
      { colour: '#54305C' },
    ])
    const owner = ['Ana Reis', 'ana@old.example', 'owner', 'Europe/Lisbon', await hashPassword('moss-and-lantern')]
    await pool.query(
      'insert into members (workspace_id, name, email, role, time_zone, password_hash) values ($1, $2, $3, $4, $5, $6)', [workspace, ...owner],
    )
    await pool.query('insert into hosts (workspace_id, id, name, email, time_zone) values ($1, $2, $3, $4, $5)', [
      workspace,
      host,
      'Ana Reis',
      'ana@old.example',
      'Europe/Lisbon',
    ])
    await pool.query('insert into hours_plans (workspace_id, host_id, name, plan) values ($1, $2, $3, $4)', [
      workspace,
      host,
      'Hours',
      plan,
    ])
    await pool.query('insert into event_types (workspace_id, id, slug, state, settings, version) values ($1, $2, $3, $4, $5, 4)', [
      workspace,
      eventType,
      'talk',
      'open',
      settings,
    ])
    await pool.query('insert into chairs (workspace_id, id, event_type_id, position, name, policy) values ($1, $2, $3, 0, $4, $5)', [
      workspace,
      chair,
      eventType,
      'Host',
      'fairShare',
    ])
    await pool.query('insert into chair_hosts (workspace_id, chair_id, host_id, position, weight, credit) values ($1, $2, $3, 0, 2, 0.5)', [
      workspace,
      chair,
      host,
    ])

    await migrateDatabase(pool, FOLDER)
    const db = drizzle(pool, { schema })
    const account = await findByPassword(db, 'ana@old.example', 'moss-and-lantern')
    expect(await firstMembership(db, account?.id ?? '')).toMatchObject({ workspaceId: workspace, role: 'owner', confirmed: true })
    const [loaded] = await loadEventTypes(db, workspace)
    expect(loaded).toMatchObject({
      slug: 'talk',
      archived: false,
      settings: { durations: [30], guests: true, tags: [], hours: { plan: { holidays: [] } } },
      chairs: [{ id: chair, hosts: [{ id: host, name: 'Ana Reis', weight: 2 }] }],
    })
    expect((await pool.query('select pool_id, host_id, credit from turns')).rows, 'what rotation remembers').toEqual([
      { pool_id: chair, host_id: host, credit: 0.5 },
    ])
    const [version] = await listVersions(db, workspace, eventType)
    expect(version).toMatchObject({
      version: 4,
      definition: {
        slug: 'talk',
        state: 'open',
        chairs: [{ id: chair, policy: 'fairShare', hosts: [{ id: host, name: 'Ana Reis', weight: 2 }] }],
      },
    })
    expect((await pool.query('select plan from hours_plans')).rows[0].plan.holidays).toEqual([])
    // Again is nothing new.
    await migrateDatabase(pool, FOLDER)
  })
})
