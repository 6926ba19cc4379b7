import { sql } from 'drizzle-orm'
import type { Tellable } from '../../core/booking/told'
import { reminderDue } from '../../core/event-type/reminders'
import { MINUTE } from '../../core/time/civil'
import type { Channel } from '../../core/messages/occasions'
import { outsideQuietHours, type QuietHours } from '../../core/messages/quiet-hours'
import { audienceOf, isUnaskedFor, type OwnMessage, ownOccasions, type OwnReader, statesAfter } from '../../core/messages/own'
import { planDeliveries } from '../changes'
import { type Context, dateOf } from '../context'
import { Batch } from '../database/batch'
import { type Observer, type Person, recipientsOf } from '../details'
import { AFTER_OTHERS } from '../jobs/queue'
import { bookedOf, type Candidate, candidateColumns, wanting } from './candidates'

/**
 * Messages of a workspace's own are planned as they become due, like reminders: by the clock, or once a change has happened. One
 * delivery for each booking, message, cause and address, whoever plans it.
 */

/** Bookings that are looked at in one go. */
const PAGE = 1000

interface OwnCandidate extends Candidate {
  ownId: string
  definition: OwnMessage
  /** What it is planned once for: the session's start, or when the change was. Seconds since the epoch. */
  cause: number
  /** Of one by the clock: when the session ends, when the message was added and when the booking was made, in seconds. */
  end: number
  since: number
  bookedAt: number
  /** The client's. */
  zone: string
  quietHours: QuietHours | null
  /** Observers and coordinators, as far as it is for them. */
  observers: Observer[]
  /** Of one on a change: who was told of it, where a member chose that. */
  told?: readonly Tellable[] | null
}

export async function planOwnMessages(context: Context): Promise<void> {
  for (const due of [dueByClock, dueByChange]) {
    let after: OwnCandidate | null = null
    do {
      const { rows }: { rows: OwnCandidate[] } = await context.db.execute<OwnCandidate>(due(context.now(), after))
      const batch = new Batch()
      for (const candidate of rows) plan(context, batch, candidate)
      await batch.write(context.db)
      after = rows.length === PAGE ? rows.at(-1) ?? null : null
    } while (after)
  }
}

function plan(context: Context, batch: Batch, candidate: OwnCandidate): void {
  const { workspaceId, bookingId, ownId, definition, cause } = candidate
  if (!isDue(candidate, context.now())) return
  if (definition.by === 'phone' && !context.phoneTexts) return
  const people = peopleOf(candidate)
  planDeliveries(
    batch, context,
    {
      workspaceId, changeId: null, bookingId, sessionId: null, memberId: null, ownId,
      reminder: `own ${ownId}`, remindsOf: dateOf(cause),
    },
    'own', isUnaskedFor(definition) ? wanting(people, candidate) : people, context.now(), AFTER_OTHERS,
  )
}

/** Whether it is due, and was not so already before the message was there. Seconds. */
function isDue({ definition: { moment, by }, cause, end, zone, quietHours, since, bookedAt }: OwnCandidate, now: number): boolean {
  if (moment.kind === 'on') return true
  const chosen = moment.kind === 'after' ? end + moment.minutes * MINUTE : reminderDue(moment, cause, zone)
  const due = by === 'phone' && moment.kind !== 'after' ? outsideQuietHours(chosen, cause, quietHours, zone) : chosen
  return due <= now && Math.max(due, bookedAt) >= since
}

/** By phone only those whose number is known. */
function peopleOf(candidate: OwnCandidate): (Person & { channel?: Channel })[] {
  const { told = null, definition } = candidate
  const has = (reader: OwnReader) => definition.to.includes(reader)
  const booked = bookedOf(candidate)
  // A coordinator who sits in the session is told as that where hosts are not.
  const people = recipientsOf(
    audienceOf(definition) === 'host' && !has('hosts') ? { ...booked, hosts: [] } : booked,
    [...has('client') ? ['client' as const] : [], ...has('guests') ? ['guests' as const] : [], 'hosts'],
    { reseated: null, guests: null, observers: candidate.observers },
  )
  const readers = people.filter(({ audience }) => (audience !== 'host' || has('hosts')) && (told === null || told.includes(toldAs[audience])))
  return candidate.definition.by === 'mail' ? readers
    : readers.flatMap(person => (person.phone === null ? [] : [{ ...person, channel: 'phone' as const, address: person.phone }]))
}

const toldAs: Record<Person['audience'], Tellable> = { client: 'client', guest: 'guests', host: 'hosts', observer: 'hosts' }

const columns = sql`${candidateColumns}, m.id as "ownId", m.definition,
  coalesce((select json_agg(json_build_object('name', o.name, 'email', o.email, 'phone', coalesce(o.phone, oh.phone))) from members o
    left join hosts oh on oh.workspace_id = o.workspace_id and oh.member_id = o.id
    where o.workspace_id = s.workspace_id and o.account_id is not null and (m.definition -> 'to' @> '["coordinators"]' and o.role = 'coordinator'
      or m.definition -> 'to' @> '["observers"]'
        and o.id::text in (select observer ->> 'id' from jsonb_array_elements(e.settings -> 'observers') as observer))), '[]') as observers`

