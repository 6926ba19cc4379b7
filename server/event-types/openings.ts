import { calendarsOf, queryFor } from '../../core/event-type/settings'
import type { HostTime } from '../../core/event-type/host-time'
import { answer, answerWithin, type EngineQuery, type Explanation, type HoursPlan, type Opening } from '../../core/openings'
import { queryLimits } from '../../core/openings/limits'
import { sizeFault } from '../../core/openings/query-size'
import type { InputFault } from '../../core/validation'
import { DAY, formatInstant, instantToSeconds, MINUTE, weekdays } from '../../core/time/civil'
import { holidayDates, type StatedTime, type HostsTime, loadHostsState, loadHostsTime, type TimeSource, WIDE } from '../hosts-time'
import type { ChosenHost } from '../../core/rotation/chairs'
import { type EventType, hostIdsOf, withTurns } from './load'

export interface OpeningsSpan {
  now: number
  /** Starts with from <= start < to, seconds since the epoch. */
  from: number
  to: number
  durationMinutes?: number
  /** Only starts at which this host can sit in this chair. */
  chosen?: ChosenHost | null
  /** How many seats there have to be left; one where it is left out. */
  people?: number
  /** A session that takes no time, as it is the one to be moved. */
  without?: string
  /** Whether only other sessions stand in the way: no hours, calendars, limits or terms. */
  onlySessions?: boolean
}

/** Openings that one answer holds at most: a start every five minutes, day and night, for a month. */
const MOST_OPENINGS = 10_000

/** More openings than one answer holds. */
export class TooManyOpenings extends Error {
  readonly most = MOST_OPENINGS
  constructor() {
    super('Too many openings')
    this.name = 'TooManyOpenings'
  }
}

/** What anybody may have computed on the server at once; the bench computes in the browser. */
const serverLimits = {
  ...queryLimits,
  spanDays: 400,
  gridSteps: 150_000,
  seatSteps: 3_000_000,
  planDays: 1_000_000,
  ruleDays: 60_000,
  blocks: 100_000,
}

/** Hours or a span that would take too long to compute. */
export class QueryTooLarge extends Error {
  constructor(readonly fault: InputFault<'tooLarge'>) {
    super(fault.values.size)
    this.name = 'QueryTooLarge'
  }
}

/** Throws QueryTooLarge, TooManyOpenings. */
function answerBounded(query: EngineQuery): Opening[] {
  const fault = sizeFault(query, serverLimits)
  if (fault) throw new QueryTooLarge(fault)
  const openings = answerWithin(query, MOST_OPENINGS)
  if (!openings) throw new TooManyOpenings()
  return openings
}

const limitNames = ['dailyLimit', 'weeklyLimit', 'totalDailyLimit', 'totalWeeklyLimit'] as const

/** How far around a start taken time matters to an event type. */
function around({ settings }: EventType): {
  before: number
  after: number
} {
  const { bufferBeforeMinutes, bufferAfterMinutes, durations } = settings
  return limitNames.some(name => settings[name] !== null)
    ? WIDE
    : { before: bufferBeforeMinutes * MINUTE, after: (bufferAfterMinutes + Math.max(...durations)) * MINUTE }
}

/** The opening at one start, if there is one, with the event type's chairs as rotation stands and what this was decided on. */
export async function openingAt(
  source: TimeSource, eventType: EventType, start: number, span: Omit<OpeningsSpan, 'from' | 'to'>, stated: StatedTime,
): Promise<{ opening: Opening | null, eventType: EventType, takenStamp: string }> {
  const at = { ...span, from: start, to: start + 1 }
  const state = await loadHostsState(
    source,
    eventType.workspaceId,
    hostIdsOf(eventType),
    eventType.chairs.map(chair => chair.poolId),
    { ...at, ...around(eventType), holds: eventType.settings.holds },
    stated,
  )
  const current = withTurns(eventType, state.turns)
  return { opening: openingsOf(current, state.time, at)[0] ?? null, eventType: current, takenStamp: state.takenStamp }
}

/** The openings of an event type as things stand in the database. What hosts stated is not read where it is known. */
export async function findOpenings(
  source: TimeSource,
  eventType: EventType,
  span: OpeningsSpan,
  stated?: StatedTime,
): Promise<Opening[]> {
  const time = await loadHostsTime(
    source,
    eventType.workspaceId,
    hostIdsOf(eventType),
    { from: span.from, to: span.to, ...around(eventType), holds: eventType.settings.holds },
    stated,
  )
  return openingsOf(eventType, time, span)
}

/** The openings of an event type over what is known of its hosts' time. */
export function openingsOf(eventType: EventType, time: HostsTime, span: OpeningsSpan): Opening[] {
  const query = queryOf(eventType, time, span)
  const found = answerBounded(span.chosen ? withChosenHost(query, span.chosen) : query)
  const { people = 1 } = span
  return people === 1 ? found : found.filter(opening => opening.seatsLeft >= people)
}

