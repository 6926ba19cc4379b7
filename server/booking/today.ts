import { and, type AnyColumn, asc, count, desc, eq, exists, gte, inArray, isNull, lt, min, sql, type SQL, sum } from 'drizzle-orm'
import { unionAll } from 'drizzle-orm/pg-core'
import { LRUCache } from 'lru-cache'
import { hasRight, reaches } from '../../core/account/rights'
import { takingStates } from '../../core/booking/states'
import { formatAnswer } from '../../core/intake'
import { nameForTeam } from '../../core/event-type/name-for-team'
import { groupBy } from '../../core/group-by'
import { DAY, formatDate, MINUTE } from '../../core/time/civil'
import type { Zone } from '../../core/time/zone'
import type { SessionCard, SetupStep, SignedIn, TodayView } from '../../core/views/desk'
import { type Context, dateOf, secondsOf } from '../context'
import { among } from '../database/among'
import type { Database } from '../database/connection'
import { answers, bookings, calendarAccounts, eventTypes, hosts, hoursPlans, rooms, sessionHosts, sessions, trail, videoAccounts, workspaces } from '../database/schema'
import { isRoomOfSession } from '../details'
import { areJobsRun } from '../jobs/presence'
import { JsonText } from '../json-text'
import { countFailingJobs, listAttention } from './attention'
import { notOver, reachedOf, sessionsOf, settingOf, stillBooked } from './scope'

/** A day of sessions with what waits for a person and what comes next. */

const COMING_DAYS = 7
/** More sessions of a day than these are not shown. */
const MOST_OF_A_DAY = 2000
const REVISION_LASTS = 5 * MINUTE

/** The sessions of a day under a revision: those of large teams are many, and many look at them. */
const days = new LRUCache<string, Record<'today' | 'cancelled', JsonText<SessionCard[]>>>({
  maxSize: 8_000_000, sizeCalculation: ({ today, cancelled }) => today.text.length + cancelled.text.length,
})

/**
 * The day from `from` to `to`, one's own lane first, and those of others as far as the member reaches. `today` ends where the
 * coming days begin. `revision` was read before any of it.
 */
export async function viewToday(
  context: Context,
  member: SignedIn,
  { from, to, todayEnds, zone, revision }: { from: number, to: number, todayEnds: number, zone: Zone, revision: string },
): Promise<JsonText<TodayView>> {
  const { db, now } = context
  const lanes = await db
    .select({ id: hosts.id, name: hosts.name, timeZone: hosts.timeZone, memberId: hosts.memberId })
    .from(hosts)
    .where(and(
      eq(hosts.workspaceId, member.workspaceId),
      isNull(hosts.leftAt),
      reaches(member.reach, { sessions: 'times' }) ? undefined : eq(hosts.memberId, member.memberId),
    ))
    .orderBy(asc(hosts.name))
  const own = lanes.find(host => host.memberId === member.memberId)
  const rows = Promise.all([nextSession(context, member, own?.id ?? null), listWaiting(context, member)])
  const [day, cards, comingDays, attention, setup] = await Promise.all([
    knownDay(context, member, from, to, revision),
    rows.then(found => cardsOf(context, member, found.flat())),
    countDays(db, member, zone, todayEnds),
    listAttention(context, member),
    hasRight(member.role, 'changeEventTypes') ? setupSteps(context, member.workspaceId) : [],
  ])
  const [nearest, waiting] = await rows
  const view: Omit<TodayView, 'today' | 'cancelled'> = {
    now: now(),
    hosts: lanes
      .map(host => ({ id: host.id, name: host.name, timeZone: host.timeZone, own: host === own }))
      .sort((a, b) => Number(b.own) - Number(a.own)),
    next: cardsIn(cards, nearest)[0] ?? null,
    waiting: cardsIn(cards, waiting),
    comingDays, attention, setup,
  }
  return JsonText.with(view, day)
}

async function knownDay(context: Context, member: SignedIn, from: number, to: number, revision: string) {
  const reader = reaches(member.reach, { sessions: 'change' }) ? null : member.memberId
  const key = JSON.stringify([member.workspaceId, reader, from, to, revision])
  const known = days.get(key)
  if (known) return known
  const rows = await listRows(context.db, member, inSpan(from, to), MOST_OF_A_DAY)
  const cards = await cardsOf(context, member, rows)
  const day = {
    today: JsonText.of(cardsIn(cards, rows.filter(row => !row.cancelled))),
    cancelled: JsonText.of(cardsIn(cards, rows.filter(row => row.cancelled))),
  }
  days.set(key, day)
  return day
}

