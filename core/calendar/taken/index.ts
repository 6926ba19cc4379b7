import { type Intervals, union } from '../../time/intervals'
import { isZoneName, zoneOf } from '../../time/zone'
import { Budget, TooMuchWork } from './budget'
import type { Entry, Unread } from './entry'
import { type CalendarFile, NotACalendar, readCalendar } from './file'
import { instancesOf, type Span } from './instances'
import { type ClockZone, instantOf } from './moments'

export { type CalendarFile, NotACalendar, readCalendar } from './file'
export type { Unread, UnreadCode } from './entry'

/** Taken time of a calendar: which of its entries count, and when (RFC 5545; what a day or a skipped hour is, zones say). */

export interface CalendarSettings {
  /** The zone of floating times and whole days, whatever the file says; null for what it says. */
  zone: ClockZone | null
  /** The zone where neither says any. */
  hostZone: ClockZone
  /** The host's own addresses, in small letters. */
  addresses: ReadonlySet<string>
  countsAllDay: boolean
  countsUnconfirmed: boolean
  /** Entries that never count, such as those of the host's own sessions. */
  isLeftOut?: (uid: string) => boolean
}

/** A time that an entry takes. Instants in seconds, the end excluded. */
export interface TakenInstance {
  start: number
  end: number
  isWholeDay: boolean
  /** Tentative, or not answered yet by the host. */
  isUnconfirmed: boolean
  uid: string
  title: string
}

/** The zone that a name means, or a VTIMEZONE in a calendar of its own (RFC 4791 §5.2.2); null for neither. */
export function readZone(text: string): ClockZone | null {
  if (isZoneName(text)) return zoneOf(text)
  try {
    return readCalendar(text).zone
  } catch (error) {
    if (error instanceof NotACalendar) return null
    throw error
  }
}

/** Whether anything in a file may take time after an instant (seconds). */
export function goesBeyond(file: CalendarFile, instant: number, home: ClockZone): boolean {
  return file.periods.some(({ end }) => end > instant)
    || file.series.some(({ masters, overrides }) => [...masters, ...overrides].some(({ rules, start, end, more }) =>
      rules.length > 0 || more.length > 0 || instantOf(end ?? start, home) > instant || instantOf(start, home) > instant))
}

/** Steps for one entry, and for a whole calendar: a second or two at most. */
const WORK = { entry: 2_000_000, all: 12_000_000 }

/**
 * What the entries of a file take within a span, whatever is to be counted of it, in no order. Entries whose rules ask for
 * too much are told in `unread`.
 */
export function* takenInstances(
  file: CalendarFile, span: Span, settings: Pick<CalendarSettings, 'zone' | 'hostZone' | 'addresses' | 'isLeftOut'>, unread: Unread[] = [],
): Generator<TakenInstance> {
  const home = settings.zone ?? file.zone ?? settings.hostZone
  const budget = new Budget(WORK.entry, WORK.all)
  for (const series of file.series) {
    const uid = (series.masters[0] ?? series.overrides[0])?.uid ?? ''
    if (settings.isLeftOut?.(uid)) continue
    budget.begin()
    try {
      let known: Entry | null = null
      let weight: Weight = null
      for (const { entry, start, end, isWholeDay } of instancesOf(series, span, home, budget)) {
        if (entry !== known) weight = weightOf(entry, settings.addresses)
        known = entry
        if (weight) yield { start, end, isWholeDay, isUnconfirmed: weight === 'unconfirmed', uid: entry.uid, title: entry.title }
      }
    } catch (error) {
      if (!(error instanceof TooMuchWork)) throw error
      unread.push({ uid, code: 'tooMuch', text: '' })
    }
  }
  for (const { start, end, isTentative } of file.periods)
    if (start < span.to && end > span.from && start < end) yield { start, end, isWholeDay: false, isUnconfirmed: isTentative, uid: '', title: '' }
}

/**
 * The taken time of a calendar: half-open intervals of instants in seconds, cut to the span, ascending and joined where they
 * touch, and what could not be read.
 */
export function takenTime(files: Iterable<CalendarFile>, span: Span, settings: CalendarSettings): { busy: Intervals, unread: Unread[] } {
  const bounds: number[] = []
  const unread: Unread[] = []
  for (const file of files) {
    unread.push(...file.unread)
    for (const { start, end, isWholeDay, isUnconfirmed } of takenInstances(file, span, settings, unread)) {
      if ((isWholeDay && !settings.countsAllDay) || (isUnconfirmed && !settings.countsUnconfirmed)) continue
      const [from, to] = [Math.max(start, span.from), Math.min(end, span.to)]
      // What follows on the one before, as it does in long series, needs no interval of its own.
      if (bounds.at(-1) === from) bounds[bounds.length - 1] = to
      else bounds.push(from, to)
    }
  }
  return { busy: union(bounds), unread }
}

/** Whether an entry takes time, and how surely; null where it takes none. */
type Weight = 'confirmed' | 'unconfirmed' | null

function weightOf({ status, isTransparent, answers }: Entry, addresses: ReadonlySet<string>): Weight {
  const own = ownAnswers(answers, addresses)
  if (status === 'CANCELLED' || isTransparent || own.includes('DECLINED')) return null
  const isOpen = own.some(answer => answer === 'TENTATIVE' || answer === 'NEEDS-ACTION') && !own.includes('ACCEPTED')
  return status === 'TENTATIVE' || isOpen ? 'unconfirmed' : 'confirmed'
}

function ownAnswers(answers: ReadonlyMap<string, string>, addresses: ReadonlySet<string>): string[] {
  return answers.size === 0 ? [] : [...addresses].flatMap(address => answers.get(address) ?? [])
}
