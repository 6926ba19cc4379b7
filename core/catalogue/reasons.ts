import { dateToDays, instantToSeconds } from '../time/civil'
import { plural, formatMonthDay, formatDay, formatList, formatDuration, formatTime } from '../time/format'
import type { Person } from '../checks/finding'
import { capitalise } from './capitalise'
import { has, listPeople, whose } from './people'
import type { HostTime } from '../event-type/host-time'
import { groupBy } from '../group-by'
import { intersect } from '../time/intervals'
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
  /** What hosts' calendars take, for their names. */
  time?: readonly Pick<HostTime, 'id' | 'taken'>[]
  /** The host who reads, where it is one. */
  ownHost?: string | null
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
  calendar: 'Choose which calendars block',
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

const personOf = (host: string, { names, ownHost }: Pick<Reader, 'names' | 'ownHost'>): Person =>
  ({ name: names.get(host) ?? host, own: host === ownHost })

function formatClosed(reasons: readonly Closed[], reader: Reader): Sentence {
  const exception = reasons[0]?.exception ? ', by an exception for this date' : ''
  return {
    text: `${capitalise(has(...reasons.map(({ host }) => personOf(host, reader))))} no open hours for the whole of it${exception}.`,
    setting: 'hours',
  }
}

function formatReason(reason: Exclude<Reason, Closed>, at: number, reader: Reader): Sentence {
  const { zone, locale, now } = reader
  const isSameDay = (instant: number) => zoneOf(zone).dayOf(instant) === zoneOf(zone).dayOf(at)
  const time = (text: string) => {
    const instant = instantToSeconds(text)
    return isSameDay(instant)
      ? formatTime(instant, zone, locale)
      : `${formatDay(instant, zone, locale, now)} ${formatTime(instant, zone, locale)}`
  }
  const person = personOf('host' in reason ? reason.host : '', reader)
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
      return { text: `${capitalise(whose(person))} ${calendarsIn(reason, reader)} taken from ${time(reason.start)} to ${time(reason.end)}.`, setting: 'calendar' }
    case 'session':
      return formatSessionReason(reason, person, at, reader.query, time)
    case 'dailyLimit':
      return {
        text: `${capitalise(has(person))} ${plural(reason.count, 'session')} on this day already, and at most ${reason.limit} a day ${reason.limit === 1 ? 'is' : 'are'} allowed.`,
        setting: 'limits',
      }
    case 'weeklyLimit':
      return {
        text: `${capitalise(has(person))} ${plural(reason.count, 'session')} in this week already, and at most ${reason.limit} a week ${reason.limit === 1 ? 'is' : 'are'} allowed.`,
        setting: 'limits',
      }
    case 'totalDailyLimit':
    case 'totalWeeklyLimit': {
      const [when, per] = reason.code === 'totalDailyLimit' ? ['on this day', 'a day'] : ['in this week', 'a week']
      return {
        text: `There ${reason.count === 1 ? 'is' : 'are'} ${plural(reason.count, 'session')} ${when} already, and at most ${reason.limit} ${per} in total ${reason.limit === 1 ? 'is' : 'are'} allowed.`,
        setting: 'limits',
      }
    }
    case 'full':
      return { text: 'The session at this time is full.', setting: 'seats' }
    case 'noDistinctHosts':
      return { text: 'There is somebody free for every chair, but it would be the same person twice.', setting: 'chairs' }
  }
}