/**
 * Changes whenever something happens that Today shows, and every few minutes, as time alone changes some of it. Cheap, so that
 * screens can ask often. Entries of the trail may come to be seen after later ones, hence the sum of the newest.
 */
export async function todayRevision({ db, now }: Context, { workspaceId, reach }: SignedIn): Promise<string> {
  const newestEntries = db.select({ id: trail.id }).from(trail).where(eq(trail.workspaceId, workspaceId))
    .orderBy(desc(trail.id)).limit(100).as('newest')
  const [[workspace], [newest], areRun, failing] = await Promise.all([
    db.select({ stamp: workspaces.stamp }).from(workspaces).where(eq(workspaces.id, workspaceId)),
    db.select({ ids: sum(newestEntries.id) }).from(newestEntries),
    areJobsRun(db),
    countFailingJobs(db, workspaceId),
  ])
  return [workspace?.stamp, newest?.ids ?? 0, reach.sessions, areRun, failing, Math.floor(now() / REVISION_LASTS)].join(' ')
}

interface CardRow {
  id: string
  eventTypeId: string
  start: number
  end: number
  cancelled: boolean
  placeKind: string
  room: NonNullable<SessionCard['room']> | null
}

/**
 * A member's sessions that a condition holds for, ascending. Cancelled ones keep the bookings that they had. Here and for the
 * cards, rows are taken as the database gives them: on a full day there are thousands.
 */
async function listRows(db: Database, member: SignedIn, condition: SQL | undefined, limit = 500): Promise<CardRow[]> {
  const { rows } = await db.execute<Record<keyof CardRow, never>>(sql`
    select ${sessions.id}, ${sessions.eventTypeId} as "eventTypeId", ${sessions.cancelled}, ${sessions.place} ->> 'kind' as "placeKind",
      ${secondsIn(sessions.startsAt)} as start, ${secondsIn(sessions.endsAt)} as end,
      case when ${rooms.id} is not null then json_build_object(
        'state', ${rooms.state}, 'fault', ${rooms.lastFault}, 'nextTryAt', ${secondsIn(rooms.nextTryAt)}, 'waitsFor', ${rooms.waitsFor},
        'hostUrl', case when ${rooms.state} = 'ready' then ${rooms.hostUrl} end) end as room
    from ${sessions} left join ${rooms} on ${isRoomOfSession}
    where ${and(sessionsOf(db, member, 'times'), stillBooked, condition)}
    order by ${sessions.startsAt} limit ${limit}`)
  return rows
}

/** What is shown of some sessions, by their ids: one query a table, however many they are. */
async function cardsOf({ db }: Context, member: SignedIn, found: readonly CardRow[]): Promise<Map<string, SessionCard>> {
  const { workspaceId } = member
  const ids = [...new Set(found.map(row => row.id))]
  if (ids.length === 0) return new Map()
  const [named, sitting, { open, booked }, changeable] = await Promise.all([
    // Settings are large: they are read once for each event type, and not for each session.
    db.select({ id: eventTypes.id, name: settingOf('name'), teamName: settingOf('teamName') }).from(eventTypes)
      .where(and(eq(eventTypes.workspaceId, workspaceId), among(eventTypes.id, new Set(found.map(row => row.eventTypeId))))),
    listSitting(db, member, ids),
    listBooked(db, member, ids),
    reachedOf(db, member, ids, 'change'),
  ])
  const answered = await listFirstAnswers(db, member, booked.map(booking => booking.id))
  const nameOf = new Map(named.map(eventType => [eventType.id, nameForTeam(eventType)]))
  const sittingIn = groupBy(sitting, host => host.sessionId)
  const bookedIn = groupBy(booked, booking => booking.sessionId)
  const answersOf = groupBy(answered, answer => answer.bookingId)
  return new Map(found.map(({ id, eventTypeId, start, end, cancelled, placeKind, room }) => [id, {
    id, start, end, placeKind,
    eventType: nameOf.get(eventTypeId) ?? '',
    hosts: (sittingIn.get(id) ?? []).map(({ hostId, name }) => ({ id: hostId, name })),
    open: open.has(id),
    room: room && open.has(id) ? { ...room, hostUrl: changeable.has(id) ? room.hostUrl : null } : null,
    bookings: (bookedIn.get(id) ?? [])
      .filter(booking => (cancelled || takingStates.some(state => state === booking.state)))
      .map(({ sessionId: _session, ...booking }) => ({
        ...booking,
        expiresAt: booking.state === 'awaitingApproval' ? booking.expiresAt : null,
        firstAnswers: (answersOf.get(booking.id) ?? []).map(answer => formatAnswer(answer).text),
      })),
  }]))
}

