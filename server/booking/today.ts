import { and, asc, count, eq, exists, gte, inArray, isNull, lt, max, min, sql, type SQL } from 'drizzle-orm'
import { unionAll } from 'drizzle-orm/pg-core'
import { hasRight, reaches } from '../../core/account/rights'
import { takingStates } from '../../core/booking/states'
import { formatAnswer } from '../../core/intake'
import { nameForTeam } from '../../core/event-type/name-for-team'
import { groupBy } from '../../core/group-by'
import { DAY, formatDate } from '../../core/time/civil'
import type { Zone } from '../../core/time/zone'
import type { SessionCard, SetupStep, SignedIn, TodayView } from '../../core/views/desk'
import { type Context, dateOf, secondsOf } from '../context'
import { among } from '../database/among'
import type { Database } from '../database/connection'
import { answers, bookings, calendarAccounts, eventTypes, hosts, hoursPlans, rooms, sessionHosts, sessions, trail, videoAccounts, workspaces } from '../database/schema'
import { isRoomOfSession } from '../details'
import { areJobsRun } from '../jobs/presence'
import { countFailingJobs, listAttention } from './attention'
import { notOver, reachedOf, sessionsOf, settingOf, stillBooked } from './scope'

/** A day of sessions with what waits for a person and what comes next. */

const COMING_DAYS = 7

/**
 * The day from `from` to `to`, one's own lane first, and those of others as far as the member reaches. `today` ends where the
 * coming days begin.
 */
export async function viewToday(
  context: Context,
  member: SignedIn,
  { from, to, todayEnds, zone }: { from: number, to: number, todayEnds: number, zone: Zone },
): Promise<TodayView> {
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
  const rows = Promise.all([
    listRows(db, member, and(standing, inSpan(from, to))),
    listRows(db, member, and(eq(sessions.cancelled, true), inSpan(from, to))),
    nextSession(context, member, own?.id ?? null),
    listWaiting(context, member),
  ])
  const [cards, comingDays, attention, setup] = await Promise.all([
    rows.then(found => cardsOf(context, member, found.flat())),
    countDays(db, member, zone, todayEnds),
    listAttention(context, member),
    hasRight(member.role, 'changeEventTypes') ? setupSteps(context, member.workspaceId) : [],
  ])
  const [today = [], cancelled = [], [next = null] = [], waiting = []] = (await rows)
    .map(part => part.map(({ session }) => cards.get(session.id)).filter(card => card !== undefined))
  return {
    now: now(),
    hosts: lanes
      .map(host => ({ id: host.id, name: host.name, timeZone: host.timeZone, own: host === own }))
      .sort((a, b) => Number(b.own) - Number(a.own)),
    today, cancelled, next, comingDays, waiting, attention, setup,
  }
}

/** Changes whenever something happens that Today shows. Cheap, so that screens can ask often. */
export async function todayRevision({ db }: Context, { workspaceId, reach }: SignedIn): Promise<string> {
  const [[workspace], [newest], areRun, failing] = await Promise.all([
    db.select({ stamp: workspaces.stamp }).from(workspaces).where(eq(workspaces.id, workspaceId)),
    db.select({ id: max(trail.id) }).from(trail).where(eq(trail.workspaceId, workspaceId)),
    areJobsRun(db),
    countFailingJobs(db, workspaceId),
  ])
  return [workspace?.stamp, newest?.id ?? 0, reach.sessions, areRun, failing].join(' ')
}

/** A member's sessions that a condition holds for, ascending. Cancelled ones keep the bookings that they had. */
function listRows(db: Database, member: SignedIn, condition: SQL | undefined, limit = 500) {
  return db.select({
    session: { id: sessions.id, startsAt: sessions.startsAt, endsAt: sessions.endsAt, cancelled: sessions.cancelled },
    eventTypeId: sessions.eventTypeId,
    placeKind: sql<string>`${sessions.place} ->> 'kind'`,
    room: { state: rooms.state, fault: rooms.lastFault, nextTryAt: rooms.nextTryAt, hostUrl: rooms.hostUrl, waitsFor: rooms.waitsFor },
  }).from(sessions)
    .leftJoin(rooms, isRoomOfSession)
    .where(and(sessionsOf(db, member, 'times'), stillBooked, condition))
    .orderBy(asc(sessions.startsAt))
    .limit(limit)
}

