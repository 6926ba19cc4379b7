import { and, eq, sql } from 'drizzle-orm'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { calendarObjects, calendars, hosts, takenTimes } from '../database/schema'
import type { CalendarObject } from '../ports/calendar'
import { multirange, storable } from '../database/multirange'
import type { ReadObject } from '../ports/calendar-reader'

/** What is stored of calendars: their objects, and when each of them takes time. */

export type CalendarRow = typeof calendars.$inferSelect

/** How far ahead taken time is worked out, and for how long it stays afterwards. */
export const AHEAD_DAYS = 400
export const PAST_DAYS = 14
const DAY = 24 * 3600

/** Rows that one statement writes at most. */
const ROWS = 3000

export function spanAround(now: number): { from: number, to: number } {
  return { from: now - PAST_DAYS * DAY, to: now + AHEAD_DAYS * DAY }
}

export async function loadEtags(db: Database, { workspaceId, id }: CalendarRow): Promise<Map<string, string>> {
  const rows = await db.select({ href: calendarObjects.href, etag: calendarObjects.etag }).from(calendarObjects)
    .where(isOf(workspaceId, id))
  return new Map(rows.map(row => [row.href, row.etag]))
}

/** Objects that are known to take some of a span. */
export async function hrefsWithin(db: Database, { workspaceId, hostId, id }: CalendarRow, from: number, to: number): Promise<string[]> {
  const rows = await db.selectDistinct({ href: takenTimes.href }).from(takenTimes).where(and(
    eq(takenTimes.workspaceId, workspaceId), eq(takenTimes.hostId, hostId), eq(takenTimes.calendarId, id),
    sql`${takenTimes.during} && tstzrange(${dateOf(from).toISOString()}::timestamptz, ${dateOf(to).toISOString()}::timestamptz)`,
  ))
  return rows.map(({ href }) => href)
}

/** Stores objects as they are now in place of what was known of them: each whole, with its times, and the host's stamp raised. */
export async function saveObjects(
  db: Database, calendar: CalendarRow, objects: readonly CalendarObject[], read: readonly ReadObject[],
): Promise<void> {
  if (objects.length === 0) return
  const texts = new Map(objects.map(object => [object.href, object]))
  const own = { workspaceId: calendar.workspaceId, calendarId: calendar.id }
  await db.transaction(async (tx) => {
    await removeObjects(tx, calendar, read.map(({ href }) => href), false)
    await tx.execute(sql`insert into ${calendarObjects} (workspace_id, calendar_id, href, etag, text, entries, unread, goes_on)
      select ${own.workspaceId}::uuid, ${own.calendarId}::uuid, href, etag, text, entries, unread, goes_on
      from json_to_recordset(${JSON.stringify(read.map(({ href, entries, unread, goesOn }) => ({
        href, entries, unread, goes_on: goesOn, etag: storable(texts.get(href)?.etag ?? ''), text: storable(texts.get(href)?.text ?? ''),
      })))}::json) as object(href text, etag text, text text, entries int, unread jsonb, goes_on boolean)`)
    await insertTimes(tx, calendar, read)
    await raiseStamp(tx, calendar)
  })
}

/** Works the times of objects out anew. */
export async function replaceTimes(db: Database, calendar: CalendarRow, read: readonly ReadObject[]): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.delete(takenTimes).where(and(
      eq(takenTimes.workspaceId, calendar.workspaceId), eq(takenTimes.calendarId, calendar.id),
      sql`${takenTimes.href} = any(${sql.param(read.map(({ href }) => href))}::text[])`,
    ))
    await tx.execute(sql`update ${calendarObjects} set goes_on = object.goes_on, entries = object.entries, unread = object.unread
      from json_to_recordset(${JSON.stringify(read.map(({ href, entries, unread, goesOn }) => ({ href, entries, unread, goes_on: goesOn })))}::json)
        as object(href text, entries int, unread jsonb, goes_on boolean)
      where ${calendarObjects.workspaceId} = ${calendar.workspaceId} and ${calendarObjects.calendarId} = ${calendar.id} and ${calendarObjects.href} = object.href`)
    await insertTimes(tx, calendar, read)
    await raiseStamp(tx, calendar)
  })
}

