import { sql, type SQL } from 'drizzle-orm'
import { changeTable } from '../../core/booking/change-table'
import { takingStates } from '../../core/booking/states'

/** What must hold of the rows of an installation, each as a query for what breaks it. */

export interface RowPromise {
  /** What is broken where the query finds something. */
  name: string
  /** Rows of `workspace`, `subject` (an id) and `detail`. */
  query: (now: Date) => SQL
}

const list = (values: readonly string[]) => sql.join(values.map(value => sql`${value}`), sql`, `)
const taking = list(takingStates)
/** Changes of a booking by what they lead to. */
const bookingChanges = Object.entries(changeTable).filter(([, { subject }]) => subject === 'booking')
const transitions = bookingChanges.flatMap(([kind, { from, to }]) => from.map(state => `${kind} ${state ?? '-'} ${to}`))
const revising = bookingChanges.filter(([, { from, revises }]) => !from.includes(null) && revises.includes('client')).map(([kind]) => kind)

/** Minutes after which something that should have happened has not. */
const LATE_MINUTES = 15

export const rowPromises: readonly RowPromise[] = [
  {
    name: 'a host sits in two sessions at once',
    query: () => sql`select a.workspace_id as workspace, a.session_id as subject, 'with ' || b.session_id as detail
      from session_hosts a join session_hosts b on b.workspace_id = a.workspace_id and b.host_id = a.host_id
        and b.session_id > a.session_id and b.padded && a.padded and b.active
      where a.active`,
  },
  {
    name: 'seats are not what is booked, or more than there are',
    query: () => sql`select s.workspace_id as workspace, s.id as subject, s.seats_taken || ' counted, ' || coalesce(sum(b.people), 0) || ' booked, of ' || s.seats as detail
      from sessions s left join bookings b on b.workspace_id = s.workspace_id and b.session_id = s.id and b.state in (${taking})
      where not s.cancelled group by s.workspace_id, s.id having coalesce(sum(b.people), 0) <> s.seats_taken or coalesce(sum(b.people), 0) > s.seats`,
  },
  {
    name: 'a daily limit is exceeded',
    // Only sessions booked under the settings as they are now: a limit may have been lowered since.
    query: () => sql`select s.workspace_id as workspace, min(s.id::text) as subject, count(*) || ' of ' || (e.settings ->> 'dailyLimit') as detail
      from sessions s join event_types e on e.workspace_id = s.workspace_id and e.id = s.event_type_id
      join session_hosts h on h.workspace_id = s.workspace_id and h.session_id = s.id and h.active
      where not s.cancelled and (e.settings ->> 'dailyLimit') is not null
        and exists (select 1 from pg_timezone_names where name = e.settings ->> 'timeZone')
        and exists (select 1 from bookings b where b.workspace_id = s.workspace_id and b.session_id = s.id and b.created_at > e.updated_at)
        and not exists (select 1 from changes c where c.workspace_id = s.workspace_id and c.session_id = s.id
          and (c.kind = 'handedOver' or (c.kind in ('moved', 'joined') and c.actor_kind = 'member')))
      group by s.workspace_id, e.id, e.settings, h.host_id, (s.starts_at at time zone (e.settings ->> 'timeZone'))::date
      having count(*) > (e.settings ->> 'dailyLimit')::int`,
  },
  {
    name: 'a booking is in a state that no change led to',
    query: () => sql`select b.workspace_id as workspace, b.id as subject, b.state || ', last changed to ' || coalesce(c.to_state, '-') as detail
      from bookings b left join lateral (select to_state from changes where changes.workspace_id = b.workspace_id and changes.booking_id = b.id
        and changes.to_state is not null order by at desc, (to_state = b.state) desc limit 1) c on true
      where c.to_state is distinct from b.state and exists (select 1 from changes where changes.workspace_id = b.workspace_id and changes.booking_id = b.id)
      union all select workspace_id, booking_id, kind || ' from ' || coalesce(from_state, '-') || ' to ' || to_state from changes
      where booking_id is not null and to_state is not null
        and kind || ' ' || coalesce(from_state, '-') || ' ' || to_state not in (${list(transitions)})`,
  },
  {
    name: 'a session stands without bookings, or is cancelled with some',
    query: () => sql`select s.workspace_id as workspace, s.id as subject, case when s.cancelled then 'cancelled, with bookings' else 'nobody is booked' end as detail
      from sessions s where s.cancelled = exists (
        select 1 from bookings b where b.workspace_id = s.workspace_id and b.session_id = s.id and b.state in (${taking}))`,
  },
  {
    name: 'money is not where its booking says',
    // Paid less what is paid back: all of a booking that stands, nothing of one that never came about.
    query: () => sql`select p.workspace_id as workspace, b.id as subject, b.state || ', ' || p.state || ', ' || p.paid_amount || ' paid, ' || p.refund_amount || ' to pay back' as detail
      from payments p join bookings b on b.workspace_id = p.workspace_id and b.id = p.booking_id
      where p.account_id is not null and (case b.state
        when 'held' then p.state <> 'wanted' or p.paid_amount > 0
        when 'expired' then p.state = 'wanted' or p.refund_amount <> p.paid_amount
        when 'declined' then p.refund_amount <> p.paid_amount
        when 'cancelled' then p.state = 'wanted'
        else p.state <> 'paid' or (p.refund_amount > 0 and p.price ->> 'per' = 'booking') end)`,
  },
  {
    name: 'money waits to be paid back and nothing works on it',
    query: () => sql`select p.workspace_id as workspace, p.booking_id as subject, p.refund_amount - p.refunded_amount || ' ' || p.currency as detail
      from payments p where p.refunded_amount < p.refund_amount
        and not exists (select 1 from graphile_worker.jobs j where j.key = 'refundPayment:' || p.workspace_id || ':' || p.id)`,
  },
  {
    name: 'a message is overdue',
    query: now => sql`select d.workspace_id as workspace, coalesce(d.booking_id, d.member_id) as subject, d.occasion || ' to ' || d.audience || ', ' || d.state as detail
      from deliveries d where d.state in ('planned', 'sending') and d.created_at < ${late(now)} and coalesce(d.next_try_at, d.created_at) < ${late(now)}
        and not exists (select 1 from graphile_worker.jobs j where j.key = 'deliver:' || d.workspace_id || ':' || d.id and j.attempts < j.max_attempts)`,
  },
  {
    name: 'a message was planned twice',
    query: () => sql`select workspace_id as workspace, coalesce(booking_id, member_id) as subject, occasion || ' to ' || audience || ', ' || count(*) || ' times' as detail
      from deliveries where change_id is not null
      group by workspace_id, change_id, booking_id, member_id, occasion, audience, channel, address having count(*) > 1`,
  },
  {
    name: 'a calendar entry has been changed without its SEQUENCE rising',
    query: () => sql`select b.workspace_id as workspace, b.id as subject, b.sequence || ' after ' || c.changes || ' changes' as detail
      from bookings b join lateral (select count(*) as changes from changes
        where changes.workspace_id = b.workspace_id and changes.booking_id = b.id and changes.kind in (${list(revising)})) c on true
      where b.sequence < c.changes`,
  },
  {
    name: 'a job is stuck',
    query: now => sql`select split_part(key, ':', 2)::uuid as workspace, split_part(key, ':', 3) as subject, task_identifier || coalesce(', ' || attempts || ' runs', '') as detail
      from graphile_worker.jobs where key like '%:%:%'
        and (attempts >= max_attempts or (locked_at is null and run_at < ${late(now)}) or locked_at < ${late(now)})`,
  },
  {
    name: 'a session waits for a room that nothing works on',
    query: now => sql`select r.workspace_id as workspace, r.session_id as subject, r.state || coalesce(', ' || (r.last_fault -> 'fault' ->> 'code'), '') as detail
      from rooms r join sessions s on s.workspace_id = r.workspace_id and s.id = r.session_id
      where r.replaced_at is null and r.state in ('planned', 'making', 'failing') and not s.cancelled and s.starts_at > ${iso(now)}
        and s.place ->> 'kind' = 'video' and r.waits_for is null and coalesce(r.last_fault -> 'fault' ->> 'code', '') <> 'noVideoAccount'
        and exists (select 1 from bookings b where b.workspace_id = s.workspace_id and b.session_id = s.id and b.state = 'confirmed')
        and not exists (select 1 from graphile_worker.jobs j where j.key = 'makeRoom:' || r.workspace_id || ':' || r.id)`,
  },
  {
    name: 'a row points into another workspace',
    query: () => sql`select r.workspace_id as workspace, r.session_id as subject, 'rooms.way_host_id' as detail from rooms r
      where r.way_host_id is not null and not exists (select 1 from hosts h where h.workspace_id = r.workspace_id and h.id = r.way_host_id)
      union all select r.workspace_id, r.session_id, 'rooms.waits_for' from rooms r
      where r.waits_for is not null and not exists (select 1 from video_accounts v where v.workspace_id = r.workspace_id and v.id = r.waits_for)
      union all select v.workspace_id, v.id, 'video_accounts.probe_room_id' from video_accounts v
      where v.probe_room_id is not null and not exists (select 1 from rooms r where r.workspace_id = v.workspace_id and r.id = v.probe_room_id)
      union all select t.workspace_id, t.session_id, 'trail.booking_id' from trail t
      where t.booking_id is not null and not exists (select 1 from bookings b where b.workspace_id = t.workspace_id and b.id = t.booking_id
        -- It may have gone to another session since.
        and (b.session_id = t.session_id or exists (select 1 from changes c where c.workspace_id = t.workspace_id and c.booking_id = b.id and c.session_id = t.session_id)))
      union all select a.workspace_id, a.session_id, 'assignments.turns' from assignments a, jsonb_array_elements(a.turns) as turn
      where not exists (select 1 from hosts h where h.workspace_id = a.workspace_id and h.id = (turn ->> 'host')::uuid)`,
  },
]

const iso = (at: Date) => sql`${at.toISOString()}::timestamptz`
const late = (now: Date) => iso(new Date(now.getTime() - LATE_MINUTES * 60_000))