type CardRow = Awaited<ReturnType<typeof listRows>>[number]

/** What is shown of some sessions, by their ids: one query a table, however many they are. */
async function cardsOf({ db }: Context, member: SignedIn, found: readonly CardRow[]): Promise<Map<string, SessionCard>> {
  const { workspaceId } = member
  const ids = [...new Set(found.map(row => row.session.id))]
  if (ids.length === 0) return new Map()
  const [named, sitting, { open, booked }, changeable] = await Promise.all([
    // Settings are large: they are read once for each event type, and not for each session.
    db.select({ id: eventTypes.id, name: settingOf('name'), teamName: settingOf('teamName') }).from(eventTypes)
      .where(and(eq(eventTypes.workspaceId, workspaceId), among(eventTypes.id, new Set(found.map(row => row.eventTypeId))))),
    db.select({ sessionId: sessionHosts.sessionId, id: hosts.id, name: hosts.name }).from(sessionHosts)
      .innerJoin(hosts, and(eq(hosts.workspaceId, sessionHosts.workspaceId), eq(hosts.id, sessionHosts.hostId)))
      .where(and(eq(sessionHosts.workspaceId, workspaceId), among(sessionHosts.sessionId, ids))),
    listBooked(db, member, ids),
    reachedOf(db, member, ids, 'change'),
  ])
  const answered = booked.length === 0 ? [] : await db
    .select({ bookingId: answers.bookingId, question: answers.question, value: answers.value }).from(answers)
    .where(and(eq(answers.workspaceId, workspaceId), among(answers.bookingId, booked.map(booking => booking.id))))
    .orderBy(asc(answers.position))
  const nameOf = new Map(named.map(eventType => [eventType.id, nameForTeam(eventType)]))
  const sittingIn = groupBy(sitting, host => host.sessionId)
  const bookedIn = groupBy(booked, booking => booking.sessionId)
  const answersOf = groupBy(answered, answer => answer.bookingId)
  return new Map(found.map(({ session, eventTypeId, placeKind, room }) => [session.id, {
    id: session.id,
    eventType: nameOf.get(eventTypeId) ?? '',
    start: secondsOf(session.startsAt),
    end: secondsOf(session.endsAt),
    hosts: (sittingIn.get(session.id) ?? []).map(({ id, name }) => ({ id, name })),
    placeKind,
    open: open.has(session.id),
    room: room?.state && open.has(session.id) ? {
      state: room.state,
      fault: room.fault,
      nextTryAt: room.nextTryAt ? secondsOf(room.nextTryAt) : null,
      waitsFor: room.waitsFor,
      hostUrl: room.state === 'ready' && changeable.has(session.id) ? room.hostUrl : null,
    } : null,
    bookings: (bookedIn.get(session.id) ?? [])
      .filter(booking => (session.cancelled || takingStates.some(state => state === booking.state)))
      .map(booking => ({
        id: booking.id,
        client: booking.clientName,
        state: booking.state,
        createdAt: secondsOf(booking.createdAt),
        expiresAt: booking.state === 'awaitingApproval' && booking.expiresAt ? secondsOf(booking.expiresAt) : null,
        firstAnswers: (answersOf.get(booking.id) ?? []).slice(0, 2).map(answer => formatAnswer(answer).text),
      })),
  }]))
}

/** The bookings of sessions, as far as the member may see them. */
async function listBooked(db: Database, member: SignedIn, ids: readonly string[]) {
  const open = await reachedOf(db, member, ids, 'clients')
  const booked = await db.select({
    id: bookings.id, sessionId: bookings.sessionId, clientName: bookings.clientName, state: bookings.state, createdAt: bookings.createdAt,
    expiresAt: bookings.expiresAt,
  }).from(bookings)
    .where(and(eq(bookings.workspaceId, member.workspaceId), among(bookings.sessionId, open)))
    .orderBy(asc(bookings.createdAt))
  return { open, booked }
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
