import { and, asc, eq, gte, inArray, lt } from 'drizzle-orm'
import { takingStates } from '../../core/booking/states'
import { formatAnswer } from '../../core/intake'
import { DAY } from '../../core/time/civil'
import type { SessionCard, SessionView, SignedIn, TodayView } from '../../core/views/desk'
import { type Context, dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { answers, bookings, chairs, deliveries, eventTypes, hosts, rooms, sessionHosts, sessions } from '../database/schema'
import { bookingPage, formatPlace, loadBookingDetails, loadSessionBookings } from '../details'
import { readTrail } from '../trail'
import { listAttention } from './attention'
import { sessionsOf } from './scope'

/** What members see of sessions. */

/** A member's sessions with at least one booking that takes their time, starting within [from, to), ascending. */
async function listSessions(db: Database, member: SignedIn, from: number, to: number): Promise<SessionCard[]> {
  const { workspaceId } = member
  const found = await db.select({ session: sessions, settings: eventTypes.settings, room: rooms }).from(sessions)
    .innerJoin(eventTypes, and(eq(eventTypes.workspaceId, sessions.workspaceId), eq(eventTypes.id, sessions.eventTypeId)))
    .leftJoin(rooms, and(eq(rooms.workspaceId, sessions.workspaceId), eq(rooms.sessionId, sessions.id)))
    .where(and(
      sessionsOf(db, member),
      eq(sessions.cancelled, false),
      gte(sessions.startsAt, dateOf(from)),
      lt(sessions.startsAt, dateOf(to)),
    ))
    .orderBy(asc(sessions.startsAt))
  const ids = found.map(row => row.session.id)
  if (ids.length === 0) return []
  const sitting = await db.select({ sessionId: sessionHosts.sessionId, id: hosts.id, name: hosts.name }).from(sessionHosts)
    .innerJoin(hosts, and(eq(hosts.workspaceId, sessionHosts.workspaceId), eq(hosts.id, sessionHosts.hostId)))
    .where(and(eq(sessionHosts.workspaceId, workspaceId), inArray(sessionHosts.sessionId, ids)))
  const booked = await db.select().from(bookings)
    .where(and(eq(bookings.workspaceId, workspaceId), inArray(bookings.sessionId, ids), inArray(bookings.state, [...takingStates])))
    .orderBy(asc(bookings.createdAt))
  const answered = booked.length === 0 ? [] : await db.select().from(answers)
    .where(and(eq(answers.workspaceId, workspaceId), inArray(answers.bookingId, booked.map(booking => booking.id))))
    .orderBy(asc(answers.position))
  return found.map(({ session, settings, room }) => ({
    id: session.id,
    eventType: settings.name,
    start: secondsOf(session.startsAt),
    end: secondsOf(session.endsAt),
    hosts: sitting.filter(host => host.sessionId === session.id).map(({ id, name }) => ({ id, name })),
    placeKind: session.place.kind,
    room: room && {
      state: room.state,
      fault: room.lastFault,
      nextTryAt: room.nextTryAt ? secondsOf(room.nextTryAt) : null,
      hostUrl: room.state === 'ready' ? room.hostUrl : null,
    },
    bookings: booked.filter(booking => booking.sessionId === session.id).map(booking => ({
      id: booking.id,
      client: booking.clientName,
      state: booking.state,
      createdAt: secondsOf(booking.createdAt),
      firstAnswers: answered.filter(answer => answer.bookingId === booking.id).map(answer => formatAnswer(answer).text).slice(0, 2),
    })),
  }))
}

const COMING_DAYS = 7
const WAITING_DAYS = 120

/** The day that starts at `from` and ends at `to`, one's own lane first; to a host no other's. */
export async function viewToday(context: Context, member: SignedIn, from: number, to: number): Promise<TodayView> {
  const { db, now } = context
  const lanes = await db
    .select()
    .from(hosts)
    .where(and(eq(hosts.workspaceId, member.workspaceId), member.role === 'host' ? eq(hosts.memberId, member.memberId) : undefined))
    .orderBy(asc(hosts.name))
  const all = await listSessions(db, member, from, Math.max(to, now()) + WAITING_DAYS * DAY)
  const waits = (card: SessionCard) => card.end > now()
    && (card.room?.state === 'failing' || card.bookings.some(booking => booking.state === 'awaitingApproval'))
  return {
    now: now(),
    hosts: lanes
      .map(host => ({ id: host.id, name: host.name, timeZone: host.timeZone, own: host.memberId === member.memberId }))
      .sort((a, b) => Number(b.own) - Number(a.own)),
    today: all.filter(card => card.start < to),
    coming: all.filter(card => card.start >= to && card.start < to + COMING_DAYS * DAY),
    waiting: all.filter(waits),
    attention: await listAttention(context, member),
  }
}

/** Everything about one session, or null where the member has none such. */
export async function viewSession(context: Context, member: SignedIn, id: string): Promise<SessionView | null> {
  const { db } = context
  const { workspaceId } = member
  const [session] = await db.select().from(sessions).where(and(sessionsOf(db, member), eq(sessions.id, id)))
  if (!session) return null
  const booked = await loadSessionBookings(db, workspaceId, id)
  const first = booked[0] && await loadBookingDetails(db, workspaceId, booked[0].booking.id)
  if (!first) return null
  const sitting = await db.select({ id: hosts.id, name: hosts.name, timeZone: hosts.timeZone, chair: chairs.name }).from(sessionHosts)
    .innerJoin(hosts, and(eq(hosts.workspaceId, sessionHosts.workspaceId), eq(hosts.id, sessionHosts.hostId)))
    .innerJoin(chairs, and(eq(chairs.workspaceId, sessionHosts.workspaceId), eq(chairs.id, sessionHosts.chairId)))
    .where(and(eq(sessionHosts.workspaceId, workspaceId), eq(sessionHosts.sessionId, id)))
    .orderBy(asc(chairs.position))
  const sent = await db.select().from(deliveries)
    .where(and(eq(deliveries.workspaceId, workspaceId), inArray(deliveries.bookingId, booked.map(({ booking }) => booking.id))))
    .orderBy(asc(deliveries.createdAt), asc(deliveries.audience))
  const { room } = first
  return {
    id,
    eventType: { id: first.eventType.id, name: first.eventType.settings.name },
    cancelled: session.cancelled,
    start: secondsOf(session.startsAt),
    end: secondsOf(session.endsAt),
    seats: session.seats,
    place: { kind: session.place.kind, text: formatPlace(session.place, first.booking.clientPhone) },
    hosts: sitting,
    room: room && {
      state: room.state,
      joinUrl: room.joinUrl,
      hostUrl: room.hostUrl,
      number: room.number,
      passcode: room.passcode,
      attempts: room.attempts,
      fault: room.lastFault,
      nextTryAt: room.nextTryAt ? secondsOf(room.nextTryAt) : null,
    },
    bookings: booked.map(({ booking, answers: answered }) => ({
      id: booking.id,
      state: booking.state,
      client: { name: booking.clientName, email: booking.clientEmail, phone: booking.clientPhone, timeZone: booking.timeZone },
      source: booking.source,
      createdAt: secondsOf(booking.createdAt),
      cancelReason: booking.cancelReason,
      answers: answered.map(formatAnswer),
      page: bookingPage(context, { workspace: first.workspace, booking }),
      messages: sent.filter(delivery => delivery.bookingId === booking.id).map(delivery => ({
        id: delivery.id,
        occasion: delivery.occasion,
        audience: delivery.audience,
        address: delivery.address,
        state: delivery.state,
        sentAt: delivery.sentAt ? secondsOf(delivery.sentAt) : null,
        nextTryAt: delivery.nextTryAt ? secondsOf(delivery.nextTryAt) : null,
        withLink: delivery.withLink,
      })),
    })),
    trail: await readTrail(db, workspaceId, id),
  }
}
