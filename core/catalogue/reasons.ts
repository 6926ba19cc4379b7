import { dateToDays, instantToSeconds } from '../time/civil'
import { plural, formatMonthDay, formatDay, formatList, formatDuration, formatTime } from '../time/format'
import { zoneOf } from '../time/zone'
import type { Explanation, Reason } from '../openings/explain'
import type { EngineQuery } from '../openings/engine-query'
import type { SpanSummary } from '../openings/span-summary'

/** Explanations for people: a sentence for each reason, and what would change it. */

/** What to change, from the reader's side of the screen. */
export type Setting = 'leadTime' | 'horizon' | 'startEvery' | 'hours' | 'calendar' | 'sessions' | 'buffers' | 'limits' | 'seats' | 'chairs'

export interface ReasonText {
  code: Reason['code']
  text: string
  setting: Setting
  /** Beginning of a button or a hint: what changing the setting means. */
  wayOut: string
  /** The session that is in the way, where that is the reason. */
  sessionId?: string
}

export interface Reader {
  /** The query that was asked, for the minutes kept free around sessions. */
  query: EngineQuery
  /** Names by host id; a host without one is called by the id. */
  names: ReadonlyMap<string, string>
  zone: string
  locale: string
  /** Seconds since the epoch. */
  now: number
}

const waysOut: Record<Setting, string> = {
  leadTime: 'Change how soon it may be booked',
  horizon: 'Change how far ahead it may be booked',
  startEvery: 'Change when it can start',
  hours: 'Change the hours',
  calendar: 'Free this time in the calendar, or stop checking that calendar',
  sessions: 'Move or cancel that session',
  buffers: 'Change what is kept free',
  limits: 'Change the limit',
  seats: 'Change the seats',
  chairs: 'Add a host to a chair',
}

/** Every reason of an explanation in sentences, in its order; hosts who are closed alike share one. */
export function formatReasons({ at, reasons }: Explanation, reader: Reader): ReasonText[] {
  const texts: ReasonText[] = []
  const add = (code: Reason['code'], sentence: Sentence) => texts.push({ code, ...sentence, wayOut: waysOut[sentence.setting] })
  for (const reason of reasons) {
    if (reason.code !== 'closed') add(reason.code, formatReason(reason, instantToSeconds(at), reader))
    else if (reason === reasons.find(candidate => isClosedAlike(candidate, reason)))
      add(
        'closed',
        formatClosed(
          reasons.filter(candidate => isClosedAlike(candidate, reason)),
          reader,
        ),
      )
  }
  return texts
}

type Sentence = Pick<ReasonText, 'text' | 'setting' | 'sessionId'>
type Closed = Extract<Reason, { code: 'closed' }>

function isClosedAlike(reason: Reason, other: Closed): reason is Closed {
  return reason.code === 'closed' && reason.exception === other.exception
}

function formatClosed(reasons: readonly Closed[], { names }: Reader): Sentence {
  const exception = reasons[0]?.exception ? ', by an exception for this date' : ''
  return {
    text: `${formatList(reasons.map(({ host }) => names.get(host) ?? host))} ${reasons.length === 1 ? 'has' : 'have'} no open hours for the whole of it${exception}.`,
    setting: 'hours',
  }
}

function formatReason(reason: Exclude<Reason, Closed>, at: number, reader: Reader): Sentence {
  const { names, zone, locale, now } = reader
  const isSameDay = (instant: number) => zoneOf(zone).dayOf(instant) === zoneOf(zone).dayOf(at)
  const time = (text: string) => {
    const instant = instantToSeconds(text)
    return isSameDay(instant)
      ? formatTime(instant, zone, locale)
      : `${formatDay(instant, zone, locale, now)} ${formatTime(instant, zone, locale)}`
  }
  const name = 'host' in reason ? names.get(reason.host) ?? reason.host : ''
  switch (reason.code) {
    case 'leadTime':
      return { text: `That is too soon: it can be booked from ${time(reason.earliest)} on.`, setting: 'leadTime' }
    case 'beforeHorizon':
      return {
        text: `That is too early: the first day it can be booked for is ${formatMonthDay(dateToDays(reason.limit), 'long', locale)}.`,
        setting: 'horizon',
      }
    case 'beyondHorizon':
      return {
        text: `That is too far ahead: the last day it can be booked for is ${formatMonthDay(dateToDays(reason.limit), 'long', locale)}.`,
        setting: 'horizon',
      }
    case 'offGrid':
      return formatOffGrid([reason.before, reason.after].filter(item => item !== null).map(time))
    case 'busy':
      return { text: `${name}’s calendar is taken from ${time(reason.start)} to ${time(reason.end)}.`, setting: 'calendar' }
    case 'session':
      return formatSessionReason(reason, name, at, reader.query, time)
    case 'dailyLimit':
      return {
        text: `${name} has ${plural(reason.count, 'session')} on this day already, and at most ${reason.limit} a day ${reason.limit === 1 ? 'is' : 'are'} allowed.`,
        setting: 'limits',
      }
    case 'weeklyLimit':
      return {
        text: `${name} has ${plural(reason.count, 'session')} in this week already, and at most ${reason.limit} a week ${reason.limit === 1 ? 'is' : 'are'} allowed.`,
        setting: 'limits',
      }
    case 'full':
      return { text: 'The session at this time is full.', setting: 'seats' }
    case 'noDistinctHosts':
      return { text: 'There is somebody free for every chair, but it would be the same person twice.', setting: 'chairs' }
  }
}

