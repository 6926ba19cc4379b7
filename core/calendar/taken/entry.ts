import type { Block } from './blocks'
import { type ClockZone, type Duration, type Moment, readDuration, readMoment } from './moments'
import { parameterOf, propertiesOf, type Property } from './properties'
import { readRule, type Rule, RuleError } from './rule'

/** One component of a calendar that can take time, as it stands in the text. */

export type UnreadCode = 'cutOff' | 'noStart' | 'time' | 'duration' | 'rule' | 'tooMuch' | 'unknownZone'

/** What could not be read, and of which entry. */
export interface Unread {
  uid: string
  code: UnreadCode
  /** The text in question, or the part of a rule; empty where there is none. */
  text: string
}

export interface Entry {
  uid: string
  title: string
  start: Moment
  end: Moment | null
  duration: Duration | null
  rules: readonly Rule[]
  exceptRules: readonly Rule[]
  more: readonly (Moment | { kind: 'period', start: Moment, end: Moment | Duration })[]
  except: readonly Moment[]
  /** The instance that the entry stands for, of the one with the same UID. */
  replaces: Moment | null
  /** Also for all after it. */
  andLater: boolean
  sequence: number
  stamp: string
  status: string
  isTransparent: boolean
  /** What each attendee has answered, by their address in small letters. */
  answers: ReadonlyMap<string, string>
}

/** Thrown for an entry that cannot be read. */
export class EntryError extends Error {
  constructor(readonly code: UnreadCode, readonly text = '') {
    super(code)
  }
}

const none: readonly never[] = []
const nobody: ReadonlyMap<string, string> = new Map()

const MOST_VALUES = 20_000
const MOST_TITLE = 500

export type FindZone = (tzid: string) => ClockZone | null

/** Throws EntryError where what matters cannot be read. */
export function readEntry(block: Block, findZone: FindZone): Entry {
  const broken: string[] = []
  const properties = propertiesOf(block, line => broken.push(line))
  const all = (name: string) => properties.filter(property => property.name === name)
  const first = (name: string) => properties.find(property => property.name === name)
  const text = (name: string) => String(first(name)?.values[0] ?? '')
  const refused = broken.find(line => /^(?:DTSTART|DTEND|DURATION|RRULE|EXRULE|RDATE|EXDATE|RECURRENCE-ID)/i.test(line))
  if (refused !== undefined) throw new EntryError(/^(?:RRULE|EXRULE)/i.test(refused) ? 'rule' : 'time', refused.slice(0, 100))
  if (properties.reduce((sum, { values }) => sum + values.length, 0) > MOST_VALUES) throw new EntryError('tooMuch')

  const moments = (name: string) => all(name).flatMap(property => property.values.map(value => momentOf(property, value, findZone)))
  const [start] = moments('dtstart')
  if (!start) throw new EntryError('noStart')
  const rules = (name: string) => all(name).flatMap(({ values }) => values.map(value => ruleOf(value, start)))
  const [duration] = all('duration').map(property => durationOf(property.values[0]))
  const replacing = first('recurrence-id')
  return {
    uid: text('uid'),
    title: text('summary').slice(0, MOST_TITLE),
    start,
    end: moments('dtend')[0] ?? null,
    duration: duration ?? null,
    rules: orNone(rules('rrule')),
    exceptRules: orNone(rules('exrule')),
    more: orNone(all('rdate').flatMap(property => property.values.map(value => (Array.isArray(value)
      ? periodOf(property, value, findZone)
      : momentOf(property, value, findZone))))),
    except: orNone(moments('exdate')),
    replaces: replacing ? momentOf(replacing, replacing.values[0], findZone) : null,
    andLater: replacing !== undefined && parameterOf(replacing, 'range').toUpperCase() === 'THISANDFUTURE',
    sequence: Number(first('sequence')?.values[0] ?? 0) || 0,
    stamp: text('dtstamp'),
    status: text('status').trim().toUpperCase(),
    isTransparent: text('transp').trim().toUpperCase() === 'TRANSPARENT',
    answers: answersOf(all('attendee')),
  }
}

/** Most entries have none: of a large calendar's, a hundred thousand empty lists are one. */
function orNone<T>(list: T[]): readonly T[] {
  return list.length === 0 ? none : list
}

function momentOf(property: Property, value: unknown, findZone: FindZone): Moment {
  const tzid = parameterOf(property, 'tzid')
  const moment = readMoment(String(value), tzid === '' ? null : findZone(tzid))
  if (!moment) throw new EntryError('time', property.written.slice(0, 100))
  return moment
}

function periodOf(property: Property, [from, to]: unknown[], findZone: FindZone): Entry['more'][number] {
  const isDuration = /^[+-]?P/i.test(String(to))
  return { kind: 'period', start: momentOf(property, from, findZone), end: isDuration ? durationOf(to) : momentOf(property, to, findZone) }
}

function durationOf(value: unknown): Duration {
  const duration = readDuration(String(value))
  if (!duration) throw new EntryError('duration', String(value).slice(0, 100))
  return duration
}

function ruleOf(value: unknown, start: Moment): Rule {
  try {
    const rule = readRule(typeof value === 'object' && value !== null ? { ...value } : {})
    if (start.kind === 'date' && ['HOURLY', 'MINUTELY', 'SECONDLY'].includes(rule.frequency)) throw new RuleError('FREQ')
    return rule
  } catch (error) {
    if (error instanceof RuleError) throw new EntryError('rule', error.part)
    throw error
  }
}

/** Who does not say has not answered (RFC 5545 §3.2.12). */
function answersOf(attendees: readonly Property[]): ReadonlyMap<string, string> {
  if (attendees.length === 0) return nobody
  const found = new Map<string, string>()
  for (const attendee of attendees) {
    const answer = parameterOf(attendee, 'partstat').toUpperCase() || 'NEEDS-ACTION'
    for (const address of [String(attendee.values[0]).replace(/^mailto:/i, ''), parameterOf(attendee, 'email')])
      if (address !== '') found.set(address.trim().toLowerCase(), answer)
  }
  return found
}
