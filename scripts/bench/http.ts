import { execFile } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { promisify } from 'node:util'
import autocannon from 'autocannon'
import { DAY, formatDate, formatInstant } from '../../core/time/civil'
import type { Context } from '../../server/context'
import { closeContext, makeContext } from '../../server/start'
import { makeWorkspace, type TestWorkspace } from '../../tests/support/workspace'
import { type Installation, removeInstallation, separateJobs, startInstallation } from '../run/installation'
import { measureSync } from './sync'

/**
 * How fast the application answers, measured from outside on this machine: a process for requests and one for jobs, the
 * demo's data, twenty connections. Figures are ratios to a trivial call of the same run, so that they hold on other machines.
 */

const run = promisify(execFile)

const CONNECTIONS = 20
const SECONDS = 6
const UNLIMITED = {
  BOOKINGS_PER_MINUTE: '1000000', READS_PER_MINUTE: '1000000000', UNOPENED_MAILS_PER_HOUR: '100000', MAX_CONNECTIONS_PER_SOURCE: '1000',
}

/** Prints a line for each figure with its goal; a goal that is missed fails nothing. */
export async function measureHttp(print: (text: string) => void): Promise<void> {
  const folder = mkdtempSync('/var/tmp/temporia-bench-')
  const installation = await startInstallation(folder, { throwAway: true, more: UNLIMITED, firstPort: 5310 })
    .catch(async (error) => {
      await removeInstallation(folder)
      throw error
    })
  const jobs = await separateJobs(installation)
  const context = await makeContext(installation.environment)
  try {
    await measureReads(installation, print)
    await measureSync(installation, context, print)
    await measurePast(installation, context, print)
    await measureBookings(installation, context, print)
  } finally {
    await closeContext(context)
    await jobs.stop()
    await installation.stop()
    await removeInstallation(folder)
  }
}

const urlOf = ({ places }: Installation) => `http://127.0.0.1:${places.appPort}`

async function measureReads(installation: Installation, print: (text: string) => void): Promise<void> {
  const url = urlOf(installation)
  const today = Math.floor(Date.now() / 1000 / DAY)
  const openings = `/api/public/fernhollow/damage-triage/openings?from=${formatDate(today)}&to=${formatDate(today + 13)}&timeZone=Europe/Lisbon`
  const trivial = await rate(url, '/health/live')
  print(`A trivial call: ${trivial.toFixed(0)} a second`)
  for (const { name, path, goal } of [
    { name: 'Openings of 14 days with four hosts', path: openings, goal: 0.15 },
    { name: 'The page of an event type', path: '/fernhollow/damage-triage', goal: 0.03 },
    { name: 'The page of a workspace', path: '/fernhollow', goal: 0.04 },
  ]) {
    const found = await rate(url, path)
    print(
      `${name}: ${found.toFixed(0)} a second, ${(found / trivial).toFixed(3)} times the trivial call; goal ${goal} ${judge(found / trivial >= goal)}`,
    )
  }
}

async function rate(url: string, path: string): Promise<number> {
  await autocannon({ url: url + path, connections: CONNECTIONS, duration: 2 })
  const result = await autocannon({ url: url + path, connections: CONNECTIONS, duration: SECONDS })
  if (result.non2xx > 0 || result.errors > 0)
    throw new Error(`${path}: ${result.non2xx} answers that are no success, ${result.errors} errors`)
  return result.requests.average
}

const judge = (met: boolean) => (met ? 'met' : 'MISSED')

