import { and, asc, count, eq, exists, gt, gte, inArray, sql } from 'drizzle-orm'
import { LRUCache } from 'lru-cache'
import { expectedStates } from '../../core/booking/states'
import { worstFinding } from '../../core/checks'
import { sentenceOf } from '../../core/event-type/sentence'
import { nameForTeam } from '../../core/event-type/name-for-team'
import { countChanges } from '../../core/event-type/changes'
import { DAY, formatInstant, HOUR, instantToSeconds, MINUTE } from '../../core/time/civil'
import { groupBy } from '../../core/group-by'
import type { SignedIn } from '../../core/views/desk'
import type { EventTypeRow } from '../../core/views/event-types'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { bookings, eventTypeDrafts, eventTypes, sessions, workspaces } from '../database/schema'
import { loadHostsTime, WIDE } from '../hosts-time'
import { definitionOf, type EventType, holdsOf, hostIdsOf, loadShared, readDraft } from './load'
import { nextOpening } from './openings'
import { knownEventTypes } from './snapshot'
import { benchHosts, hasPaymentAccount, holidaysOf, linkedFrom, loadRoomWays } from './bench'
import { wordedMessages } from './worded-messages'

const DAYS_COUNTED = 30
/** How far ahead the list looks for the next opening. */
const DAYS_SEARCHED = 60

/** All event types as the list shows them. */
export async function listEventTypes(
  context: Context,
  member: SignedIn,
  locale: string,
): Promise<EventTypeRow[]> {
  const { db, settings } = context
  const { workspaceId, memberId } = member
  const [workspace] = await db.select({ slug: workspaces.slug }).from(workspaces).where(eq(workspaces.id, workspaceId))
  const all = await knownEventTypes(context, workspaceId)
  const draftChanges = await countDraftChanges(db, workspaceId, memberId, all)
  const found = await lookAhead(context, member, all, workspace?.slug ?? '')
  return all.map((eventType) => {
    const { next = null, worst = null, bookingsPerDay = [], bookingsAhead = 0, everBooked = false } = found.get(eventType.id) ?? {}
    return {
      id: eventType.id,
      version: eventType.version,
      slug: eventType.slug,
      name: eventType.settings.name,
      teamName: eventType.settings.teamName,
      state: eventType.state,
      listed: eventType.listed,
      archived: eventType.archived,
      colour: eventType.settings.colour,
      tags: eventType.settings.tags,
      sentence: sentenceOf(eventType.settings, eventType.chairs, locale),
      unpublishedChanges: draftChanges.get(eventType.id) ?? 0,
      worst,
      page: `${settings.baseUrl}/${workspace?.slug}/${eventType.slug}`,
      nextOpening: next,
      bookingsPerDay,
      bookingsAhead,
      everBooked,
    }
  })
}

/** What an event type's row says beside its settings, which takes some milliseconds each. */
interface Ahead extends Pick<EventTypeRow, 'worst' | 'bookingsPerDay' | 'bookingsAhead' | 'everBooked'> {
  next: string | null
}

/** What was found for a workspace and a member, with what it stands for. */
const ahead = new LRUCache<string, { stamp: string, found: Map<string, Ahead> }>({ max: 500 })

/**
 * The next opening, the worst finding and the counts of all event types. They are remembered as long as nothing changes that
 * they are made from, an hour at most, and until the first of the openings found has gone by.
 */
async function lookAhead(
  context: Context, member: SignedIn, all: readonly EventType[], slug: string,
): Promise<Map<string, Ahead>> {
  const { db } = context
  const now = context.now()
  const key = `${member.workspaceId} ${member.memberId}`
  const stamp = await stampOfList(db, member.workspaceId, now)
  const known = ahead.get(key)
  if (known?.stamp === stamp && all.every(eventType => isStillAhead(known.found.get(eventType.id)?.next, eventType, now)))
    return known.found
  const span = { now, from: now, to: now + DAYS_SEARCHED * DAY }
  const hostIds = [...new Set(all.flatMap(hostIdsOf))]
  const people = await benchHosts(db, member)
  const roomWays = await loadRoomWays(context, member.workspaceId)
  const canBePaid = await hasPaymentAccount(db, member.workspaceId)
  const worded = await wordedMessages(db, member.workspaceId)
  const time = await loadHostsTime(context, member.workspaceId, hostIds, { ...span, ...WIDE, holds: holdsOf(all) })
  const counts = await countBookings(db, member.workspaceId, now)
  const found = new Map(all.map(eventType => [eventType.id, {
    next: nextOpening(eventType, time, span)?.start ?? null,
    worst: eventType.archived ? null : worstFinding({
      definition: definitionOf(eventType),
      hosts: people,
      time: time.for(eventType.id, hostIdsOf(eventType)),
      holidays: holidaysOf(eventType, span.from, span.to),
      linkedFrom: linkedFrom(all, eventType, slug),
      messages: worded.get(eventType.id) ?? [],
      roomWays,
      canBePaid,
      now: formatInstant(now),
    }),
    ...counts(eventType.id),
  }]))
  ahead.set(key, { stamp, found })
  return found
}

