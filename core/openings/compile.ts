import { DAY, MINUTE, dateToDays, instantToSeconds, isoWeekOf, weekdayIndex } from '../time/civil'
import { type Zone, zoneOf } from '../time/zone'
import type { EngineHost, EngineQuery } from './engine-query'
import type { Horizon, HoursPlan } from './schema'

/** A query with every text turned into integers (instants as seconds since the epoch, dates as days) and indexed. */
export interface Compiled {
  zone: Zone
  now: number
  from: number
  to: number
  duration: number
  step: number
  before: number
  after: number
  earliest: number
  horizon: { from: number, to: number }
  dailyLimit: number | null
  weeklyLimit: number | null
  /** Limits over all hosts, with the sessions of this event type by local date and by ISO week (its Monday). */
  total: { daily: number | null, weekly: number | null, perDay: Map<number, number>, perWeek: Map<number, number> }
  seats: number
  chairs: { id: string, hosts: CompiledHost[] }[]
  hosts: CompiledHost[]
  joinable: Map<number, Joinable>
  /** Starts and ends, one after another. */
  openedOver: number[]
}

export interface CompiledHost {
  id: string
  plans: readonly HoursPlan[]
  /** Starts and ends, one after another, in the order given. */
  busy: ArrayLike<number>
  sessions: CompiledSession[]
  /** Starts and ends of what is opened over for the host, one after another. */
  openedOver: number[]
  /** Sessions of this event type by local date and by ISO week (its Monday). */
  perDay: Map<number, number>
  perWeek: Map<number, number>
}

export interface CompiledSession {
  id: string
  start: number
  end: number
  before: number
  after: number
  sameEventType: boolean
  seatsTaken: number
}

export interface Joinable {
  id: string
  seatsLeft: number
}

export function compile(query: EngineQuery): Compiled {
  const { eventType } = query
  const zone = zoneOf(eventType.timeZone)
  const now = instantToSeconds(query.now)
  const hosts = query.hosts.map(host => compileHost(host, zone, query.openedOver))
  const byId = new Map(hosts.map(host => [host.id, host]))
  return {
    zone,
    now,
    from: instantToSeconds(query.from),
    to: instantToSeconds(query.to),
    duration: eventType.durationMinutes * MINUTE,
    step: eventType.startEveryMinutes * MINUTE,
    before: eventType.bufferBeforeMinutes * MINUTE,
    after: eventType.bufferAfterMinutes * MINUTE,
    earliest: now + eventType.leadTimeMinutes * MINUTE,
    horizon: horizonDays(eventType.horizon, zone.dayOf(now)),
    dailyLimit: eventType.dailyLimit,
    weeklyLimit: eventType.weeklyLimit,
    total: totalOf(eventType, hosts, zone),
    seats: eventType.seats,
    chairs: eventType.chairs.map(chair => ({
      id: chair.id,
      hosts: chair.hosts.map(id => byId.get(id)).filter(host => host !== undefined),
    })),
    hosts,
    joinable: eventType.seats > 1 ? joinableSessions(hosts, eventType.durationMinutes * MINUTE, eventType.seats) : new Map(),
    openedOver: boundsOf(query.openedOver),
  }
}

function compileHost(host: EngineHost, zone: Zone, openedOver: EngineQuery['openedOver']): CompiledHost {
  const sessions = host.sessions.map(session => ({
    id: session.id,
    start: session.start,
    end: session.end,
    before: session.bufferBeforeMinutes * MINUTE,
    after: session.bufferAfterMinutes * MINUTE,
    sameEventType: session.sameEventType,
    seatsTaken: session.seatsTaken,
  }))
  return {
    id: host.id,
    plans: host.plans,
    busy: host.busy,
    sessions,
    openedOver: boundsOf(openedOver.filter(entry => entry.hosts.includes(host.id))),
    ...countSessions(sessions, zone),
  }
}