function cardsIn(cards: ReadonlyMap<string, SessionCard>, found: readonly CardRow[]): SessionCard[] {
  return found.map(({ id }) => cards.get(id)).filter(card => card !== undefined)
}

interface Sitting { sessionId: string, hostId: string, name: string }

async function listSitting(db: Database, { workspaceId }: SignedIn, ids: readonly string[]): Promise<Sitting[]> {
  const { rows } = await db.execute<Record<keyof Sitting, never>>(sql`
    select ${sessionHosts.sessionId} as "sessionId", ${hosts.id} as "hostId", ${hosts.name}
    from ${sessionHosts} inner join ${hosts} on ${hosts.workspaceId} = ${sessionHosts.workspaceId} and ${hosts.id} = ${sessionHosts.hostId}
    where ${sessionHosts.workspaceId} = ${workspaceId} and ${among(sessionHosts.sessionId, ids)}`)
  return rows
}

interface Booked extends Omit<SessionCard['bookings'][number], 'firstAnswers'> {
  sessionId: string
}

/** The bookings of sessions, as far as the member may see them. */
async function listBooked(db: Database, member: SignedIn, ids: readonly string[]): Promise<{ open: Set<string>, booked: Booked[] }> {
  const open = await reachedOf(db, member, ids, 'clients')
  const { rows } = await db.execute<Record<keyof Booked, never>>(sql`
    select ${bookings.id}, ${bookings.sessionId} as "sessionId", ${bookings.clientName} as client, ${bookings.state},
      ${secondsIn(bookings.createdAt)} as "createdAt", ${secondsIn(bookings.expiresAt)} as "expiresAt"
    from ${bookings} where ${bookings.workspaceId} = ${member.workspaceId} and ${among(bookings.sessionId, open)}
    order by ${bookings.createdAt}`)
  return { open, booked: rows }
}

type Answered = Pick<typeof answers.$inferSelect, 'bookingId' | 'question' | 'value'>

/** The first two answers of each booking. */
async function listFirstAnswers(db: Database, { workspaceId }: SignedIn, bookingIds: readonly string[]): Promise<Answered[]> {
  const { rows } = await db.execute<Record<keyof Answered, never>>(sql`
    select "bookingId", question, value from (
      select ${answers.bookingId} as "bookingId", ${answers.question}, ${answers.value}, ${answers.position},
        row_number() over (partition by ${answers.bookingId} order by ${answers.position}) as nth
      from ${answers} where ${answers.workspaceId} = ${workspaceId} and ${among(answers.bookingId, bookingIds)}
    ) as answered where nth <= 2 order by position`)
  return rows
}

/** A member's sessions of the days that begin at `from`, counted by the local date of their start. */
async function countDays(db: Database, member: SignedIn, zone: Zone, from: number): Promise<TodayView['comingDays']> {
  const first = zone.dayOf(from)
  const starts = Array.from({ length: COMING_DAYS }, (_, index) => dateOf(zone.startOfDay(first + index)).toISOString())
  const waiting = db.select({ sessionId: bookings.sessionId, toApprove: count().as('to_approve') }).from(bookings)
    .where(and(eq(bookings.workspaceId, member.workspaceId), sql`${bookings.state} = 'awaitingApproval'`)).groupBy(bookings.sessionId).as('waiting')
  const rows = await db.select({
    // The zones are ours: the database may know fewer.
    day: sql<number>`width_bucket(${sessions.startsAt}, ${sql.param(starts)}::timestamptz[])`,
    sessions: count(),
    first: min(sessions.startsAt),
    toApprove: sql<number>`coalesce(sum(${waiting.toApprove}), 0)::int`,
  }).from(sessions).leftJoin(waiting, eq(waiting.sessionId, sessions.id))
    .where(and(sessionsOf(db, member, 'times'), standing, inSpan(from, from + COMING_DAYS * DAY))).groupBy(sql`1`).orderBy(sql`1`)
  return rows.map(({ day, first: at, ...row }) => ({ date: formatDate(first + day - 1), ...row, first: at ? secondsOf(at) : 0 }))
}

