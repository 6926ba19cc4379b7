import { LRUCache } from 'lru-cache'
import { sql } from 'drizzle-orm'
import { DAY } from '../../core/time/civil'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { multirange, storable } from '../database/multirange'
import type { ReadRequest } from '../ports/calendar-reader'

/** What entries take after the days that are worked out ahead: worked out when somebody asks, and kept while nothing changes. */

/** Where hosts' time is read from. */
export type TimeSource = Pick<Context, 'db' | 'now' | 'calendarReader'>

/** As a row of `taken_times`. */
export interface LaterTime {
  host_id: string
  calendar_id: string
  during: string
  is_whole_day: boolean
  is_unconfirmed: boolean
  uid: string
  title: string
}

/** Taken time is worked out for so many days ahead at least, also where a calendar has not answered for months. */
const SURELY_AHEAD_DAYS = 180
/** Time is worked out for so many days at once. */
const PART = 128 * DAY
const MOST_PARTS = 50

interface Later {
  id: string
  hostId: string
  reach: number
  stamp: string
}

const remembered = new LRUCache<string, { stamp: string, times: Promise<LaterTime[]> }>({ max: MOST_PARTS })

/** What is in the way of hosts after the days that have been worked out, up to an instant (seconds). */
export async function laterTimes(
  source: TimeSource, workspaceId: string, hostIds: readonly string[], from: number, to: number,
): Promise<LaterTime[]> {
  if (to < source.now() + SURELY_AHEAD_DAYS * DAY || hostIds.length === 0) return []
  const { rows } = await source.db.execute<Record<keyof Later, never>>(sql`
    select calendars.id, calendars.host_id as "hostId", extract(epoch from calendars.reaches_to)::float8 as reach, hosts.taken_stamp::text as stamp
    from calendars inner join hosts on hosts.workspace_id = calendars.workspace_id and hosts.id = calendars.host_id
    where calendars.workspace_id = ${workspaceId} and calendars.host_id = any(${sql.param([...hostIds])}::uuid[]) and calendars.blocks
      and calendars.reaches_to < ${dateOf(to).toISOString()}::timestamptz
      and exists (select 1 from calendar_objects as object
        where object.workspace_id = calendars.workspace_id and object.calendar_id = calendars.id and object.goes_on)`)
  const found: Promise<LaterTime[]>[] = []
  for (const calendar of rows as Later[]) {
    for (let part = Math.floor(Math.max(from, calendar.reach) / PART); part * PART < to; part++)
      found.push(rememberPart(source, workspaceId, calendar, part))
  }
  return (await Promise.all(found)).flat()
}

function rememberPart(source: TimeSource, workspaceId: string, calendar: Later, part: number): Promise<LaterTime[]> {
  const key = `${calendar.id} ${part}`
  const stamp = `${calendar.stamp} ${calendar.reach}`
  const known = remembered.get(key)
  if (known?.stamp === stamp) return known.times
  const times = readPart(source, workspaceId, calendar, { from: Math.max(part * PART, calendar.reach), to: (part + 1) * PART })
  remembered.set(key, { stamp, times })
  times.catch(() => remembered.delete(key))
  return times
}

async function readPart(
  { db, calendarReader }: TimeSource, workspaceId: string, { id, hostId }: Later, span: { from: number, to: number },
): Promise<LaterTime[]> {
  const { rows: objects } = await db.execute<{ href: string, text: string }>(sql`select href, text from calendar_objects
    where workspace_id = ${workspaceId} and calendar_id = ${id} and goes_on`)
  const read = await calendarReader.read({ ...await loadReading(db, workspaceId, id), ...span, objects })
  return read.flatMap(({ taken }) => taken.map(({ times, isWholeDay, isUnconfirmed, uid, title }) => ({
    host_id: hostId, calendar_id: id, during: multirange(times), is_whole_day: isWholeDay, is_unconfirmed: isUnconfirmed,
    uid: storable(uid), title: storable(title),
  })))
}

/** How a calendar is read: its zones, and its host's own addresses. */
export async function loadReading(db: Database, workspaceId: string, calendarId: string): Promise<Omit<ReadRequest, 'objects' | 'from' | 'to'>> {
  const { rows: [row] } = await db.execute<{ zone: string | null, hostZone: string, addresses: string[] }>(sql`
    select coalesce(calendars.time_zone, calendars.own_time_zone) as zone, hosts.time_zone as "hostZone",
      array_append(account.addresses, lower(hosts.email)) as addresses
    from calendars inner join hosts on hosts.workspace_id = calendars.workspace_id and hosts.id = calendars.host_id
      inner join calendar_accounts as account on account.workspace_id = calendars.workspace_id and account.id = calendars.account_id
    where calendars.workspace_id = ${workspaceId} and calendars.id = ${calendarId}`)
  return row ?? { zone: null, hostZone: 'UTC', addresses: [] }
}
