import { and, asc, eq, gt, inArray, isNull, ne, sql } from 'drizzle-orm'
import { LRUCache } from 'lru-cache'
import { conditionOf } from '../../core/rooms/accounts'
import { presetWays } from '../../core/rooms/ways'
import { hasRight, reaches } from '../../core/account/rights'
import { expectedStates } from '../../core/booking/states'
import type { BookedSession } from '../../core/event-type/affected-sessions'
import { sendHostTime, type SentHostTime } from '../../core/event-type/host-time'
import { calendarsOf, hostIdsOf as hostsOfChairs } from '../../core/event-type/settings'
import { groupBy } from '../../core/group-by'
import type { HolidayDates } from '../../core/hours/plan'
import { DAY, formatInstant } from '../../core/time/civil'
import type { SignedIn } from '../../core/views/desk'
import type { BenchHost, SentBench } from '../../core/views/event-types'
import { type Context, dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { bookings, calendarAccounts, calendars as calendarTable, eventTypeDrafts, hostPlans, hosts, hoursPlans, paymentAccounts, sessionHosts, sessions, videoAccounts, videoUsers, workspaces } from '../database/schema'
import { holidayDates, rememberHostsTime, WIDE } from '../hosts-time'
import { JsonText } from '../json-text'
import { definitionOf, type EventType, hostIdsOf, loadShared, readDraft } from './load'
import { listMembers } from './members'
import { wordedMessages } from './worded-messages'
import { knownEventTypes } from './snapshot'

/** One event type on the bench, with what it is edited by. */

/** How far ahead the bench can look. */
export const BENCH_DAYS = 70

export async function viewBench(
  context: Context,
  member: SignedIn,
  id: string,
): Promise<JsonText<SentBench> | null> {
  const { db, settings, now } = context
  const { workspaceId, memberId } = member
  const all = await knownEventTypes({ db }, workspaceId)
  const eventType = all.find(item => item.id === id)
  if (!eventType) return null
  const [[workspace], people, [stored], shared, members, booked, roomWays, canBePaid, worded] = await Promise.all([
    db.select({ slug: workspaces.slug }).from(workspaces).where(eq(workspaces.id, workspaceId)),
    benchHosts(db, member),
    db.select().from(eventTypeDrafts)
      .where(and(
        eq(eventTypeDrafts.workspaceId, workspaceId), eq(eventTypeDrafts.eventTypeId, id), eq(eventTypeDrafts.memberId, memberId),
      )),
    loadShared(db, workspaceId),
    listMembers(db, workspaceId),
    hasRight(member.role, 'changeEventTypes') ? bookedSessions(db, workspaceId, id, now()) : [],
    loadRoomWays(context, workspaceId),
    hasPaymentAccount(db, workspaceId),
    wordedMessages(db, workspaceId, id),
  ])
  const draft = readDraft(stored?.definition, shared)
  const until = now() + BENCH_DAYS * DAY
  const seated = new Set([...hostIdsOf(eventType), ...hostsOfChairs(draft?.chairs ?? [])])
  const bench: Omit<SentBench, 'time'> = {
    id,
    version: eventType.version,
    archived: eventType.archived,
    definition: definitionOf(eventType),
    draft: stored && draft ? { basedOn: stored.basedOn, definition: draft, at: secondsOf(stored.updatedAt) } : null,
    questionSets: [...shared.sets.values()],
    groups: [...shared.groups.values()],
    sharedPlans: [...shared.plans.values()],
    members,
    page: `${settings.baseUrl}/${workspace?.slug}/${eventType.slug}`,
    hosts: people,
    booked,
    holidays: holidaysOf(eventType, now(), until),
    linkedFrom: linkedFrom(all, eventType, workspace?.slug ?? ''),
    messages: worded.get(id) ?? [],
    roomWays,
    canBePaid,
    now: now(),
  }
  const time = await benchTime(
    context, member, id, people.filter(host => seated.has(host.id)), [...eventType.settings.holds, ...draft?.settings.holds ?? []],
  )
  return JsonText.with(bench, { time })
}

/** The time of hosts whom somebody tries in a chair. */
export async function viewHostsTime(
  context: Context, member: SignedIn, id: string, asked: { hosts: readonly string[], holds?: readonly string[] | undefined },
): Promise<JsonText<SentHostTime[]>> {
  const people = await benchHosts(context.db, member)
  const published = (await knownEventTypes(context, member.workspaceId)).find(eventType => eventType.id === id)?.settings.holds ?? []
  return benchTime(context, member, id, people.filter(host => asked.hosts.includes(host.id)), [...published, ...asked.holds ?? []])
}

/** Hosts' time as benches were sent it: they are opened again and again while none of it changes. */
const sentTimes = new LRUCache<string, JsonText<SentHostTime[]>>({ maxSize: 8_000_000, sizeCalculation: ({ text }) => text.length + 1 })

/** What an event type computes with: the hours and taken time of those hosts whose both the member may see. */
async function benchTime(
  context: Context, { workspaceId, reach }: SignedIn, id: string, people: readonly BenchHost[], words: readonly string[],
): Promise<JsonText<SentHostTime[]>> {
  const seesAll = reaches(reach, { sessions: 'times', hours: 'see' })
  const ids = people.filter(host => seesAll || host.own).map(host => host.id)
  const now = context.now()
  const span = { from: now, to: now + BENCH_DAYS * DAY, ...WIDE, holds: [...new Set(words)] }
  const time = await rememberHostsTime(context, workspaceId, ids, span)
  const key = `${id} ${time.key}`
  const sent = sentTimes.get(key) ?? JsonText.of(sendHostTime(time.for(id, ids)))
  sentTimes.set(key, sent)
  return sent
}

export function holidaysOf({ settings }: EventType, from: number, to: number): HolidayDates {
  return holidayDates(calendarsOf(settings), from, to)
}

/** All hosts with what checks and panels show of them, their plans as far as the member sees them. */
export async function benchHosts(db: Database, { workspaceId, memberId, reach, role }: SignedIn): Promise<BenchHost[]> {
  const [known, found, calendars] = await Promise.all([
    db.select({
      id: hosts.id, name: hosts.name, timeZone: hosts.timeZone, own: sql<boolean>`coalesce(${hosts.memberId} = ${memberId}, false)`,
      fixedRoom: sql<boolean>`${hosts.fixedRoom} is not null`,
    }).from(hosts)
      .where(and(eq(hosts.workspaceId, workspaceId), isNull(hosts.leftAt)))
      .orderBy(asc(hosts.name)),
    // Plans are large, and little of them is shown.
    db.select({
      id: hoursPlans.id, hostId: hostPlans.hostId, name: hoursPlans.name, timeZone: sql<string>`${hoursPlans.plan} ->> 'timeZone'`,
      holidays: sql<boolean>`jsonb_array_length(${hoursPlans.plan} -> 'holidays') > 0`,
    }).from(hostPlans)
      .innerJoin(hoursPlans, and(eq(hoursPlans.workspaceId, hostPlans.workspaceId), eq(hoursPlans.id, hostPlans.planId)))
      .where(eq(hostPlans.workspaceId, workspaceId)),
    blockingCalendars(db, workspaceId),
  ])
  const plans = groupBy(found, plan => plan.hostId)
  return known.map(({ fixedRoom, ...host }) => ({
    ...host,
    hasFixedRoom: fixedRoom,
    calendars: host.own || role !== 'host' ? calendars.get(host.id) ?? { blocking: 0, silentSince: null } : null,
    plans: (host.own || reaches(reach, { hours: 'see' }) ? plans.get(host.id) ?? [] : [])
      .map(({ hostId: _hostId, ...plan }) => plan),
  }))
}

/** What there is for rooms, and what each account can do. */
export async function hasPaymentAccount(db: Database, workspaceId: string): Promise<boolean> {
  return await db.$count(paymentAccounts, and(eq(paymentAccounts.workspaceId, workspaceId), isNull(paymentAccounts.disconnectedAt))) > 0
}

export async function loadRoomWays({ db, video }: Context, workspaceId: string): Promise<SentBench['roomWays']> {
  const [found] = await db.select({ order: workspaces.roomWays, pattern: workspaces.roomPattern }).from(workspaces)
    .where(eq(workspaces.id, workspaceId))
  const accounts = await db.select().from(videoAccounts)
    .where(and(eq(videoAccounts.workspaceId, workspaceId), ne(videoAccounts.state, 'disconnected')))
  const users = groupBy(await db.select().from(videoUsers)
    .where(and(eq(videoUsers.workspaceId, workspaceId), isNull(videoUsers.invitedUntil))), user => user.accountId)
  return {
    order: found?.order ?? [...presetWays],
    hasPattern: (found?.pattern ?? '') !== '',
    accounts: accounts.flatMap((account) => {
      const { id, hostId, plan } = account
      const service = video.get(account.service)
      return service ? [{
        hostId,
        service: service.name,
        state: conditionOf(account),
        can: [...service.can],
        minutes: plan?.minutes ?? null,
        people: plan?.people ?? null,
        users: service.users ? (users.get(id) ?? []).map(user => user.hostId) : null,
      }] : []
    }),
  }
}

/** How many calendars block each host's time, and since when one has not answered. */
async function blockingCalendars(db: Database, workspaceId: string) {
  const rows = await db.select({
    hostId: calendarTable.hostId,
    blocking: sql<number>`count(*)::int`,
    silentSince: sql<number | null>`floor(extract(epoch from min(${calendarAccounts.failingSince})
      filter (where ${calendarAccounts.state} = 'refused' or ${calendarAccounts.failingSince} < now() - interval '30 minutes')))::int`,
  }).from(calendarTable)
    .innerJoin(calendarAccounts, and(
      eq(calendarAccounts.workspaceId, calendarTable.workspaceId), eq(calendarAccounts.id, calendarTable.accountId),
    ))
    .where(and(eq(calendarTable.workspaceId, workspaceId), eq(calendarTable.blocks, true))).groupBy(calendarTable.hostId)
  return new Map(rows.map(({ hostId, blocking, silentSince }) => [hostId, { blocking, silentSince }]))
}

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
        inArray(bookings.state, expectedStates),
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
export function linkedFrom(all: readonly EventType[], { id, slug }: EventType, workspaceSlug: string): string[] {
  const leads = new RegExp(`/${workspaceSlug}/${slug}(?![a-z0-9-])`)
  return all
    .filter(other => other.id !== id && other.state === 'open' && !other.archived)
    .filter(({ settings: { summary, description, afterwards } }) =>
      [summary, description, afterwards.text, afterwards.address].some(text => leads.test(text)),
    )
    .map(other => other.settings.name)
}