/** Openings that nobody has asked for yet, of two workspaces in turn: one new, one with a long past. */
async function measurePast(installation: Installation, context: Context, print: (text: string) => void): Promise<void> {
  const make = () => makeWorkspace(context, { hosts: 4, hours: 'Mo-Fr 09:00-17:00', eventTypes: [{ slug: 'talk' }] })
  const [fresh, old] = [await make(), await make()]
  await context.pool.query(
    `with made as (
      insert into sessions (workspace_id, id, event_type_id, starts_at, ends_at, buffer_before_minutes, buffer_after_minutes, seats, seats_taken, place)
      select $1, gen_random_uuid(), (select id from event_types where workspace_id = $1), now() - past * interval '1 hour', now() - past * interval '1 hour' + interval '30 minutes', 0, 10, 1, 1, '{}'
      from generate_series(24, 10023) as past returning id, starts_at
    ) insert into session_hosts (workspace_id, session_id, host_id, chair_id, padded)
    select $1, id, $2, (select id from chairs where workspace_id = $1), tstzrange(starts_at, starts_at + interval '40 minutes') from made`,
    [old.id, old.hosts[0]?.id],
  )
  await context.pool.query('analyze sessions, session_hosts')
  const today = Math.floor(Date.now() / 1000 / DAY)
  const times = new Map<string, number[]>([[fresh.slug, []], [old.slug, []]])
  for (let day = today; day < today + 120; day++) {
    for (const [slug, measured] of times) {
      const query = `timeZone=Europe/Lisbon&from=${formatDate(day)}&to=${formatDate(day + 13)}`
      const startedAt = performance.now()
      await (await fetch(`${urlOf(installation)}/api/public/${slug}/talk/openings?${query}`)).text()
      measured.push(performance.now() - startedAt)
    }
  }
  const [without = NaN, withPast = NaN] = [...times.values()].map(measured => measured.slice(20).sort((a, b) => a - b)[50])
  print(
    `Openings of 14 days, computed anew: ${without.toFixed(1)} ms; with 10,000 past sessions ${withPast.toFixed(1)} ms, ${(withPast / without).toFixed(2)} times; goal 1.1 ${judge(withPast / without <= 1.1)}`,
  )
}

async function measureBookings(installation: Installation, context: Context, print: (text: string) => void): Promise<void> {
  const url = urlOf(installation)
  const alone = await makeWorkspace(context, { hosts: 1, video: true, eventTypes: [{ slug: 'talk' }] })
  const times: number[] = []
  for (const start of startsFrom(3, 160)) {
    const startedAt = performance.now()
    await book(url, `${alone.slug}/talk`, start)
    times.push(performance.now() - startedAt)
  }
  const median = times.slice(20).sort((a, b) => a - b)[70] ?? NaN
  print(`A booking alone: ${median.toFixed(1)} ms at the median; goal 15 ms ${judge(median <= 15)}`)

  const pool = await makeWorkspace(context, { hosts: 5, video: true, eventTypes: [{ slug: 'talk' }] })
  const limit = await pgbench(installation, pool)
  print(`The same rows written by pgbench with ${CONNECTIONS} clients, without computing anything: ${limit.toFixed(0)} a second`)
  const onePool = await together(url, startsFrom(3, 400).map(start => ({ path: `${pool.slug}/talk`, start })))
  print(
    `Bookings from one pool of five hosts, ${CONNECTIONS} clients: ${onePool.toFixed(0)} a second, ${(onePool / limit).toFixed(3)} of pgbench; goal 60 ${judge(onePool >= 60)}`,
  )

  const many = await makeWorkspace(context, {
    hosts: 10, video: true, eventTypes: Array.from({ length: 10 }, (_, index) => ({ slug: `talk-${index}`, hosts: [index] })),
  })
  const spread = startsFrom(3, 60).flatMap(start =>
    Array.from({ length: 10 }, (_, index) => ({ path: `${many.slug}/talk-${index}`, start })),
  )
  const ten = await together(url, spread)
  print(
    `Bookings over ten event types, ${CONNECTIONS} clients: ${ten.toFixed(0)} a second, ${(ten / limit).toFixed(3)} of pgbench; goal 100 ${judge(ten >= 100)}`,
  )
  const seconds = await untilQuiet(context)
  print(`Rooms and mails of the last 1,000 bookings: queues empty after ${seconds.toFixed(0)} s; goal 30 s ${judge(seconds <= 30)}`)
}

/** Starts every hour, day and night, from some days ahead on. */
function startsFrom(days: number, many: number): string[] {
  const first = (Math.floor(Date.now() / 1000 / DAY) + days) * DAY
  return Array.from({ length: many }, (_, index) => formatInstant(first + index * 3600))
}

