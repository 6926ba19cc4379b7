import { sql } from 'drizzle-orm'
import { changeTable } from '../../core/booking/change-table'
import { dueReminder, MOST_MINUTES, reminderKey, type Reminder } from '../../core/event-type/reminders'
import { occasionTable } from '../../core/messages/occasions'
import { planDeliveries } from '../changes'
import { type Context, dateOf } from '../context'
import { Batch } from '../database/batch'
import { recipientsOf } from '../details'
import { AFTER_OTHERS } from '../jobs/queue'
import { bookedOf, type Candidate, candidateColumns, wanting } from './candidates'

/**
 * Reminders are planned as they become due, from the bookings as they stand then: whatever has moved, was cancelled or could not
 * be sent for a day needs nothing of its own. One delivery for each booking, reminder, start and address, whoever plans it.
 */

/** Bookings that are looked at in one go. */
const PAGE = 1000

/** Changes whose messages tell clients everything that a reminder says. */
const telling = Object.entries(changeTable)
  .filter(([, { messages }]) => messages.some(({ to, occasion }) => to.includes('client') && occasionTable[occasion].calendar === 'REQUEST'))
  .map(([kind]) => kind)

interface DueCandidate extends Candidate {
  zone: string
  /** Seconds since the epoch. */
  start: number
  toldAt: number
  reminders: Reminder[]
  /** Reminders of this start that are planned already. */
  planned: string[]
}

export async function planReminders(context: Context): Promise<void> {
  let after: Pick<DueCandidate, 'start' | 'bookingId'> | null = null
  for (;;) {
    const found: DueCandidate[] = await loadCandidates(context, after)
    const batch = new Batch()
    for (const candidate of found) plan(context, batch, candidate)
    await batch.write(context.db)
    after = found.at(-1) ?? null
    if (found.length < PAGE || !after) return
  }
}

function plan(context: Context, batch: Batch, candidate: DueCandidate): void {
  const { workspaceId, bookingId, reminders, planned, start } = candidate
  const now = context.now()
  const reminder = dueReminder(reminders, candidate, now)
  const key = reminder && reminderKey(reminder)
  if (key === null || planned.includes(key)) return
  planDeliveries(
    batch, context, { workspaceId, changeId: null, bookingId, sessionId: null, memberId: null, reminder: key, remindsOf: dateOf(start) },
    'before', wanting(recipientsOf(bookedOf(candidate), ['client', 'guests']), candidate), now, AFTER_OTHERS,
  )
}

/** Confirmed bookings that a reminder may be due for, by start. */
async function loadCandidates(
  { db, now }: Context, after: Pick<DueCandidate, 'start' | 'bookingId'> | null,
): Promise<DueCandidate[]> {
  const at = dateOf(now()).toISOString()
  const { rows } = await db.execute<DueCandidate>(sql`
    select ${candidateColumns},
      b.time_zone as zone, extract(epoch from s.starts_at)::int as start, e.settings -> 'reminders' as reminders,
      coalesce((select extract(epoch from max(c.at))::int from changes c where c.workspace_id = b.workspace_id and c.session_id = s.id
        and (c.booking_id = b.id or c.booking_id is null) and c.kind = any(${sql.param(telling)})), 0) as "toldAt",
      array(select distinct d.reminder from deliveries d where d.workspace_id = b.workspace_id and d.booking_id = b.id
        and d.reminds_of = s.starts_at) as planned
    from sessions s
    join event_types e on e.workspace_id = s.workspace_id and e.id = s.event_type_id
    join bookings b on b.workspace_id = s.workspace_id and b.session_id = s.id and b.state = 'confirmed'
    where not s.cancelled and s.starts_at > ${at}::timestamptz and s.starts_at <= ${at}::timestamptz + ${MOST_MINUTES} * interval '1 minute'
      and s.starts_at <= ${at}::timestamptz + (
        select max(case r ->> 'kind' when 'before' then (r ->> 'minutes')::int else 3 * 1440 end) * interval '1 minute'
        from jsonb_array_elements(e.settings -> 'reminders') as r)
      ${after ? sql`and (s.starts_at, b.id) > (to_timestamp(${after.start}), ${after.bookingId}::uuid)` : sql``}
    order by s.starts_at, b.id limit ${PAGE}`)
  return rows
}