/** Sessions of this event type by local date and by ISO week. */
function countSessions(sessions: readonly CompiledSession[], zone: Zone): Pick<CompiledHost, 'perDay' | 'perWeek'> {
  const perDay = new Map<number, number>()
  const perWeek = new Map<number, number>()
  for (const { start, sameEventType } of sessions) {
    if (!sameEventType) continue
    const day = zone.dayOf(start)
    count(perDay, day)
    count(perWeek, isoWeekOf(day))
  }
  return { perDay, perWeek }
}

/** Limits over all hosts; nothing is counted where there are none. */
function totalOf({ totalDailyLimit: daily, totalWeeklyLimit: weekly }: EngineQuery['eventType'], hosts: readonly CompiledHost[], zone: Zone) {
  const isLimited = daily !== null || weekly !== null
  const counted = isLimited ? countInTotal(hosts, zone) : { perDay: new Map<number, number>(), perWeek: new Map<number, number>() }
  return { daily, weekly, ...counted }
}

/** The same over all hosts: a session that several of them sit in counts once. */
function countInTotal(hosts: readonly CompiledHost[], zone: Zone): Pick<CompiledHost, 'perDay' | 'perWeek'> {
  const days = new Map<number, Set<string>>()
  const weeks = new Map<number, Set<string>>()
  for (const { id, start, sameEventType } of hosts.flatMap(host => host.sessions)) {
    if (!sameEventType) continue
    const day = zone.dayOf(start)
    addTo(days, day, id)
    addTo(weeks, isoWeekOf(day), id)
  }
  return { perDay: sizes(days), perWeek: sizes(weeks) }
}

function addTo(sets: Map<number, Set<string>>, key: number, id: string): void {
  const known = sets.get(key)
  if (known) known.add(id)
  else sets.set(key, new Set([id]))
}

const sizes = (sets: ReadonlyMap<number, ReadonlySet<string>>) => new Map([...sets].map(([key, ids]) => [key, ids.size]))

/** Rule 8: for each start, the session with the most seats left (ties: the smaller id). */
function joinableSessions(hosts: readonly CompiledHost[], duration: number, seats: number): Map<number, Joinable> {
  const found = new Map<number, Joinable>()
  for (const session of hosts.flatMap(host => host.sessions)) {
    const seatsLeft = seats - session.seatsTaken
    if (!session.sameEventType || session.end - session.start !== duration || seatsLeft < 1) continue
    const other = found.get(session.start)
    if (!other || seatsLeft > other.seatsLeft || (seatsLeft === other.seatsLeft && session.id < other.id)) {
      found.set(session.start, { id: session.id, seatsLeft })
    }
  }
  return found
}

/** First and last bookable date, inclusive; infinite where unbounded. */
function horizonDays(horizon: Horizon, today: number): { from: number, to: number } {
  switch (horizon.kind) {
    case 'open':
      return { from: -Infinity, to: Infinity }
    case 'rolling':
      return { from: -Infinity, to: today + horizon.days }
    case 'rollingWorkingDays':
      return { from: -Infinity, to: afterWorkingDays(today, horizon.days, new Set(horizon.holidays.map(dateToDays))) }
    case 'dates':
      return {
        from: horizon.from === null ? -Infinity : dateToDays(horizon.from),
        to: horizon.to === null ? Infinity : dateToDays(horizon.to),
      }
  }
}

function afterWorkingDays(today: number, count: number, holidays: ReadonlySet<number>): number {
  let day = today
  for (let left = count; left > 0;) {
    day++
    if (weekdayIndex(day) < 5 && !holidays.has(day)) left--
  }
  return day
}

function boundsOf(intervals: readonly { start: string, end: string }[]): number[] {
  return intervals.flatMap(({ start, end }) => [instantToSeconds(start), instantToSeconds(end)])
}

function count(counts: Map<number, number>, key: number): void {
  counts.set(key, (counts.get(key) ?? 0) + 1)
}

/** Before a span, windows must be complete for this long: the piece of the grid that a start lies in began within a local day. */
export const MARGIN = 2 * DAY