/** As time passes, an opening stays the next one until it comes too soon to be booked. */
function isStillAhead(next: string | null | undefined, { settings }: EventType, now: number): boolean {
  return next === null || (next !== undefined && instantToSeconds(next) >= now + settings.leadTimeMinutes * MINUTE)
}

/** Stays the same as long as the workspace's settings, its hosts' taken time and video accounts do, and the hour. */
async function stampOfList(db: Database, workspaceId: string, now: number): Promise<string> {
  const [row] = await db.select({
    stamp: workspaces.stamp,
    taken: sql<string>`(select coalesce(sum(taken_stamp), 0) from hosts where hosts.workspace_id = workspaces.id)`,
    texts: sql<string>`(select coalesce(max(at)::text, '') from message_texts where message_texts.workspace_id = workspaces.id)`,
    video: sql<string>`(select coalesce(string_agg(concat_ws(' ', host_id, state, refusal, plan), ',' order by id), '') from video_accounts
      where video_accounts.workspace_id = workspaces.id)`,
  }).from(workspaces).where(eq(workspaces.id, workspaceId))
  return JSON.stringify([row, Math.floor(now / HOUR)])
}

/** All event types by what the team calls them, in the workspace's order. */
export async function listEventTypeNames(db: Database, workspaceId: string): Promise<{ id: string, name: string }[]> {
  const rows = await db.select({ id: eventTypes.id, settings: eventTypes.settings }).from(eventTypes)
    .where(and(eq(eventTypes.workspaceId, workspaceId), eq(eventTypes.oneOff, false))).orderBy(asc(eventTypes.position))
  return rows.map(({ id, settings }) => ({ id, name: nameForTeam(settings) }))
}

/** Of each event type the bookings made on each of the last days, oldest first, how many are still to come, and whether there were any. */
async function countBookings(db: Database, workspaceId: string, now: number) {
  const since = dateOf(now - DAYS_COUNTED * DAY)
  const inSession = and(eq(sessions.workspaceId, bookings.workspaceId), eq(sessions.id, bookings.sessionId))
  const made = await db
    .select({
      id: sessions.eventTypeId,
      day: sql<number>`floor(extract(epoch from ${bookings.createdAt} - ${since.toISOString()}::timestamptz) / ${DAY})::int`,
      count: count(),
    })
    .from(bookings).innerJoin(sessions, inSession)
    .where(and(eq(bookings.workspaceId, workspaceId), gte(bookings.createdAt, since)))
    .groupBy(sql`1, 2`)
  const toCome = new Map((await db.select({ id: sessions.eventTypeId, count: count() }).from(sessions).innerJoin(bookings, inSession)
    .where(and(
      eq(sessions.workspaceId, workspaceId), gt(sessions.endsAt, dateOf(now)), gt(sessions.startsAt, dateOf(now - 2 * DAY)),
      inArray(bookings.state, expectedStates),
    ))
    .groupBy(sessions.eventTypeId)).map(row => [row.id, row.count]))
  const booked = new Set((await db.select({ id: eventTypes.id }).from(eventTypes).where(and(
    eq(eventTypes.workspaceId, workspaceId), eq(eventTypes.oneOff, false),
    exists(db.select({ one: sql`1` }).from(sessions).where(and(eq(sessions.workspaceId, workspaceId), eq(sessions.eventTypeId, eventTypes.id)))),
  ))).map(row => row.id))
  const perDay = groupBy(made, row => row.id)
  return (id: string): Pick<EventTypeRow, 'bookingsPerDay' | 'bookingsAhead' | 'everBooked'> => ({
    bookingsPerDay: Array.from({ length: DAYS_COUNTED }, (_, day) => perDay.get(id)?.find(row => row.day === day)?.count ?? 0),
    bookingsAhead: toCome.get(id) ?? 0,
    everBooked: booked.has(id),
  })
}

/** How many parts of a member's drafts differ from what is published, by event type. */
async function countDraftChanges(
  db: Database, workspaceId: string, memberId: string, published: readonly EventType[],
): Promise<Map<string, number>> {
  const drafts = await db.select().from(eventTypeDrafts)
    .where(and(eq(eventTypeDrafts.workspaceId, workspaceId), eq(eventTypeDrafts.memberId, memberId)))
  const shared = await loadShared(db, workspaceId)
  return new Map(drafts.flatMap(({ eventTypeId, definition }) => {
    const eventType = published.find(candidate => candidate.id === eventTypeId)
    const draft = readDraft(definition, shared)
    return eventType && draft ? [[eventTypeId, countChanges(definitionOf(eventType), draft)]] : []
  }))
}