/** "calendar “Studio” is": those that have something in the time that is taken. */
function calendarsIn({ host, start, end }: Extract<Reason, { code: 'busy' }>, { time = [] }: Reader): string {
  const [from, to] = [instantToSeconds(start), instantToSeconds(end)]
  const blocking = time.find(({ id }) => id === host)?.taken ?? []
  const names = [...new Set(blocking.filter(({ times }) => intersect(times, [from, to]).length > 0).map(({ calendar }) => `“${calendar}”`))]
  return names.length === 0 ? 'calendar is' : names.length === 1 ? `calendar ${names[0]} is` : `calendars ${formatList(names)} are`
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
  person: Person,
  at: number,
  { hosts, eventType }: EngineQuery,
  time: (text: string) => string,
): Sentence {
  const session = hosts
    .find(candidate => candidate.id === host)
    ?.sessions.find(candidate => candidate.start === instantToSeconds(start) && candidate.end === instantToSeconds(end))
  const inTheWay = session ? { sessionId: session.id } : {}
  if (!bufferOnly) return { text: `${capitalise(has(person))} another session from ${time(start)} to ${time(end)}.`, setting: 'sessions', ...inTheWay }
  const isBefore = instantToSeconds(end) <= at
  const minutes = isBefore
    ? (session?.bufferAfterMinutes ?? 0) + eventType.bufferBeforeMinutes
    : (session?.bufferBeforeMinutes ?? 0) + eventType.bufferAfterMinutes
  const buffer = `${formatDuration(minutes)} ${minutes === 1 ? 'is' : 'are'} kept free`
  return {
    text: isBefore
      ? `${capitalise(has(person))} another session until ${time(end)}, and ${buffer} after it.`
      : `${capitalise(has(person))} another session from ${time(start)}, and ${buffer} before it.`,
    setting: 'buffers',
  }
}

/** What speaks against the times of a span, with how many of them; hosts with the same reason as often share a line. */
export function formatSpanReasons({ reasons, times }: SpanSummary, reader: Pick<Reader, 'names' | 'ownHost'>): ReasonText[] {
  return [...groupBy(reasons, ({ code, count }) => `${code} ${count}`).values()].flatMap((alike) => {
    const [first] = alike
    if (!first) return []
    const hosts = alike.flatMap(({ host }) => (host === null ? [] : [personOf(host, reader)]))
    const often = first.count === times ? 'at any of these times' : `at ${first.count} of ${plural(times, 'time')}`
    const { text, setting } = spanWords[first.code]({ hosts, often, isAll: first.count === times })
    return [{ code: first.code, text, setting, wayOut: waysOut[setting] }]
  })
}

interface SpanWords {
  hosts: readonly Person[]
  often: string
  isAll: boolean
}
const somewhere = ({ often, isAll }: SpanWords) => (isAll ? 'at all of these times' : often)

const spanWords: Record<Reason['code'], (words: SpanWords) => Sentence> = {
  leadTime: words => ({ text: `It is too soon ${somewhere(words)}.`, setting: 'leadTime' }),
  beforeHorizon: words => ({ text: `It is too early to be booked ${somewhere(words)}.`, setting: 'horizon' }),
  beyondHorizon: words => ({ text: `It is too far ahead ${somewhere(words)}.`, setting: 'horizon' }),
  offGrid: ({ often }) => ({ text: `Nothing starts ${often}.`, setting: 'startEvery' }),
  closed: ({ hosts, often }) => ({ text: `${capitalise(has(...hosts))} no open hours ${often}.`, setting: 'hours' }),
  busy: (words) => {
    const [first, ...others] = words.hosts
    const taken = first && others.length === 0 ? `${capitalise(whose(first))} calendar is` : `The calendars of ${listPeople(words.hosts)} are`
    return { text: `${taken} taken ${somewhere(words)}.`, setting: 'calendar' }
  },
  session: words => ({ text: `${capitalise(has(...words.hosts))} another session, or time kept free around one, ${somewhere(words)}.`, setting: 'sessions' }),
  dailyLimit: words => ({ text: `${capitalise(has(...words.hosts))} reached the daily limit ${somewhere(words)}.`, setting: 'limits' }),
  weeklyLimit: words => ({ text: `${capitalise(has(...words.hosts))} reached the weekly limit ${somewhere(words)}.`, setting: 'limits' }),
  totalDailyLimit: words => ({ text: `The daily limit in total is reached ${somewhere(words)}.`, setting: 'limits' }),
  totalWeeklyLimit: words => ({ text: `The weekly limit in total is reached ${somewhere(words)}.`, setting: 'limits' }),
  full: words => ({ text: `The session is full ${somewhere(words)}.`, setting: 'seats' }),
  noDistinctHosts: words => ({ text: `The same person would have to sit in two chairs ${somewhere(words)}.`, setting: 'chairs' }),
}