function formatOffGrid(nearest: string[]): Sentence {
  if (nearest.length === 0) return { text: 'Nothing starts on this day: no hours are open for it.', setting: 'hours' }
  return {
    text: `Nothing starts at this minute; the nearest ${nearest.length === 1 ? 'start of the day is' : 'starts are'} ${formatList(nearest)}.`,
    setting: 'startEvery',
  }
}

/** "Ottoline has another session until 11:10, and 10 minutes are kept free after it." */
function formatSessionReason(
  { host, start, end, bufferOnly }: Extract<Reason, { code: 'session' }>,
  name: string,
  at: number,
  { hosts, eventType }: EngineQuery,
  time: (text: string) => string,
): Sentence {
  const session = hosts
    .find(candidate => candidate.id === host)
    ?.sessions.find(candidate => candidate.start === instantToSeconds(start) && candidate.end === instantToSeconds(end))
  const inTheWay = session ? { sessionId: session.id } : {}
  if (!bufferOnly) return { text: `${name} has another session from ${time(start)} to ${time(end)}.`, setting: 'sessions', ...inTheWay }
  const isBefore = instantToSeconds(end) <= at
  const minutes = isBefore
    ? (session?.bufferAfterMinutes ?? 0) + eventType.bufferBeforeMinutes
    : (session?.bufferBeforeMinutes ?? 0) + eventType.bufferAfterMinutes
  const buffer = `${formatDuration(minutes)} ${minutes === 1 ? 'is' : 'are'} kept free`
  return {
    text: isBefore
      ? `${name} has another session until ${time(end)}, and ${buffer} after it.`
      : `${name} has another session from ${time(start)}, and ${buffer} before it.`,
    setting: 'buffers',
  }
}

/** What speaks against the times of a span, with how many of them: one line for each reason and host. */
export function formatSpanReasons(summary: SpanSummary, { names }: Pick<Reader, 'names'>): ReasonText[] {
  return summary.reasons.map(({ code, host, count }) => {
    const often = count === summary.times ? (summary.times === 1 ? 'at this time' : 'at all of these times') : `at ${count} of ${plural(summary.times, 'time')}`
    const { text, setting } = spanWords[code](host === null ? '' : names.get(host) ?? host, often)
    return { code, text, setting, wayOut: waysOut[setting] }
  })
}

const spanWords: Record<Reason['code'], (name: string, often: string) => Sentence> = {
  leadTime: (_, often) => ({ text: `It is too soon ${often}.`, setting: 'leadTime' }),
  beforeHorizon: (_, often) => ({ text: `It is too early to be booked ${often}.`, setting: 'horizon' }),
  beyondHorizon: (_, often) => ({ text: `It is too far ahead ${often}.`, setting: 'horizon' }),
  offGrid: (_, often) => ({ text: `Nothing starts ${often}.`, setting: 'startEvery' }),
  closed: (name, often) => ({ text: `${name} has no open hours ${often}.`, setting: 'hours' }),
  busy: (name, often) => ({ text: `${name}’s calendar is taken ${often}.`, setting: 'calendar' }),
  session: (name, often) => ({ text: `${name} has another session ${often}, with what is kept free around it.`, setting: 'sessions' }),
  dailyLimit: (name, often) => ({ text: `${name} has reached the daily limit ${often}.`, setting: 'limits' }),
  weeklyLimit: (name, often) => ({ text: `${name} has reached the weekly limit ${often}.`, setting: 'limits' }),
  full: (_, often) => ({ text: `The session is full ${often}.`, setting: 'seats' }),
  noDistinctHosts: (_, often) => ({ text: `The same person would have to sit in two chairs ${often}.`, setting: 'chairs' }),
}
