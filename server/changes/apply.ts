import { randomUUID } from 'node:crypto'
import { and, asc, eq, inArray, sql } from 'drizzle-orm'
import { changeTable } from '../../core/booking/change-table'
import { type Change, tellingOf } from '../../core/booking/changes'
import type { GuestChange } from '../../core/booking/guests'
import { type Effect, effectsOf, type Situation } from '../../core/booking/effects'
import type { BookingState } from '../../core/booking/states'
import { isAboutSession } from '../../core/booking/trail'
import { type Context, dateOf, secondsOf } from '../context'
import { Batch } from '../database/batch'
import type { Database } from '../database/connection'
import { bookings, changes, deliveries, hosts, rooms, sessionHosts, sessions, trail } from '../database/schema'
import { type BookingDetails, loadDetailsOfSession, loadObservers, type Observer, type Person, recipientsOf } from '../details'
import { retakeTurns, returnTurns } from '../rotation'
import { planDeliveries } from './deliveries'
import { endPayment } from './payments'

/**
 * The executor: records a change and writes what the table in the core says follows from it, in the caller's transaction
 * and under the session's lock.
 */

/** What a change is about, and the bookings whose people hear of it. */
interface Target {
  workspaceId: string
  session: BookingDetails['session']
  bookingId: string | null
  affected: readonly BookingDetails[]
  /** Bookings that wait for approval, where a change of the session concerns them. */
  requests: readonly BookingDetails[]
  room: BookingDetails['room']
  reseated: Reseated | null
  /** Who comes along with the client since, and who no longer does. */
  guests: GuestChange | null
  /** Who else is told, read once where somebody is. */
  observers?: Promise<Observer[]>
  /** Their confirmations, read once where they are asked for. */
  confirmations?: Promise<(typeof deliveries.$inferSelect)[]>
}

/** Who no longer sits in a session after a change, and who does since. */
export interface Reseated {
  former: readonly (typeof hosts.$inferSelect)[]
  newHostIds: readonly string[]
}

type Facts = Pick<Situation, 'isLast' | 'hostsHaveEntry' | 'countsCancelled' | 'countsMissed' | 'othersMissed'>

/** What the caller knows of the session; as a rule nothing of it holds. */
type BookingFacts = Partial<Pick<Facts, 'isLast' | 'hostsHaveEntry' | 'othersMissed'>>

/**
 * Writes the consequences of a change to one booking, together with what `batch` already holds of the change itself. False
 * where the batch has a guard and it does not hold.
 */
export async function applyBookingChange(
  context: Context, tx: Database, details: BookingDetails, change: Change, from: BookingState | null,
  { isLast = false, hostsHaveEntry = false, othersMissed = false }: BookingFacts = {}, batch = new Batch(),
): Promise<boolean> {
  const { booking, session, room, workspace: { countsCancelled, countsMissed } } = details
  // Whoever remembers these hosts' taken time looks again.
  batch.update(sql`update ${hosts} set taken_stamp = taken_stamp + 1
    where ${hosts.workspaceId} = ${booking.workspaceId} and ${inArray(hosts.id, details.hosts.map(host => host.id))}`)
  return apply(
    context,
    tx,
    {
      workspaceId: booking.workspaceId, session, bookingId: booking.id, affected: [details], requests: [], room, reseated: null,
      guests: tellingOf(change).guests,
    },
    change,
    from,
    { isLast, hostsHaveEntry, othersMissed, countsCancelled, countsMissed },
    batch,
  )
}

/** Writes the consequences of a change to a whole session. */
export async function applySessionChange(
  context: Context,
  tx: Database,
  workspaceId: string,
  sessionId: string,
  change: Change,
  reseated: Reseated | null = null,
): Promise<void> {
  const affected = await loadDetailsOfSession(tx, workspaceId, sessionId, 'confirmed')
  const requests = reseated ? await loadDetailsOfSession(tx, workspaceId, sessionId, 'awaitingApproval') : []
  const [first] = [...affected, ...requests]
  const session = first?.session ?? (await tx.select().from(sessions).where(isSession(workspaceId, sessionId)))[0]
  if (!session) return
  const facts = { isLast: false, hostsHaveEntry: affected.length > 0, countsCancelled: false, countsMissed: true, othersMissed: false }
  const target = { workspaceId, session, bookingId: null, affected, requests, room: first?.room ?? null, reseated, guests: null }
  await apply(context, tx, target, change, null, facts, new Batch())
}

