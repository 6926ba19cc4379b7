import { and, count, eq, gte, sql } from 'drizzle-orm'
import type { Settings } from '../../core/event-type/settings'
import { sentenceOf } from '../../core/event-type/sentence'
import { DAY } from '../../core/time/civil'
import type { BenchView, EventTypeRow, EventTypeState } from '../../core/views/desk'
import { type Context, dateOf } from '../context'
import { bookings, eventTypes, hosts, sessions, workspaces } from '../database/schema'
import { loadHostsTime } from './hosts-time'
import { hostIdsOf, loadEventTypes } from './load'
import { openingsOf } from './openings'

const DAYS_COUNTED = 30
/** How far ahead the list looks for the next opening. */
const DAYS_SEARCHED = 60

/** All event types as the list shows them. */
export async function listEventTypes({ db, settings, now }: Context, workspaceId: string): Promise<EventTypeRow[]> {
  const since = now() - DAYS_COUNTED * DAY
  const [workspace] = await db.select({ slug: workspaces.slug }).from(workspaces).where(eq(workspaces.id, workspaceId))
  const counts = await db
    .select({ eventTypeId: sessions.eventTypeId, day: sql<number>`floor(extract(epoch from ${bookings.createdAt} - ${dateOf(since).toISOString()}::timestamptz) / ${DAY})::int`, many: count() })
    .from(bookings)
    .innerJoin(sessions, and(eq(sessions.workspaceId, bookings.workspaceId), eq(sessions.id, bookings.sessionId)))
    .where(and(eq(bookings.workspaceId, workspaceId), gte(bookings.createdAt, dateOf(since))))
    .groupBy(sql`1, 2`)
  const span = { now: now(), from: now(), to: now() + DAYS_SEARCHED * DAY }
  const all = await loadEventTypes(db, workspaceId)
  const time = await loadHostsTime(db, workspaceId, [...new Set(all.flatMap(hostIdsOf))], span.from, span.to)
  return all.map((eventType) => {
    const [next] = openingsOf(eventType, time, span)
    const bookingsPerDay = Array.from({ length: DAYS_COUNTED }, (_, day) =>
      counts.find(one => one.eventTypeId === eventType.id && one.day === day)?.many ?? 0)
    return {
      id: eventType.id,
      slug: eventType.slug,
      name: eventType.settings.name,
      state: eventType.state,
      listed: eventType.listed,
      sentence: sentenceOf(eventType.settings, eventType.chairs),
      page: `${settings.baseUrl}/${workspace?.slug}/${eventType.slug}`,
      nextOpening: next?.start ?? null,
      bookingsPerDay,
    }
  })
}

/** How far ahead the bench can look. */
export const BENCH_DAYS = 70

export async function viewBench({ db, settings, now }: Context, workspaceId: string, id: string): Promise<BenchView | null> {
  const [eventType] = await loadEventTypes(db, workspaceId, { id })
  if (!eventType) return null
  const [workspace] = await db.select({ slug: workspaces.slug }).from(workspaces).where(eq(workspaces.id, workspaceId))
  const hostIds = hostIdsOf(eventType)
  const known = await db.select({ id: hosts.id, name: hosts.name, timeZone: hosts.timeZone }).from(hosts).where(eq(hosts.workspaceId, workspaceId))
  const { slug, state, listed, version, settings: current, chairs } = eventType
  return {
    eventType: { id, slug, state, listed, version, settings: current, chairs: chairs.map(({ pool: _pool, ...chair }) => chair) },
    page: `${settings.baseUrl}/${workspace?.slug}/${eventType.slug}`,
    hosts: hostIds.map(hostId => known.find(host => host.id === hostId)).filter(host => host !== undefined),
    time: (await loadHostsTime(db, workspaceId, hostIds, now(), now() + BENCH_DAYS * DAY)).for(id, hostIds),
    now: now(),
  }
}

export type PublishOutcome = { kind: 'published', version: number } | { kind: 'notFound' } | { kind: 'changedMeanwhile', version: number }

/** Publishes settings over the version they were made from; a newer one is never overwritten silently. */
export async function publishSettings(
  { db, now }: Context, workspaceId: string, id: string, basedOn: number, settings: Settings, state: EventTypeState,
): Promise<PublishOutcome> {
  const [published] = await db.update(eventTypes)
    .set({ settings, state, version: basedOn + 1, updatedAt: dateOf(now()) })
    .where(and(eq(eventTypes.workspaceId, workspaceId), eq(eventTypes.id, id), eq(eventTypes.version, basedOn)))
    .returning({ version: eventTypes.version })
  if (published) return { kind: 'published', version: published.version }
  const [other] = await db.select({ version: eventTypes.version }).from(eventTypes)
    .where(and(eq(eventTypes.workspaceId, workspaceId), eq(eventTypes.id, id)))
  return other ? { kind: 'changedMeanwhile', version: other.version } : { kind: 'notFound' }
}