const standing = eq(sessions.cancelled, false)
const secondsIn = (column: AnyColumn) => sql<number>`floor(extract(epoch from ${column}))::float8`
const inSpan = (from: number, to: number) => and(gte(sessions.startsAt, dateOf(from)), lt(sessions.startsAt, dateOf(to)))

/** A booking of the session in one of some states. */
function hasBooking(db: Database, ...states: (typeof bookings.$inferSelect)['state'][]): SQL {
  return exists(db.select({ id: bookings.id }).from(bookings).where(
    and(eq(bookings.workspaceId, sessions.workspaceId), eq(bookings.sessionId, sessions.id), inArray(bookings.state, states)),
  ))
}

/** The next confirmed session of one's own; without a lane of one's own, anybody's. */
function nextSession({ db, now }: Context, member: SignedIn, ownHostId: string | null) {
  const isOwn = ownHostId === null ? sessionsOf(db, member, 'clients') : exists(db.select({ id: sessionHosts.sessionId }).from(sessionHosts).where(
    and(eq(sessionHosts.workspaceId, sessions.workspaceId), eq(sessionHosts.sessionId, sessions.id), eq(sessionHosts.hostId, ownHostId)),
  ))
  return listRows(db, member, and(standing, notOver(now()), hasBooking(db, 'confirmed'), isOwn), 1)
}

/** Sessions to come whose room fails or that somebody must approve. */
function listWaiting({ db, now }: Context, member: SignedIn) {
  return listRows(db, member, and(
    sessionsOf(db, member, 'change'),
    standing,
    notOver(now()),
    // Each found by an index of its own, as there are few.
    inArray(sessions.id, unionAll(
      db.select({ id: bookings.sessionId }).from(bookings)
        .where(and(eq(bookings.workspaceId, member.workspaceId), sql`${bookings.state} = 'awaitingApproval'`)),
      db.select({ id: rooms.sessionId }).from(rooms)
        .where(and(eq(rooms.workspaceId, member.workspaceId), sql`${rooms.state} = 'failing'`, isNull(rooms.replacedAt))),
      db.select({ id: rooms.sessionId }).from(rooms).where(and(
        eq(rooms.workspaceId, member.workspaceId), sql`${rooms.state} = 'making' and ${rooms.lastFault} is not null`, isNull(rooms.replacedAt),
      )),
    )),
  ))
}

/** What a new workspace needs before clients can book, each step with its state; empty once all is done. */
async function setupSteps({ db, video }: Context, workspaceId: string): Promise<SetupStep[]> {
  const { rows } = await db.execute<{ hours: boolean, open: boolean, calendar: boolean, video: boolean, booked: boolean }>(sql`
    select
      exists (select 1 from ${hoursPlans} where ${hoursPlans.workspaceId} = ${workspaceId} and ${hoursPlans.version} > 1) as hours,
      exists (select 1 from ${eventTypes} where ${eventTypes.workspaceId} = ${workspaceId} and ${eventTypes.state} = 'open') as open,
      exists (select 1 from ${calendarAccounts} where ${calendarAccounts.workspaceId} = ${workspaceId}) as calendar,
      exists (
        select 1 from ${videoAccounts} where ${videoAccounts.workspaceId} = ${workspaceId} and ${videoAccounts.state} = 'connected'
      ) as video,
      exists (select 1 from ${bookings} where ${bookings.workspaceId} = ${workspaceId}) as booked`)
  const [found] = rows
  if (!found) return []
  const steps: SetupStep[] = [
    { step: 'hours', done: found.hours || found.booked },
    { step: 'open', done: found.open },
    { step: 'calendar', done: found.calendar },
    ...(video.size > 0 ? [{ step: 'video' as const, done: found.video }] : []),
    { step: 'booked', done: found.booked },
  ]
  return steps.every(({ done }) => done) ? [] : steps
}