async function apply(
  context: Context,
  tx: Database,
  target: Target,
  change: Change,
  from: BookingState | null,
  facts: Facts,
  batch: Batch,
): Promise<boolean> {
  const { workspaceId, session, bookingId, room } = target
  const changeId = randomUUID()
  const effects = effectsOf(change, {
    ...facts,
    byVideo: session.place.kind === 'video',
    roomState: room === null ? 'none' : room.state === 'ready' ? 'ready' : 'pending',
    roomMoves: movesWithSession(room, target.reseated, change),
    isRequest: bookingId !== null && target.affected[0]?.booking.state === 'awaitingApproval',
    isOver: secondsOf(session.endsAt) <= change.at,
    roomWait: context.settings.roomWaitSeconds,
    paymentWait: context.settings.paymentReminderSeconds,
  })
  batch.insert(changes, [
    {
      workspaceId,
      id: changeId,
      kind: change.kind,
      sessionId: session.id,
      bookingId,
      actorKind: change.by.kind,
      actorName: change.by.name,
      fromState: from,
      toState: changeTable[change.kind].to,
      ...tellingOf(change),
      at: dateOf(change.at),
    },
  ])
  const lines = effects.flatMap(effect => (effect.kind === 'trail' ? [effect.entry] : []))
  batch.insert(
    trail,
    lines.map(({ code, values }) => ({
      workspaceId,
      sessionId: session.id,
      bookingId: isAboutSession(code) ? null : bookingId,
      at: dateOf(change.at),
      code,
      values,
    })),
  )
  for (const effect of effects) await collect(context, tx, batch, target, changeId, effect)
  return batch.write(tx)
}

/** Adds what one effect writes. What it depends on is read under the session's lock. */
async function collect(context: Context, tx: Database, batch: Batch, target: Target, changeId: string, effect: Effect): Promise<void> {
  const { workspaceId, session, affected } = target
  switch (effect.kind) {
    case 'trail':
      return
    case 'reviseEntry':
      return reviseEntry(batch, target, effect.whose)
    case 'makeRoom': {
      const id = randomUUID()
      batch.insert(rooms, [{ workspaceId, id, sessionId: session.id, waitsUntil: dateOf(effect.waitsUntil) }], { onConflict: sql`do nothing` })
      batch.plan({ name: 'makeRoom', about: { workspaceId, id }, at: effect.at })
      return
    }
    case 'withdrawRoom': {
      if (!target.room) return
      batch.update(sql`update ${rooms} set state = 'withdrawn', attempts = 0, next_try_at = null, last_fault = null,
          join_url = case when account_id is null then null else join_url end, waits_for = null
        where ${rooms.workspaceId} = ${workspaceId} and ${rooms.id} = ${target.room.id}`)
      // A room that was asked for may be there although its answer was lost.
      if (target.room.accountId) batch.plan({ name: 'withdrawRoom', about: { workspaceId, id: target.room.id }, at: effect.at })
      return
    }
    case 'changeRoom':
      if (target.room?.accountId) batch.plan({ name: 'changeRoom', about: { workspaceId, id: target.room.id }, at: effect.at })
      return
    case 'replaceRoom': {
      if (!target.room) return
      await leaveRoom(tx, batch, target.room, effect.at)
      const id = randomUUID()
      batch.insert(rooms, [{ workspaceId, id, sessionId: session.id, waitsUntil: dateOf(effect.waitsUntil), wayKey: effect.way }])
      batch.plan({ name: 'makeRoom', about: { workspaceId, id }, at: effect.at })
      return
    }
    case 'giveRoom':
      if (target.room) await leaveRoom(tx, batch, target.room, effect.at)
      batch.insert(rooms, [{ workspaceId, id: randomUUID(), sessionId: session.id, state: 'ready', way: 'byHand', joinUrl: effect.link }])
      return
    case 'changePlace':
      // Apart from the batch, which changes the same row.
      await tx.update(sessions).set({ place: effect.place }).where(isSession(workspaceId, session.id))
      return
    case 'endSession':
      // Apart from the batch, which may change the same row: a row is changed once a statement.
      await tx.update(sessions).set({ cancelled: true }).where(isSession(workspaceId, session.id))
      await tx.update(sessionHosts).set({ active: false })
        .where(and(eq(sessionHosts.workspaceId, workspaceId), eq(sessionHosts.sessionId, session.id)))
      return
    case 'writeEntries': {
      const hostIds = affected[0]?.hosts.map(host => host.id) ?? []
      batch.plan({
        name: 'writeEntries', about: { workspaceId, id: session.id }, at: effect.at,
        where: sql`exists (select 1 from calendars where calendars.workspace_id = ${workspaceId}
            and (calendars.receives or exists (select 1 from receiving_calendars as named
              where named.workspace_id = calendars.workspace_id and named.calendar_id = calendars.id))
            and calendars.host_id = any(${sql.param([...hostIds, ...target.reseated?.newHostIds ?? []])}::uuid[]))
          or exists (select 1 from session_entries where session_entries.workspace_id = ${workspaceId} and session_entries.session_id = ${session.id})`,
      })
      return
    }
    case 'endPayment':
      if (affected[0]) await endPayment(tx, batch, affected[0], effect)
      return
    case 'returnTurns':
      // Apart from the batch too: some of these hosts are changed in it already.
      return returnTurns(tx, workspaceId, session.id, effect.at)
    case 'retakeTurns':
      return retakeTurns(tx, workspaceId, session.id, effect.at)
    case 'releaseConfirmations': {
      const waiting = (await confirmationsOf(tx, target)).filter(delivery => delivery.state === 'planned' && delivery.nextTryAt === null)
      batch.plan(...waiting.map(({ id }) => ({ name: 'deliver' as const, about: { workspaceId, id }, at: effect.at })))
      return
    }
    case 'message': {
      const among = effect.among === 'everybody' ? null : await confirmedPeople(tx, target, effect.among === 'withoutLink')
      const { requests } = target
      const about = {
        booking: affected, session: affected.slice(0, 1), sessionOrRequest: [...affected, ...requests].slice(0, 1), request: requests,
      }[effect.per]
      for (const details of about) {
        const observers = effect.to.includes('hosts') ? await (target.observers ??= loadObservers(tx, details)) : []
        const people = recipientsOf(details, effect.to, { ...target, observers })
          .filter(person => among === null || among.has(recipientKey(details.booking.id, person)))
        planDeliveries(
          batch,
          context,
          { workspaceId, changeId, bookingId: details.booking.id, sessionId: effect.isOfSession ? session.id : null, memberId: null },
          effect.occasion,
          people,
          effect.at,
        )
      }
    }
  }
}

