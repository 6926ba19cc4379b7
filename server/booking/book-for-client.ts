import { and, desc, eq, sql } from 'drizzle-orm'
import { reaches } from '../../core/account/rights'
import { tellable } from '../../core/booking/told'
import { nameForTeam } from '../../core/event-type/name-for-team'
import { allQuestions } from '../../core/intake/question-sets'
import type { ChosenHost } from '../../core/rotation/chairs'
import type { InputFault } from '../../core/validation'
import type { BookableView, KnownClient } from '../../core/views/book-for-client'
import type { PublicOpening } from '../../core/views/client'
import type { SignedIn } from '../../core/views/desk'
import type { Context } from '../context'
import type { Database } from '../database/connection'
import { bookings, escapeLike, searchText, sessions } from '../database/schema'
import {
  type EventType, isBookable, loadSnapshot, nearestOpenings, oneOffEventType, openingAt, chairToPick, type WorkspaceSnapshot,
} from '../event-types'
import { type Attempt, spanOf, tryBooking } from './create-booking'
import { type BookOutcome, findAnswer, hashRequest } from './idempotency'
import { type Reader, reasonsAgainst } from './reasons'
import { checkRequest, type DeskBooking } from './request'
import { sessionsOf } from './scope'
import { publicOpening } from './view'

/** Booking a client in: what a member sees while they do, and the doing. */

/** What members can choose from. Hosts who do not reach others' sessions book their own only. */
export async function viewBookable(context: Context, member: SignedIn): Promise<BookableView> {
  const snapshot = await loadSnapshot(context.db, member.workspace.slug)
  const own = snapshot?.hosts.find(host => host.memberId === member.memberId) ?? null
  const onlyOwn = !mayBookOthers(member)
  const sits = ({ chairs }: EventType) => chairs.some(({ hosts }) => hosts.some(({ id }) => id === own?.id))
  return {
    ownHostId: own?.id ?? null,
    onlyOwn,
    timeZone: snapshot?.workspace.timeZone ?? member.timeZone,
    hosts: (snapshot?.hosts ?? []).filter(({ id, leftAt }) => leftAt === null && (!onlyOwn || id === own?.id))
      .map(({ id, name }) => ({ id, name })),
    eventTypes: (snapshot?.eventTypes ?? []).filter(eventType => isBookable(eventType, 'member') && (!onlyOwn || sits(eventType)))
      .map(({ id, state, settings, chairs }) => ({
        id, name: nameForTeam(settings), isOpen: state === 'open', durations: settings.durations, mostPeople: settings.mostPeople,
        price: settings.price, questions: allQuestions(settings),
        places: settings.places.map(({ key, kind, label }) => ({ key, kind, label })),
        hosts: [...new Map(chairs.flatMap(({ hosts }) => hosts.map(({ id, name }) => [id, { id, name }]))).values()],
      })),
  }
}

const MOST_CLIENTS = 8
/** Among the newest so many bookings that match: whoever looks for somebody else types more. */
const MOST_LOOKED_AT = 400

/** Clients of sessions that a member may see, by a part of their name or address, whoever came last first. */
export async function findClients(db: Database, member: SignedIn, search: string): Promise<KnownClient[]> {
  const address = sql<string>`lower(${bookings.clientEmail})`
  const newest = db.select({
    name: bookings.clientName, email: bookings.clientEmail, phone: bookings.clientPhone, timeZone: bookings.timeZone,
    createdAt: bookings.createdAt, address: address.as('address'),
  }).from(bookings)
    .innerJoin(sessions, and(eq(sessions.workspaceId, bookings.workspaceId), eq(sessions.id, bookings.sessionId)))
    .where(and(
      eq(bookings.workspaceId, member.workspaceId), sessionsOf(db, member, 'clients'),
      sql`${searchText(bookings)} like ${`%${escapeLike(search.toLowerCase())}%`}`,
    ))
    .orderBy(desc(bookings.createdAt)).limit(MOST_LOOKED_AT).as('newest')
  const latest = db.selectDistinctOn([newest.address]).from(newest).orderBy(newest.address, desc(newest.createdAt)).as('latest')
  const { name, email, phone, timeZone } = latest
  return db.select({ name, email, phone, timeZone }).from(latest).orderBy(desc(latest.createdAt)).limit(MOST_CLIENTS)
}

/** What openings are asked of, with whom they are asked for; null where there is nothing such that the member may book. */
export async function findBookable(
  { db }: Context, member: SignedIn, { eventType: id, hosts, duration, host }: BookableQuery,
): Promise<{ snapshot: WorkspaceSnapshot, eventType: EventType, chosen: ChosenHost | null } | null> {
  const snapshot = await loadSnapshot(db, member.workspace.slug)
  if (!snapshot) return null
  const place = { key: 'place', kind: 'agreed' as const, label: '', detail: '' }
  const what = { eventType: id, host, oneOff: hosts && { title: '-', durationMinutes: duration ?? 30, place, hosts } }
  const eventType = eventTypeOf(snapshot, what)
  const picked = ownHost(snapshot, member, what)
  if (!eventType || picked === null) return null
  return { snapshot, eventType, chosen: picked === undefined ? null : chairToPick(eventType, picked, false) }
}

