import type { QueryConfig } from 'pg'
import type { Context } from '../../server/context'
import { createEventType, createGroup } from '../../server/event-types'
import { makeWorkspace, type TestWorkspace } from '../../tests/support/workspace'
import { sampleSettings } from '../../tests/support/samples'

/** Fills a workspace with as much as a large team gathers in a year or so. */

export interface LoadSize {
  hosts: number
  eventTypes: number
  sessions: number
}

/** The share of sessions that are still to come. */
const COMING = 0.1
/** Between two sessions of one host. */
const HOURS_APART = 7
const POOL = 10
/** What each host's calendar holds of the coming year. */
const ENTRIES = 180
/** For one statement of many rows. */
const FILLING_MS = 600_000

/** The slug of the event type whose chair all hosts take turns in. */
export const WIDE_SLUG = 'type-0'

const places = [{ key: 'call', kind: 'phoneWeCall' as const, label: '', detail: '' }]

export async function fillWorkspace(context: Context, { hosts, eventTypes, sessions }: LoadSize): Promise<TestWorkspace> {
  const workspace = await makeWorkspace(context, { hosts, hours: 'Mo-Fr 08:00-18:00', eventTypes: [] })
  const group = await createGroup(context, workspace.id, { name: 'Everybody', hosts: workspace.hosts.map(({ id }) => ({ id, weight: 1 })) })
  if (group.kind !== 'created') throw new Error('The group was not saved')
  for (let index = 0; index < eventTypes; index++) {
    const pool = Array.from({ length: Math.min(POOL, hosts) }, (_, place) => workspace.hosts[(index * POOL + place) % hosts]?.id ?? '')
    await context.db.transaction(tx => createEventType(tx, workspace.id, {
      slug: `type-${index}`, state: 'open', listed: true,
      settings: sampleSettings({
        name: `Consultation ${index}`, startEveryMinutes: 30, leadTimeMinutes: 0, horizon: { kind: 'open' }, places, tags: [`team ${index % 8}`],
      }),
      chairs: [{
        name: 'Host', policy: 'fairShare',
        ...(index === 0 ? { hosts: [], groups: [{ id: group.id }] } : { hosts: pool.map(id => ({ id, weight: 1 })) }),
      }],
    }, 'Test Owner', new Date()))
  }
  await fillCalendars(context, workspace.id)
  await fillSessions(context, workspace.id, { hosts, eventTypes, sessions })
  return workspace
}

/** A calendar of each host, with an hour taken every other day of the coming year. */
async function fillCalendars({ pool }: Context, workspaceId: string): Promise<void> {
  const steps = [
    `insert into calendar_accounts (workspace_id, host_id, kind, label, looked_at)
     select $1, id, 'file', 'A calendar of ' || name, now() from hosts where workspace_id = $1`,
    `insert into calendars (workspace_id, account_id, host_id, href, name, writable, entries, looked_at, reaches_to)
     select $1, id, host_id, '', label, false, ${ENTRIES}, now(), now() + interval '400 days' from calendar_accounts where workspace_id = $1`,
    `insert into calendar_objects (workspace_id, calendar_id, href, etag, text, entries, goes_on) select $1, id, '', '', '', ${ENTRIES}, false from calendars where workspace_id = $1`,
    `insert into taken_times (workspace_id, host_id, calendar_id, href, during, is_whole_day, is_unconfirmed, uid, title)
     select $1, host_id, id, '', tstzmultirange(tstzrange(at, at + interval '1 hour')), false, false, n || '@load.example', 'Entry ' || n
     from calendars, generate_series(1, ${ENTRIES}) as n,
       lateral (select date_trunc('hour', now()) + n * interval '49 hours' as at) as times where workspace_id = $1`,
  ]
  for (const step of steps) await pool.query(step, [workspaceId])
}

/**
 * Sessions of each host one after the other, past ones and some to come, each in a chair that the host takes turns in, with its
 * booking and what is kept of it. Written by the database itself: through the application it would take hours.
 */