async function book(url: string, path: string, start: string): Promise<void> {
  const response = await fetch(`${url}/api/public/${path}/bookings`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'idempotency-key': randomUUID() },
    body: JSON.stringify({
      start,
      timeZone: 'Europe/Lisbon',
      client: { name: 'Ana', email: `${randomUUID()}@client.example` },
      answers: {},
    }),
  })
  const text = await response.text()
  if (response.status !== 201) throw new Error(`${path} at ${start}: ${response.status} ${text.slice(0, 200)}`)
}

/** Bookings a second when twenty clients make them one after the other each. */
async function together(url: string, attempts: { path: string, start: string }[]): Promise<number> {
  const queue = [...attempts]
  const startedAt = performance.now()
  await Promise.all(Array.from({ length: CONNECTIONS }, async () => {
    for (let next = queue.shift(); next; next = queue.shift()) await book(url, next.path, next.start)
  }))
  return attempts.length / ((performance.now() - startedAt) / 1000)
}

async function untilQuiet({ pool }: Context): Promise<number> {
  const startedAt = performance.now()
  for (;;) {
    const { rows } = await pool.query<{ waiting: string }>(
      // Looks at calendars are always planned.
      'select count(*) as waiting from graphile_worker.jobs where attempts < max_attempts and task_identifier <> \'lookAtCalendars\'',
    )
    if (rows[0]?.waiting === '0' || performance.now() - startedAt > 300_000) return (performance.now() - startedAt) / 1000
    await new Promise(resolve => setTimeout(resolve, 200))
  }
}

/** Transactions a second that write what one booking writes, each for a host and an hour of its own. */
async function pgbench({ places, databaseUrl }: Installation, { id, hosts }: TestWorkspace): Promise<number> {
  const script = join(places.folder, 'booking.sql')
  writeFileSync(
    script,
    `
select 1000000 + nextval('bench_hours') as hour \\gset
begin;
insert into idempotency_keys (workspace_id, key, request_hash, status, body) values ('${id}', gen_random_uuid()::text, repeat('x', 64), 201, '{}');
with made as (
  insert into sessions (workspace_id, id, event_type_id, starts_at, ends_at, buffer_before_minutes, buffer_after_minutes, seats, seats_taken, place)
  select '${id}', gen_random_uuid(), id, to_timestamp(:hour * 3600::bigint), to_timestamp(:hour * 3600::bigint + 1800), 0, 10, 1, 1, '{}'
  from event_types where workspace_id = '${id}' limit 1 returning id, starts_at
), seated as (
  insert into session_hosts (workspace_id, session_id, host_id, chair_id, padded)
  select '${id}', made.id, '${hosts[0]?.id}', (select id from chairs where workspace_id = '${id}' limit 1), tstzrange(made.starts_at, made.starts_at + interval '40 minutes') from made
), booked as (
  insert into bookings (workspace_id, session_id, state, client_name, client_email, time_zone, locale, token_seed, token_hash)
  select '${id}', id, 'confirmed', 'Ana', 'ana@client.example', 'UTC', 'en-GB', gen_random_uuid()::text, gen_random_uuid()::text from made returning id, session_id
), told as (
  insert into trail (workspace_id, session_id, code, values) select '${id}', session_id, code, '{}' from booked, (values ('booked'), ('assigned')) as lines(code)
)
insert into deliveries (workspace_id, booking_id, occasion, audience, name, address, state, message_id)
select '${id}', id, 'booked', audience, 'Ana', 'ana@client.example', 'sent', gen_random_uuid()::text from booked, (values ('client'), ('host')) as people(audience);
commit;
`,
  )
  const sql = (text: string) => run('/usr/lib/postgresql/15/bin/psql', ['-q', '-c', text, databaseUrl])
  await sql('create sequence bench_hours')
  const clients = ['-c', String(CONNECTIONS), '-j', '2', '-T', '5']
  const { stdout } = await run('/usr/lib/postgresql/15/bin/pgbench', ['-n', ...clients, '-f', script, databaseUrl])
  await sql(`drop sequence bench_hours;
    delete from deliveries where workspace_id = '${id}'; delete from trail where workspace_id = '${id}'; delete from bookings where workspace_id = '${id}';
    delete from session_hosts where workspace_id = '${id}'; delete from sessions where workspace_id = '${id}'`)
  return Number(/tps = ([\d.]+)/.exec(stdout)?.[1] ?? NaN)
}