/** Whether nothing was planned for the cause yet. */
const isNew = (cause: ReturnType<typeof sql>) => sql`not exists (select from deliveries d where d.workspace_id = b.workspace_id and d.booking_id = b.id
  and d.own_id = m.id and d.reminds_of = ${cause})`

type Page = Pick<OwnCandidate, 'bookingId' | 'ownId'> | null
const following = (after: Page) => (after ? sql`and (b.id, m.id) > (${after.bookingId}::uuid, ${after.ownId}::uuid)` : sql``)

const isoOf = (now: number) => dateOf(now).toISOString()

/**
 * Before a session, and after it. Times of day are worked out where all zones are known: the database may not know one that a
 * browser does.
 */
function dueByClock(now: number, after: Page) {
  const at = sql`${isoOf(now)}::timestamptz`
  const moment = sql`m.definition -> 'moment'`
  const days = (count: number) => sql`${count} * interval '1 day'`
  return sql`
    select ${columns}, extract(epoch from s.starts_at)::int as cause, b.time_zone as zone, w.quiet_hours as "quietHours",
      extract(epoch from s.ends_at)::int as "end", extract(epoch from m.since)::int as since, extract(epoch from b.created_at)::int as "bookedAt"
    from own_messages m
    join sessions s on s.workspace_id = m.workspace_id and (m.event_type_id is null or m.event_type_id = s.event_type_id) and not s.cancelled
    join event_types e on e.workspace_id = s.workspace_id and e.id = s.event_type_id
    join bookings b on b.workspace_id = s.workspace_id and b.session_id = s.id
    join workspaces w on w.id = s.workspace_id
    cross join lateral (select (${moment} ->> 'minutes')::int * interval '1 minute'
      -- Before quiet hours, where it would come too late after them.
      + case when m.definition ->> 'by' = 'phone' and ${moment} ->> 'kind' = 'before' then ${days(1)} else interval '0' end as span) lead
    where m.removed_at is null and case ${moment} ->> 'kind'
      when 'before' then s.starts_at > ${at} and s.starts_at <= ${at} + lead.span and b.state = 'confirmed'
      when 'dayBefore' then s.starts_at > ${at} and s.starts_at <= ${at} + ${days(3)} and b.state = 'confirmed'
      when 'after' then s.ends_at <= ${at} - lead.span and s.ends_at > ${at} - lead.span - ${days(LATE_DAYS)}
        and ${JSON.stringify(statesAfter)}::jsonb -> (${moment} ->> 'if') ? b.state
      else false end
      and s.starts_at between ${at} - ${days(MOST_DAYS + LATE_DAYS + 1)} and ${at} + ${days(MOST_DAYS + 2)}
      and ${isNew(sql`s.starts_at`)} and ${isFirstForHosts} ${following(after)}
    order by b.id, m.id limit ${PAGE}`
}

/** Clients get one each; hosts one for the session, whoever of its clients is still there by then. */
const isFirstForHosts = sql.raw(`(m.definition -> 'to' ?| array['client', 'guests'] or not exists (select from bookings o
  where o.workspace_id = b.workspace_id and o.session_id = b.session_id and (o.state = b.state and o.id < b.id
    or exists (select from deliveries d where d.workspace_id = o.workspace_id and d.booking_id = o.id and d.own_id = m.id
      and d.reminds_of = s.starts_at))))`)

/** The longest before or after. */
const MOST_DAYS = 30
/** So late a message after a session still makes sense: hosts may mark only then who came. */
const LATE_DAYS = 3

/** Once something has happened. */
function dueByChange(now: number, after: Page) {
  const at = sql`${isoOf(now)}::timestamptz`
  const row = sql`${JSON.stringify(ownOccasions)}::jsonb -> (m.definition -> 'moment' ->> 'occasion')`
  return sql`
    select ${columns}, extract(epoch from c.at)::int as cause, c.told
    from own_messages m
    join changes c on c.workspace_id = m.workspace_id and c.at >= m.since and c.at > ${at} - interval '1 day'
    join sessions s on s.workspace_id = c.workspace_id and s.id = c.session_id and (m.event_type_id is null or m.event_type_id = s.event_type_id)
    join event_types e on e.workspace_id = s.workspace_id and e.id = s.event_type_id
    join bookings b on b.workspace_id = s.workspace_id and b.session_id = s.id and (c.booking_id = b.id or c.booking_id is null)
    where m.removed_at is null and m.definition -> 'moment' ->> 'kind' = 'on'
      and ${row} -> 'changes' ? c.kind and ${row} -> 'states' ? b.state
      and ${isNew(sql`c.at`)}
      ${following(after)} order by b.id, m.id limit ${PAGE}`
}