async function fillSessions({ pool }: Context, workspaceId: string, { hosts, eventTypes, sessions }: LoadSize): Promise<void> {
  const each = Math.ceil(sessions / hosts)
  const past = Math.floor(each * (1 - COMING))
  const load = `
    create temporary table load as
    select gen_random_uuid() as session_id, gen_random_uuid() as booking_id, gen_random_uuid() as change_id, host.id as host_id, host.number,
      chair.id as chair_id, chair.event_type_id, chair.pool_id,
      date_trunc('hour', now()) + (nth.n - $3::int) * $4::int * interval '1 hour' + interval '5 minutes' as starts_at,
      nth.n as nth, case when (nth.n * 7 + host.number) % 17 = 0 then 'cancelled' else 'confirmed' end as state
    from (select id, row_number() over (order by id) - 1 as number from hosts where workspace_id = $1) as host
    cross join generate_series(1, $2::int) as nth(n)
    join (select pool.host_id, c.id, c.event_type_id, pool.id as pool_id, pool.wide,
        row_number() over (partition by pool.host_id, pool.wide order by c.id) - 1 as number, count(*) over (partition by pool.host_id, pool.wide) as many
      from (
        select chair_id, chair_id as id, host_id, false as wide from chair_hosts where workspace_id = $1
        union all select g.chair_id, g.group_id, h.host_id, true from chair_groups g join group_hosts h using (workspace_id, group_id) where workspace_id = $1
      ) as pool join chairs c on c.workspace_id = $1 and c.id = pool.chair_id) as chair
      on chair.host_id = host.id and chair.wide = ((host.number + nth.n) % $5::int = 0) and chair.number = nth.n % chair.many`
  const able = `
    create temporary table able as
    select pool_id, array_agg(distinct host_id) as hosts from (
      select chair_id as pool_id, host_id from chair_hosts where workspace_id = $1
      union all select group_id, host_id from group_hosts where workspace_id = $1) as members group by 1`
  const steps = [
    `insert into sessions (workspace_id, id, event_type_id, starts_at, ends_at, buffer_before_minutes, buffer_after_minutes, seats, seats_taken, place, cancelled)
     select $1, session_id, event_type_id, starts_at, starts_at + interval '30 minutes', 0, 10, 1, case when state = 'confirmed' then 1 else 0 end,
       '{"key":"call","kind":"phoneWeCall","label":"","detail":""}', state = 'cancelled' from load`,
    `insert into session_hosts (workspace_id, session_id, host_id, chair_id, padded, active)
     select $1, session_id, host_id, chair_id, tstzrange(starts_at, starts_at + interval '40 minutes'), state = 'confirmed' from load`,
    `insert into bookings (workspace_id, id, session_id, state, client_name, client_email, client_phone, time_zone, locale, token_seed, token_hash, created_at, closed_at)
     select $1, booking_id, session_id, state, 'Client ' || number || ' ' || nth, 'client' || number || '.' || nth || '@load.example', '+351210000000',
       'Europe/Lisbon', 'en-GB', 'seed', booking_id::text, least(now(), starts_at) - interval '2 days',
       case when state = 'cancelled' then least(now(), starts_at) - interval '1 day' end from load`,
    `insert into changes (workspace_id, id, kind, session_id, booking_id, actor_kind, actor_name, from_state, to_state, at)
     select $1, change_id, 'booked', session_id, booking_id, 'client', 'Client', null, 'confirmed', least(now(), starts_at) - interval '2 days' from load`,
    `insert into deliveries (workspace_id, change_id, booking_id, occasion, audience, host_id, name, address, state, message_id, created_at, sent_at)
     select $1, change_id, booking_id, 'booked', audience, case when audience = 'host' then host_id end, 'Somebody', audience || number || '.' || nth || '@load.example', 'sent',
       gen_random_uuid()::text, least(now(), starts_at) - interval '2 days', least(now(), starts_at) - interval '2 days'
     from load, (values ('client'), ('host')) as people(audience)`,
    `insert into trail (workspace_id, session_id, booking_id, at, code, values)
     select $1, session_id, booking_id, least(now(), starts_at) - interval '2 days', 'messageSent', json_build_object('occasion', 'booked', 'address', address, 'link', null)
     from load, (values ('client@load.example'), ('host@load.example')) as mails(address)`,
    `insert into assignments (workspace_id, pool_id, session_id, chair_id, host_id, kind, policy, code, at, turns)
     select $1, pool_id, session_id, chair_id, host_id, 'booked', 'fairShare', 'soonest', least(now(), starts_at) - interval '2 days',
       (select jsonb_agg(jsonb_build_object('host', other, 'weight', 1, 'credit', 0, 'assignedAt', null,
         'change', 1.0 / cardinality(hosts) - case when other = host_id then 1 else 0 end)) from unnest(hosts) as other
        where other = host_id or (hashtext(other::text) + nth) % 5 <> 0)
     from load join able using (pool_id) order by starts_at`,
  ]
  const client = await pool.connect()
  const run = (text: string, values: unknown[] = []) => {
    const query: QueryConfig & { query_timeout: number } = { text, values, query_timeout: FILLING_MS }
    return client.query(query)
  }
  try {
    await run('set statement_timeout = 0')
    await run(load, [workspaceId, each, past, HOURS_APART, eventTypes])
    for (const step of [able, ...steps]) await run(step, [workspaceId])
    await run('drop table load, able')
    // A workspace that has grown to this size was vacuumed and written to disk on the way; else it happens while calls are measured.
    await run('vacuum analyze')
    await run('checkpoint')
  } finally {
    client.release()
  }
}