async function insertTimes(tx: Database, { workspaceId, id, hostId }: CalendarRow, read: readonly ReadObject[]): Promise<void> {
  const rows = read.flatMap(({ href, taken }) => taken.map(({ times, isWholeDay, isUnconfirmed, uid, title }) => ({
    href, is_whole_day: isWholeDay, is_unconfirmed: isUnconfirmed, uid: storable(uid), title: storable(title), during: multirange(times),
  })))
  for (let at = 0; at < rows.length; at += ROWS) {
    await tx.execute(sql`insert into ${takenTimes} (workspace_id, host_id, calendar_id, href, during, is_whole_day, is_unconfirmed, uid, title)
      select ${workspaceId}::uuid, ${hostId}::uuid, ${id}::uuid, href, during, is_whole_day, is_unconfirmed, uid, title
      from json_to_recordset(${JSON.stringify(rows.slice(at, at + ROWS))}::json)
        as taken(href text, during tstzmultirange, is_whole_day boolean, is_unconfirmed boolean, uid text, title text)`)
  }
}

/** What is over takes nobody's time any more. */
export async function deletePastTimes({ db, now }: Pick<Context, 'db' | 'now'>): Promise<void> {
  await db.execute(sql`delete from ${takenTimes} where upper(${takenTimes.during}) < ${dateOf(now() - PAST_DAYS * DAY).toISOString()}::timestamptz`)
}

/** Deletes objects with their times; `raises` unless others take their place at once. */
export async function removeObjects(db: Database, calendar: CalendarRow, hrefs: readonly string[], raises = true): Promise<void> {
  if (hrefs.length === 0) return
  await db.delete(calendarObjects).where(and(
    isOf(calendar.workspaceId, calendar.id), sql`${calendarObjects.href} = any(${sql.param([...hrefs])}::text[])`,
  ))
  if (raises) await raiseStamp(db, calendar)
}

/** Whatever was computed from the host's taken time no longer holds. */
export async function raiseStamp(db: Database, { workspaceId, hostId }: Pick<CalendarRow, 'workspaceId' | 'hostId'>): Promise<void> {
  await db.update(hosts).set({ takenStamp: sql`${hosts.takenStamp} + 1` }).where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.id, hostId)))
}

/** What a look has come to, once all of it is stored. */
export async function saveLook(
  { db, now }: Pick<Context, 'db' | 'now'>, { workspaceId, id }: CalendarRow, found: { state: string | null, reachesTo: number | null },
): Promise<void> {
  await db.update(calendars).set({
    syncState: found.state,
    lookedAt: dateOf(now()),
    isGone: false,
    ...(found.reachesTo === null ? {} : { reachesTo: dateOf(found.reachesTo) }),
    entries: sql`(select coalesce(sum(entries), 0) from ${calendarObjects} where ${isOf(workspaceId, id)})`,
    unread: sql`(select coalesce(jsonb_agg(one), '[]') from (select jsonb_array_elements(${calendarObjects.unread}) as one from ${calendarObjects}
      where ${isOf(workspaceId, id)} and ${calendarObjects.unread} <> '[]' limit 50) as unread)`,
  }).where(and(eq(calendars.workspaceId, workspaceId), eq(calendars.id, id)))
}

function isOf(workspaceId: string, calendarId: string) {
  return and(eq(calendarObjects.workspaceId, workspaceId), eq(calendarObjects.calendarId, calendarId))
}

/** One change of a host's calendars after the other. */
export async function lockHost(tx: Database, workspaceId: string, id: string): Promise<void> {
  await tx.select({ id: hosts.id }).from(hosts).where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.id, id))).for('no key update')
}
