import { and, eq, inArray, sql } from 'drizzle-orm'
import { type Change, changeTable, type Effect, effectsOf, type Situation } from '../../core/booking/changes'
import type { BookingState } from '../../core/booking/states'
import { type Context, dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { bookings, changes, deliveries, rooms, sessionHosts, sessions } from '../database/schema'
import { type BookingDetails, loadBookingDetails, type Person, recipientsOf } from '../details'
import { planJob, planJobs } from '../jobs/queue'
import { recordTrailEntries } from '../trail'
import { planDeliveries } from './deliveries'

/**
 * The executor: records a change and writes what the table in the core says follows from it, in the caller's transaction
 * and under the session's lock.
 */

/** What a change is about, and the bookings whose people are told. */
interface Target {
  workspaceId: string
  session: BookingDetails['session']
  bookingId: string | null
  involved: readonly BookingDetails[]
  room: BookingDetails['room']
}

/** Writes the consequences of a change to one booking, which itself has been written already. */
export async function applyBookingChange(
  context: Context, tx: Database, details: BookingDetails, change: Change, from: BookingState | null,
  facts: Pick<Situation, 'isLast' | 'hostsHaveEntry'>,
): Promise<void> {
  const { booking, session, room } = details
  await apply(context, tx, { workspaceId: booking.workspaceId, session, bookingId: booking.id, involved: [details], room }, change, from, facts)
}

/** Writes the consequences of a change to a whole session. */
export async function applySessionChange(context: Context, tx: Database, workspaceId: string, sessionId: string, change: Change): Promise<void> {
  const confirmed = await tx.select({ id: bookings.id }).from(bookings)
    .where(and(eq(bookings.workspaceId, workspaceId), eq(bookings.sessionId, sessionId), eq(bookings.state, 'confirmed')))
  const involved: BookingDetails[] = []
  for (const { id } of confirmed) {
    const details = await loadBookingDetails(tx, workspaceId, id)
    if (details) involved.push(details)
  }
  const [session] = await tx.select().from(sessions).where(isSession(workspaceId, sessionId))
  if (!session) return
  await apply(context, tx, { workspaceId, session, bookingId: null, involved, room: involved[0]?.room ?? null }, change, null, { isLast: false, hostsHaveEntry: involved.length > 0 })
}

async function apply(
  context: Context, tx: Database, target: Target, change: Change, from: BookingState | null, facts: Pick<Situation, 'isLast' | 'hostsHaveEntry'>,
): Promise<void> {
  const { workspaceId, session, bookingId, room } = target
  const [row] = await tx.insert(changes).values({
    workspaceId, kind: change.kind, sessionId: session.id, bookingId, actorKind: change.by.kind, actorName: change.by.name,
    fromState: from, toState: changeTable[change.kind].to, at: dateOf(change.at),
  }).returning({ id: changes.id })
  if (!row) throw new Error('The change was not saved')
  const effects = effectsOf(change, {
    ...facts,
    byVideo: session.place.kind === 'video',
    roomState: room === null ? 'none' : room.state === 'ready' ? 'ready' : 'pending',
    isOver: secondsOf(session.endsAt) <= change.at,
    roomWait: context.settings.roomWaitSeconds,
  })
  const entries = effects.flatMap(effect => (effect.kind === 'trail' ? [effect.entry] : []))
  await recordTrailEntries(tx, { workspaceId, sessionId: session.id, ...(bookingId ? { bookingId } : {}) }, change.at, entries)
  for (const effect of effects) await write(context, tx, target, row.id, effect)
}

async function write(context: Context, tx: Database, target: Target, changeId: string, effect: Effect): Promise<void> {
  const { workspaceId, session, involved } = target
  switch (effect.kind) {
    case 'trail':
      return
    case 'reviseEntry':
      return reviseEntry(tx, target, effect.whose)
    case 'makeRoom': {
      const [room] = await tx.insert(rooms).values({ workspaceId, sessionId: session.id }).onConflictDoNothing().returning({ id: rooms.id })
      if (room) await planJob(tx, 'makeRoom', { workspaceId, id: room.id }, effect.at)
      return
    }
    case 'withdrawRoom': {
      const [room] = await tx.update(rooms).set({ state: 'withdrawn', attempts: 0, nextTryAt: null, lastFault: null })
        .where(and(eq(rooms.workspaceId, workspaceId), eq(rooms.sessionId, session.id)))
        .returning({ id: rooms.id, accountId: rooms.accountId })
      // A room that was asked for may be there although its answer was lost.
      if (room?.accountId) await planJob(tx, 'withdrawRoom', { workspaceId, id: room.id }, effect.at)
      return
    }
    case 'endSession':
      await tx.update(sessions).set({ cancelled: true }).where(isSession(workspaceId, session.id))
      await tx.update(sessionHosts).set({ active: false })
        .where(and(eq(sessionHosts.workspaceId, workspaceId), eq(sessionHosts.sessionId, session.id)))
      return
    case 'releaseConfirmations': {
      const waiting = (await confirmationsOf(tx, target)).filter(delivery => delivery.state === 'planned' && delivery.nextTryAt === null)
      return planJobs(tx, waiting.map(({ id }) => ({ name: 'deliver', about: { workspaceId, id }, at: effect.at })))
    }
    case 'message': {
      const lacking = effect.onlyWithoutLink ? await withoutLink(tx, target) : null
      for (const details of involved) {
        const people = recipientsOf(details, effect.to)
          .filter(person => lacking === null || lacking.has(recipientKey(details.booking.id, person)))
        await planDeliveries(tx, context, { workspaceId, changeId, bookingId: details.booking.id, memberId: null }, effect.occasion, people, effect.at)
      }
    }
  }
}

async function reviseEntry(tx: Database, { workspaceId, session, involved }: Target, whose: 'client' | 'hosts'): Promise<void> {
  if (whose === 'hosts') {
    await tx.update(sessions).set({ sequence: sql`${sessions.sequence} + 1` }).where(isSession(workspaceId, session.id))
  } else if (involved.length > 0) {
    await tx.update(bookings).set({ sequence: sql`${bookings.sequence} + 1` })
      .where(and(eq(bookings.workspaceId, workspaceId), inArray(bookings.id, involved.map(({ booking }) => booking.id))))
  }
}

function confirmationsOf(tx: Database, { workspaceId, involved }: Target): Promise<(typeof deliveries.$inferSelect)[]> {
  return tx.select().from(deliveries).where(and(
    eq(deliveries.workspaceId, workspaceId),
    eq(deliveries.occasion, 'booked'),
    inArray(deliveries.bookingId, involved.map(({ booking }) => booking.id)),
  ))
}

/** Who got a confirmation without the link. One that is planned, be it once more, will hold the link itself. */
async function withoutLink(tx: Database, target: Target): Promise<Set<string>> {
  if (target.involved.length === 0) return new Set()
  const lacking = (await confirmationsOf(tx, target))
    .filter(({ withLink, state }) => withLink === false && state !== 'planned' && state !== 'overtaken')
  return new Set(lacking.map(({ bookingId, address }) => recipientKey(bookingId ?? '', { address })))
}

function recipientKey(bookingId: string, { address }: Pick<Person, 'address'>): string {
  return `${bookingId} ${address}`
}

function isSession(workspaceId: string, id: string) {
  return and(eq(sessions.workspaceId, workspaceId), eq(sessions.id, id))
}
