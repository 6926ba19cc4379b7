import { and, asc, desc, eq, getTableColumns, inArray, sql } from 'drizzle-orm'
import { nameForTeam } from '../../core/event-type/name-for-team'
import { formatAnswer } from '../../core/intake'
import { standingOf } from '../../core/payment/payment'
import type { SessionView, SignedIn } from '../../core/views/desk'
import { type Context, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { bookings, changes, chairs, deliveries, hosts, members, ownMessages, sessionHosts, sessions } from '../database/schema'
import { bookingPage, formatPlace, loadBookingDetails, loadSessionBookings } from '../details'
import { viewAssignments } from '../rotation'
import { readTrail } from '../trail'
import { reachesSession, sessionsOf } from './scope'
import { guestsView } from './view'

/** What members see of one session. */

/** How the trail calls a member; null where another one of the workspace has the same name. */
async function uniqueName(db: Database, { workspaceId, name }: SignedIn): Promise<string | null> {
  return await db.$count(members, and(eq(members.workspaceId, workspaceId), eq(members.name, name))) === 1 ? name : null
}

/** Where the last one who left a session is now. */
async function wentTo(db: Database, workspaceId: string, id: string): Promise<string | null> {
  const [last] = await db.select({ sessionId: bookings.sessionId }).from(changes)
    .innerJoin(bookings, and(eq(bookings.workspaceId, changes.workspaceId), eq(bookings.id, changes.bookingId)))
    .where(and(eq(changes.workspaceId, workspaceId), eq(changes.sessionId, id), eq(changes.kind, 'left')))
    .orderBy(desc(changes.at)).limit(1)
  return last && last.sessionId !== id ? last.sessionId : null
}

/** Everything about one session, or about the one that its last client went to; null where the member has none such. */
export async function viewSession(context: Context, member: SignedIn, id: string): Promise<SessionView | null> {
  const { db } = context
  const { workspaceId } = member
  const [session] = await db.select().from(sessions).where(and(sessionsOf(db, member, 'clients'), eq(sessions.id, id)))
  if (!session) return null
  const mayChange = await reachesSession(db, member, id, 'change')
  const booked = await loadSessionBookings(db, workspaceId, id)
  const first = booked[0] && await loadBookingDetails(db, workspaceId, booked[0].booking.id)
  if (!first) {
    const next = await wentTo(db, workspaceId, id)
    return next === null ? null : viewSession(context, member, next)
  }
  const sitting = await db.select({ id: hosts.id, name: hosts.name, timeZone: hosts.timeZone, chair: chairs.name }).from(sessionHosts)
    .innerJoin(hosts, and(eq(hosts.workspaceId, sessionHosts.workspaceId), eq(hosts.id, sessionHosts.hostId)))
    .innerJoin(chairs, and(eq(chairs.workspaceId, sessionHosts.workspaceId), eq(chairs.id, sessionHosts.chairId)))
    .where(and(eq(sessionHosts.workspaceId, workspaceId), eq(sessionHosts.sessionId, id)))
    .orderBy(asc(chairs.position))
  const sent = await db.select({ ...getTableColumns(deliveries), own: sql<string | null>`${ownMessages.definition} ->> 'name'` }).from(deliveries)
    .leftJoin(ownMessages, and(eq(ownMessages.workspaceId, deliveries.workspaceId), eq(ownMessages.id, deliveries.ownId)))
    .where(and(eq(deliveries.workspaceId, workspaceId), inArray(deliveries.bookingId, booked.map(({ booking }) => booking.id))))
    .orderBy(asc(deliveries.createdAt), asc(deliveries.audience))
  const { room } = first
  return {
    id,
    eventType: { id: first.eventType.id, name: nameForTeam(first.eventType.settings), oneOff: first.eventType.oneOff },
    cancelled: session.cancelled,
    mayChange,
    start: secondsOf(session.startsAt),
    end: secondsOf(session.endsAt),
    seats: session.seats,
    notes: session.notes,
    tags: session.tags,
    notesVersion: session.notesVersion,
    place: { kind: session.place.kind, text: formatPlace(session.place, first.booking.clientPhone), note: session.place.note ?? '' },
    hosts: sitting,
    assignments: await viewAssignments(db, workspaceId, id),
    reader: await uniqueName(db, member),
    room: room && {
      state: room.state,
      joinUrl: room.joinUrl,
      hostUrl: mayChange ? room.hostUrl : null,
      number: room.number,
      passcode: mayChange ? room.passcode : null,
      underMainUser: room.userId === '',
      attempts: room.attempts,
      fault: room.lastFault,
      nextTryAt: room.nextTryAt ? secondsOf(room.nextTryAt) : null,
    },
    bookings: booked.map(({ booking, answers: answered, guests, payment }) => ({
      id: booking.id,
      state: booking.state,
      client: { name: booking.clientName, email: booking.clientEmail, phone: booking.clientPhone, timeZone: booking.timeZone },
      payment: payment && {
        standing: standingOf(payment), amount: payment.amount, currency: payment.currency, paidAmount: payment.paidAmount,
        refundAmount: payment.refundAmount, refundedAmount: payment.refundedAmount, byHand: payment.accountId === null,
      },
      people: booking.people,
      countsPeople: booking.people > 1 || first.eventType.settings.mostPeople > 1,
      source: booking.source,
      createdAt: secondsOf(booking.createdAt),
      expiresAt: booking.state === 'awaitingApproval' && booking.expiresAt ? secondsOf(booking.expiresAt) : null,
      cancelReason: booking.cancelReason,
      suggestion: booking.placeSuggestion,
      answers: answered.map(formatAnswer),
      guests: guestsView({ guests }),
      page: mayChange ? bookingPage(context, { workspace: first.workspace, booking }) : null,
      messages: sent.filter(delivery => delivery.bookingId === booking.id).map(delivery => ({
        id: delivery.id,
        occasion: delivery.occasion,
        name: delivery.own,
        channel: delivery.channel,
        audience: delivery.audience,
        address: delivery.address,
        state: delivery.state,
        isQuiet: delivery.state === 'overtaken' && delivery.fault?.code === 'quietHours',
        sentAt: delivery.sentAt ? secondsOf(delivery.sentAt) : null,
        nextTryAt: delivery.nextTryAt ? secondsOf(delivery.nextTryAt) : null,
        withLink: delivery.withLink,
      })),
    })),
    trail: await readTrail(db, workspaceId, id),
  }
}
