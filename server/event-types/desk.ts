import { and, asc, count, eq, exists, gt, gte, inArray, isNull, sql } from 'drizzle-orm'
import { LRUCache } from 'lru-cache'
import { hasRight, reaches } from '../../core/account/rights'
import type { BookingState } from '../../core/booking/states'
import { worstFinding } from '../../core/checks'
import { sentenceOf } from '../../core/event-type/sentence'
import { nameForTeam } from '../../core/event-type/name-for-team'
import { countChanges } from '../../core/event-type/changes'
import type { BookedSession } from '../../core/event-type/affected-sessions'
import type { HostTime } from '../../core/event-type/host-time'
import { calendarsOf, hostIdsOf as hostsOfChairs } from '../../core/event-type/settings'
import type { HolidayDates } from '../../core/hours/plan'
import { DAY, formatInstant, instantToSeconds, MINUTE } from '../../core/time/civil'
import { groupBy } from '../../core/group-by'
import type { BenchHost, BenchView, EventTypeRow, SignedIn } from '../../core/views/desk'
import { type Context, dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { bookings, eventTypeDrafts, eventTypes, hostPlans, hosts, hoursPlans, sessionHosts, sessions, videoAccounts, workspaces } from '../database/schema'
import { holidayDates, loadHostsTime, WIDE } from '../hosts-time'
import { definitionOf, type EventType, hostIdsOf, loadShared, readDraft } from './load'
import { listMembers } from './members'
import { nextOpening } from './openings'
import { knownEventTypes } from './snapshot'

const DAYS_COUNTED = 30
/** How far ahead the list looks for the next opening. */
const DAYS_SEARCHED = 60
const HOUR = 3600

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
  { db, now: clock }: Context, member: SignedIn, all: readonly EventType[], slug: string,
): Promise<Map<string, Ahead>> {
  const now = clock()
  const key = `${member.workspaceId} ${member.memberId}`
  const stamp = await stampOfList(db, member.workspaceId, now)
  const known = ahead.get(key)
  if (known?.stamp === stamp && all.every(eventType => isStillAhead(known.found.get(eventType.id)?.next, eventType, now)))
    return known.found
  const span = { now, from: now, to: now + DAYS_SEARCHED * DAY }
  const people = await benchHosts(db, member)
  const time = await loadHostsTime(db, member.workspaceId, [...new Set(all.flatMap(hostIdsOf))], { ...span, ...WIDE })
  const counts = await countBookings(db, member.workspaceId, now)
  const found = new Map(all.map(eventType => [eventType.id, {
    next: nextOpening(eventType, time, span)?.start ?? null,
    worst: eventType.archived ? null : worstFinding({
      definition: definitionOf(eventType),
      hosts: people,
      time: time.for(eventType.id, hostIdsOf(eventType)),
      holidays: holidaysOf(eventType, span.from, span.to),
      linkedFrom: linkedFrom(all, eventType, slug),
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
    video: sql<string>`(select coalesce(string_agg(coalesce(host_id::text, '-'), ',' order by host_id), '') from video_accounts
      where video_accounts.workspace_id = workspaces.id and state = 'connected')`,
  }).from(workspaces).where(eq(workspaces.id, workspaceId))
  return JSON.stringify([row, Math.floor(now / HOUR)])
}

/** All event types by what the team calls them, in the workspace's order. */
export async function listEventTypeNames(db: Database, workspaceId: string): Promise<{ id: string, name: string }[]> {
  const rows = await db.select({ id: eventTypes.id, settings: eventTypes.settings }).from(eventTypes)
    .where(eq(eventTypes.workspaceId, workspaceId)).orderBy(asc(eventTypes.position))
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
      inArray(bookings.state, standing),
    ))
    .groupBy(sessions.eventTypeId)).map(row => [row.id, row.count]))
  const booked = new Set((await db.select({ id: eventTypes.id }).from(eventTypes).where(and(
    eq(eventTypes.workspaceId, workspaceId),
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

/** How far ahead the bench can look. */
export const BENCH_DAYS = 70

export async function viewBench(
  { db, settings, now }: Context,
  member: SignedIn,
  id: string,
): Promise<BenchView | null> {
  const { workspaceId, memberId } = member
  const all = await knownEventTypes({ db }, workspaceId)
  const eventType = all.find(item => item.id === id)
  if (!eventType) return null
  const [workspace] = await db.select({ slug: workspaces.slug }).from(workspaces).where(eq(workspaces.id, workspaceId))
  const people = await benchHosts(db, member)
  const [stored] = await db
    .select()
    .from(eventTypeDrafts)
    .where(and(eq(eventTypeDrafts.workspaceId, workspaceId), eq(eventTypeDrafts.eventTypeId, id), eq(eventTypeDrafts.memberId, memberId)))
  const shared = await loadShared(db, workspaceId)
  const draft = readDraft(stored?.definition, shared)
  const until = now() + BENCH_DAYS * DAY
  const seated = new Set([...hostIdsOf(eventType), ...hostsOfChairs(draft?.chairs ?? [])])
  return {
    id,
    version: eventType.version,
    archived: eventType.archived,
    definition: definitionOf(eventType),
    draft: stored && draft ? { basedOn: stored.basedOn, definition: draft, at: secondsOf(stored.updatedAt) } : null,
    questionSets: [...shared.sets.values()],
    groups: [...shared.groups.values()],
    sharedPlans: [...shared.plans.values()],
    members: await listMembers(db, workspaceId),
    page: `${settings.baseUrl}/${workspace?.slug}/${eventType.slug}`,
    hosts: people,
    time: await benchTime(db, member, id, people.filter(host => seated.has(host.id)), now()),
    booked: hasRight(member.role, 'changeEventTypes') ? await bookedSessions(db, workspaceId, id, now()) : [],
    holidays: holidaysOf(eventType, now(), until),
    linkedFrom: linkedFrom(all, eventType, workspace?.slug ?? ''),
    now: now(),
  }
}

/** The time of hosts whom somebody tries in a chair. */
export async function viewHostsTime({ db, now }: Context, member: SignedIn, id: string, hostIds: readonly string[]): Promise<HostTime[]> {
  const people = await benchHosts(db, member)
  return benchTime(db, member, id, people.filter(host => hostIds.includes(host.id)), now())
}

/** What an event type computes with: the hours and taken time of those hosts whose both the member may see. */
async function benchTime(
  db: Database, { workspaceId, reach }: SignedIn, id: string, people: readonly BenchHost[], now: number,
): Promise<HostTime[]> {
  const seesAll = reaches(reach, { sessions: 'times', hours: 'see' })
  const ids = people.filter(host => seesAll || host.own).map(host => host.id)
  return (await loadHostsTime(db, workspaceId, ids, { from: now, to: now + BENCH_DAYS * DAY, ...WIDE })).for(id, ids)
}

function holidaysOf({ settings }: EventType, from: number, to: number): HolidayDates {
  return holidayDates(calendarsOf(settings), from, to)
}

/** All hosts with what checks and panels show of them, their plans as far as the member sees them. */
async function benchHosts(db: Database, { workspaceId, memberId, reach }: SignedIn): Promise<BenchHost[]> {
  const known = await db
    .select({ id: hosts.id, name: hosts.name, timeZone: hosts.timeZone, own: sql<boolean>`coalesce(${hosts.memberId} = ${memberId}, false)` })
    .from(hosts)
    .where(and(eq(hosts.workspaceId, workspaceId), isNull(hosts.leftAt)))
    .orderBy(asc(hosts.name))
  const accounts = await db
    .select({ hostId: videoAccounts.hostId })
    .from(videoAccounts)
    .where(and(eq(videoAccounts.workspaceId, workspaceId), eq(videoAccounts.state, 'connected')))
  const plans = groupBy(await db
    .select({ id: hoursPlans.id, hostId: hostPlans.hostId, name: hoursPlans.name, plan: hoursPlans.plan }).from(hostPlans)
    .innerJoin(hoursPlans, and(eq(hoursPlans.workspaceId, hostPlans.workspaceId), eq(hoursPlans.id, hostPlans.planId)))
    .where(eq(hostPlans.workspaceId, workspaceId)), plan => plan.hostId)
  const connected = new Set(accounts.map(account => account.hostId))
  const byWorkspace = connected.has(null)
  return known.map(host => ({
    ...host,
    hasVideo: byWorkspace || connected.has(host.id),
    plans: (host.own || reaches(reach, { hours: 'see' }) ? plans.get(host.id) ?? [] : []).map(({ id, name, plan }) => ({
      id,
      name,
      timeZone: plan.timeZone,
      holidays: plan.holidays.length > 0,
    })),
  }))
}

const standing: BookingState[] = ['held', 'awaitingApproval', 'confirmed']

/** Sessions to come with their clients, those that wait for approval too. */
async function bookedSessions(db: Database, workspaceId: string, eventTypeId: string, from: number): Promise<BookedSession[]> {
  const rows = await db
    .select({
      id: sessions.id,
      startsAt: sessions.startsAt,
      endsAt: sessions.endsAt,
      place: sessions.place,
      hostId: sessionHosts.hostId,
      client: bookings.clientName,
    })
    .from(sessions)
    .innerJoin(sessionHosts, and(eq(sessionHosts.workspaceId, sessions.workspaceId), eq(sessionHosts.sessionId, sessions.id)))
    .innerJoin(bookings, and(eq(bookings.workspaceId, sessions.workspaceId), eq(bookings.sessionId, sessions.id)))
    .where(
      and(
        eq(sessions.workspaceId, workspaceId),
        eq(sessions.eventTypeId, eventTypeId),
        gt(sessions.startsAt, dateOf(from)),
        eq(sessionHosts.active, true),
        inArray(bookings.state, standing),
      ),
    )
    .orderBy(asc(sessions.startsAt))
  return [...groupBy(rows, row => row.id).values()].flatMap((all) => {
    const [first] = all
    return first ? [{
      id: first.id,
      start: formatInstant(secondsOf(first.startsAt)),
      end: formatInstant(secondsOf(first.endsAt)),
      hostIds: [...new Set(all.map(row => row.hostId))],
      placeKey: first.place.key,
      clients: [...new Set(all.map(row => row.client))],
    }] : []
  })
}

/** Names of the open event types whose texts hold the address of this one. */
function linkedFrom(all: readonly EventType[], { id, slug }: EventType, workspaceSlug: string): string[] {
  const leads = new RegExp(`/${workspaceSlug}/${slug}(?![a-z0-9-])`)
  return all
    .filter(other => other.id !== id && other.state === 'open' && !other.archived)
    .filter(({ settings: { summary, description, afterwards } }) =>
      [summary, description, afterwards.text, afterwards.address].some(text => leads.test(text)),
    )
    .map(other => other.settings.name)
}