interface BookableQuery {
  eventType?: string | undefined
  /** Of a session without an event type; all of them sit in it. */
  hosts?: string[] | undefined
  duration?: number | undefined
  host?: string | undefined
}

interface Bookable extends Pick<DeskBooking, 'eventType' | 'oneOff'> {
  host?: string | undefined
}

/** Null where there is none, or one of its hosts is not the workspace's. */
function eventTypeOf({ workspace, hosts, eventTypes }: WorkspaceSnapshot, { eventType: id, oneOff }: Bookable): EventType | null {
  if (!oneOff) return eventTypes.find(eventType => eventType.id === id && isBookable(eventType, 'member')) ?? null
  const seated = oneOff.hosts.flatMap(host => hosts.filter(({ id, leftAt }) => id === host && leftAt === null))
  return seated.length === oneOff.hosts.length ? oneOffEventType(workspace.id, workspace.timeZone, { ...oneOff, hosts: seated }) : null
}

export type BookForClientOutcome =
  | { kind: 'booked', sessionId: string }
  | { kind: 'notFound' | 'keyReused' | 'notConfirmed' | 'ownOnly' }
  | { kind: 'invalid', errors: InputFault[] }
  /** Another session is in the way. */
  | { kind: 'taken', nearest: PublicOpening[] }
  /** Clients could not book it then; a member can. */
  | { kind: 'warned', reasons: string[], nearest: PublicOpening[] }

/** Books a client into an opening, or with `despite` into any time at which nobody sits in another session. */
export async function bookForClient(
  context: Context, member: SignedIn, key: string, requested: DeskBooking, reader: Reader,
): Promise<BookForClientOutcome> {
  const snapshot = await loadSnapshot(context.db, member.workspace.slug)
  if (!snapshot) return { kind: 'notFound' }
  // Nobody is mailed for a workspace that nobody has vouched for.
  if (!snapshot.workspace.confirmed || snapshot.workspace.isClosing) return { kind: 'notConfirmed' }
  const requestHash = hashRequest({ desk: true, requested })
  const earlier = await findAnswer(context, context.db, member.workspaceId, key, requestHash)
  if (earlier) return toOutcome(context, member, earlier)
  const eventType = eventTypeOf(snapshot, requested)
  if (!eventType) return { kind: 'notFound' }
  const host = ownHost(snapshot, member, requested)
  if (host === null) return { kind: 'ownOnly' }
  const { eventType: _id, oneOff: _oneOff, despite, told, ...request } = requested
  const validated = checkRequest(eventType, { ...request, ...(host === undefined ? {} : { host }) }, false)
  if ('errors' in validated) return { kind: 'invalid', errors: validated.errors }
  const attempt: Attempt = {
    snapshot, eventType, request: validated, key, requestHash,
    booker: { by: { kind: 'member', name: member.name }, despite, told: told.length === tellable.length ? null : told },
  }
  const booked = await tryBooking(context, attempt) ?? await findAnswer(context, context.db, member.workspaceId, key, requestHash)
  return booked ? toOutcome(context, member, booked) : refuse(context, attempt, reader)
}

const mayBookOthers = (member: SignedIn) => reaches(member.reach, { sessions: 'change' })

/** The host who is picked; undefined where anybody may sit in it, null where a member books for others than themselves and may not. */
function ownHost({ hosts }: WorkspaceSnapshot, member: SignedIn, { host, oneOff }: Bookable): string | undefined | null {
  if (mayBookOthers(member)) return host
  const own = hosts.find(({ memberId }) => memberId === member.memberId)?.id ?? null
  if (own === null || (host !== undefined && host !== own) || oneOff?.hosts.some(id => id !== own)) return null
  return own
}

async function toOutcome(context: Context, { workspaceId }: SignedIn, outcome: BookOutcome): Promise<BookForClientOutcome> {
  if (outcome.kind === 'taken') return { kind: 'taken', nearest: outcome.body.nearest }
  if (outcome.kind !== 'booked') return outcome
  const [found] = await context.db.select({ sessionId: bookings.sessionId }).from(bookings)
    .where(and(eq(bookings.workspaceId, workspaceId), eq(bookings.id, outcome.body.booking.id)))
  return found ? { kind: 'booked', sessionId: found.sessionId } : { kind: 'notFound' }
}

async function refuse(context: Context, { snapshot, eventType, request, booker }: Attempt, reader: Reader): Promise<BookForClientOutcome> {
  const span = spanOf(context, request)
  const nearest = (await nearestOpenings(context, eventType, request.start, span, snapshot.stated)).map(publicOpening)
  if (booker.despite) return { kind: 'taken', nearest }
  const { opening } = await openingAt(context, eventType, request.start, { ...span, onlySessions: true }, snapshot.stated)
  if (!opening) return { kind: 'taken', nearest }
  const { sentences } = await reasonsAgainst(context, withChosen(eventType, request.chosen), request.start, span, reader)
  return { kind: 'warned', reasons: sentences, nearest }
}

/** What is said of the others of the chair does not matter. */
function withChosen(eventType: EventType, chosen: Attempt['request']['chosen']): EventType {
  if (!chosen) return eventType
  return {
    ...eventType,
    chairs: eventType.chairs.map(chair =>
      (chair.id === chosen.chairId ? { ...chair, hosts: chair.hosts.filter(({ id }) => id === chosen.host) } : chair)),
  }
}