/** Apart from the batch: there is one current room, so the old one makes way first. */
async function leaveRoom(tx: Database, batch: Batch, { workspaceId, id, accountId }: NonNullable<Target['room']>, at: number): Promise<void> {
  await tx.update(rooms).set({
    state: 'withdrawn', replacedAt: dateOf(at), attempts: 0, nextTryAt: null, lastFault: null, ...(accountId ? {} : { joinUrl: null }),
  }).where(and(eq(rooms.workspaceId, workspaceId), eq(rooms.id, id)))
  if (accountId) batch.plan({ name: 'withdrawRoom', about: { workspaceId, id }, at })
}

function reviseEntry(batch: Batch, { workspaceId, session, affected }: Target, whose: 'client' | 'hosts'): void {
  if (whose === 'hosts') {
    batch.update(
      sql`update ${sessions} set sequence = sequence + 1 where ${sessions.workspaceId} = ${workspaceId} and ${sessions.id} = ${session.id}`,
    )
  } else if (affected.length > 0) {
    batch.update(sql`update ${bookings} set sequence = sequence + 1
      where ${bookings.workspaceId} = ${workspaceId} and ${inArray(bookings.id, affected.map(({ booking }) => booking.id))}`)
  }
}

function confirmationsOf(tx: Database, target: Target): NonNullable<Target['confirmations']> {
  const { workspaceId, affected } = target
  return target.confirmations ??= tx.select().from(deliveries).where(and(
    eq(deliveries.workspaceId, workspaceId),
    inArray(deliveries.occasion, ['booked', 'handedOver', 'newLink', 'placeChanged', 'moved', 'guestAdded']),
    inArray(deliveries.bookingId, affected.map(({ booking }) => booking.id)),
  )).orderBy(asc(deliveries.createdAt)).execute()
}

/** Whose latest confirmation went out, or went out without the link. One that is planned, be it once more, will hold the link itself. */
async function confirmedPeople(tx: Database, target: Target, onlyWithoutLink: boolean): Promise<Set<string>> {
  if (target.affected.length === 0) return new Set()
  const latest = new Map((await confirmationsOf(tx, target)).filter(({ state }) => state !== 'overtaken')
    .map(delivery => [recipientKey(delivery.bookingId ?? '', delivery), delivery]))
  return new Set([...latest].filter(([, { withLink, state }]) =>
    state !== 'planned' && (!onlyWithoutLink || withLink === false)).map(([key]) => key))
}

function recipientKey(bookingId: string, { address }: Pick<Person, 'address'>): string {
  return `${bookingId} ${address}`
}

/**
 * Whether another room is to be made when a session goes to other hosts: it is the former one's, or was not made yet. A fixed
 * room at another time may be one that sessions next to it are in.
 */
function movesWithSession(room: BookingDetails['room'], reseated: Reseated | null, { kind }: Change): boolean {
  if (!room || room.state === 'withdrawn') return false
  if (kind === 'moved' && room.way === 'fixed') return true
  return reseated !== null && reseated.former.length > 0 && (room.state !== 'ready' || reseated.former.some(host => host.id === room.wayHostId))
}

function isSession(workspaceId: string, id: string) {
  return and(eq(sessions.workspaceId, workspaceId), eq(sessions.id, id))
}