function queryOf(eventType: EventType, time: HostsTime, { without, onlySessions, ...span }: OpeningsSpan): EngineQuery {
  const { settings, chairs } = eventType
  const hosts = time.for(eventType.id, hostIdsOf(eventType))
  const others = without === undefined ? hosts
    : hosts.map(host => ({ ...host, sessions: host.sessions.filter(session => session.id !== without) }))
  const query = queryFor(settings, chairs, others, {
    now: formatInstant(span.now),
    from: formatInstant(span.from),
    to: formatInstant(span.to),
    holidays: holidayDates(calendarsOf(settings), Math.min(span.now, span.from), span.to),
    ...(span.durationMinutes === undefined ? {} : { durationMinutes: span.durationMinutes }),
  })
  return onlySessions ? withSessionsOnly(query) : query
}

/** Why a start is no opening, with what that was decided on. */
export async function explainStart(
  source: TimeSource, eventType: EventType, start: number, span: Omit<OpeningsSpan, 'from' | 'to'>,
): Promise<{ explanation: Explanation, query: EngineQuery, time: HostTime[] }> {
  const at = { ...span, from: start, to: start + 1 }
  const hostIds = hostIdsOf(eventType)
  const time = await loadHostsTime(source, eventType.workspaceId, hostIds, { ...at, ...WIDE, holds: eventType.settings.holds })
  const query = queryOf(eventType, time, at)
  const [explanation] = answer({ ...query, explain: [formatInstant(start)] }).explanations ?? []
  const none = { at: formatInstant(start), offered: false, reasons: [] }
  return { explanation: explanation ?? none, query, time: time.for(eventType.id, hostIds) }
}

const always: HoursPlan = {
  timeZone: 'UTC', weekly: [{ days: [...weekdays], from: '00:00', to: '24:00' }], recurring: [], exceptions: [], valid: { from: null, to: null },
}

/** The query of whoever may set aside all but what cannot be set aside: that nobody sits in two sessions at once. */
function withSessionsOnly(query: EngineQuery): EngineQuery {
  return {
    ...query,
    eventType: {
      ...query.eventType, startEveryMinutes: 1, leadTimeMinutes: 0, horizon: { kind: 'open' },
      dailyLimit: null, weeklyLimit: null, totalDailyLimit: null, totalWeeklyLimit: null,
    },
    hosts: query.hosts.map(host => ({ ...host, busy: [], plans: [always] })),
  }
}

/** The query where a host has been picked. Sessions of those who then sit in no chair count in total, but are not joined. */
function withChosenHost(query: EngineQuery, { chairId, host: chosen }: ChosenHost): EngineQuery {
  const seats = query.eventType.seats
  const chairs = query.eventType.chairs.map(chair =>
    chair.id === chairId ? { ...chair, hosts: chair.hosts.filter(host => host === chosen) } : chair)
  const seated = new Set(chairs.flatMap(chair => chair.hosts))
  const hosts = query.hosts.map(host =>
    seated.has(host.id) ? host : { ...host, sessions: host.sessions.map(session => ({ ...session, seatsTaken: seats })) })
  return { ...query, eventType: { ...query.eventType, chairs }, hosts }
}

/** The openings around a start that was wanted and is gone, ascending. */
export async function nearestOpenings(
  source: TimeSource,
  eventType: EventType,
  start: number,
  span: Omit<OpeningsSpan, 'from' | 'to'>,
  stated?: StatedTime,
  most = 6,
): Promise<Opening[]> {
  const around = await findOpenings(source, eventType, { ...span, from: Math.max(span.now, start - 3 * DAY), to: start + 7 * DAY }, stated)
  const distance = (opening: Opening) => Math.abs(instantToSeconds(opening.start) - start)
  return around
    .sort((a, b) => distance(a) - distance(b))
    .slice(0, most)
    .sort((a, b) => (a.start < b.start ? -1 : 1))
}

const SEARCH_STEP = 10 * DAY

/** The first opening, looked for in one part of the span after the other: most are found in the first. */
export function nextOpening(
  eventType: EventType,
  time: HostsTime,
  { from, to, ...span }: OpeningsSpan,
): Opening | undefined {
  for (let start = from; start < to; start += SEARCH_STEP) {
    const next = firstWithin(eventType, time, { ...span, from: start, to: Math.min(to, start + SEARCH_STEP) })
    if (next) return next
  }
  return undefined
}

function firstWithin(eventType: EventType, time: HostsTime, span: OpeningsSpan): Opening | undefined {
  try {
    return openingsOf(eventType, time, span)[0]
  } catch (error) {
    if (error instanceof QueryTooLarge) return undefined
    if (!(error instanceof TooManyOpenings)) throw error
    const middle = Math.floor((span.from + span.to) / 2)
    return firstWithin(eventType, time, { ...span, to: middle }) ?? firstWithin(eventType, time, { ...span, from: middle })
  }
}
