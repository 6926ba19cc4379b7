import { DAY } from '../../time/civil'
import type { Budget } from './budget'
import type { Entry } from './entry'
import { startsOf } from './expand'
import type { Series } from './file'
import { type ClockZone, type Duration, instantOf, type Moment } from './moments'
import { isOver, type Rule } from './rule'

/** The recurrence set of a series (RFC 5545 §3.8.5), with what stands for single instances of it. */

export interface Instance {
  /** Instants in seconds, the end excluded; the end is not after the start where nothing is taken. */
  start: number
  end: number
  isWholeDay: boolean
  /** The component that says of this instance whether it counts. */
  entry: Entry
}

export interface Span {
  /** Instants in seconds, the end excluded. */
  from: number
  to: number
}

/** Where an instance of a master stands. */
interface Base {
  /** Days, or local seconds by the entry's own zone. */
  local: number
  instant: number
  /** Of a PERIOD, its own end. */
  until: Moment | Duration | null
}

/** The instances that touch a span, in no order. `home` is the calendar's zone. Throws TooMuchWork. */
export function* instancesOf({ masters, overrides }: Series, span: Span, home: ClockZone, budget: Budget): Generator<Instance> {
  if (overrides.length === 0 && masters.every(master => isSingle(master) && isFar(master, span))) return
  for (const entry of overrides) {
    const instance = instanceAt(entry, baseOf(entry.start, clockOf(entry, home), home), home)
    if (touches(instance, span)) yield instance
  }
  const replaced = matcher(overrides.flatMap(({ replaces }) => replaces ?? []), home)
  const changes = overrides.filter(({ andLater }) => andLater).sort((a, b) => pointOf(a, home) - pointOf(b, home))
  for (const entry of masters) {
    for (const base of basesOf(entry, reachOf(entry, changes, span, home), home, budget)) {
      if (replaced(entry, base)) continue
      const change = changes.findLast(other => pointOf(other, home) <= base.instant)
      const instance = change ? shifted(entry, base, change, home) : instanceAt(entry, base, home)
      if (touches(instance, span)) yield instance
    }
  }
}

function isSingle({ rules, more }: Entry): boolean {
  return rules.length === 0 && more.length === 0
}

/** Whether a single entry is days away from a span, whatever its zone: most of a calendar is. */
function isFar({ start, end, duration }: Entry, { from, to }: Span): boolean {
  const wall = (moment: Moment) => (moment.kind === 'date' ? moment.day * DAY : moment.local)
  const last = (end ? wall(end) : wall(start)) + Math.max(0, duration ? duration.days * DAY + duration.seconds : 0)
  return wall(start) - 2 * DAY > to || Math.max(last, wall(start)) + 3 * DAY < from
}

function touches({ start, end }: Instance, { from, to }: Span): boolean {
  return start < to && end > from && start < end
}

/** The zone that a time of an entry is counted in. */
function clockOf({ start }: Pick<Entry, 'start'>, home: ClockZone): ClockZone {
  return start.kind === 'time' && start.zone ? start.zone : home
}

function baseOf(moment: Moment, clock: ClockZone, home: ClockZone): Base {
  const instant = instantOf(moment, home)
  const isOwn = moment.kind === 'time' && (moment.zone ?? home) === clock
  return { local: moment.kind === 'date' ? moment.day : isOwn ? moment.local : clock.toLocal(instant), instant, until: null }
}

/** The instant that the instance had which an entry stands for. */
function pointOf({ replaces, start }: Entry, home: ClockZone): number {
  return instantOf(replaces ?? start, home)
}

/** Tells whether one of some moments is an instance: of that time, or of that date. */
function matcher(moments: readonly Moment[], home: ClockZone): (entry: Entry, base: Base) => boolean {
  if (moments.length === 0) return () => false
  const days = new Set<number>()
  const localDays = new Set<number>()
  const instants = new Set<number>()
  for (const moment of moments) {
    if (moment.kind === 'date') days.add(moment.day)
    else localDays.add(Math.floor(moment.local / DAY))
    if (moment.kind === 'time') instants.add(instantOf(moment, home))
  }
  return ({ start }, { local, instant }) => (start.kind === 'date'
    ? days.has(local) || localDays.has(local)
    : instants.has(instant) || days.has(Math.floor(local / DAY)))
}

/** How far around a span instances can stand that touch it once they last, or have been moved: local seconds. */
function reachOf(entry: Entry, changes: readonly Entry[], { from, to }: Span, home: ClockZone): Span {
  const clock = clockOf(entry, home)
  const lengths = [entry, ...changes].map(({ start, end, duration }) => Math.max(
    end ? instantOf(end, home) - instantOf(start, home) : 0, duration ? duration.days * DAY + duration.seconds : 0, 0))
  const shifts = changes.map(change => shiftOf(entry, change, home))
  const slack = 2 * DAY
  return {
    from: clock.toLocal(from) - Math.max(...lengths) - Math.max(0, ...shifts) - slack,
    to: clock.toLocal(to) - Math.min(0, ...shifts) + slack,
  }
}

/** Where instances of a master stand within a reach, each once. */
function* basesOf(entry: Entry, reach: Span, home: ClockZone, budget: Budget): Generator<Base> {
  const { start, rules, exceptRules, more, except } = entry
  budget.spend()
  const clock = clockOf(entry, home)
  const first = baseOf(start, clock, home)
  if (isSingle(entry) && except.length === 0) {
    yield first
    return
  }
  const isExcepted = matcher(except, home)
  const excepted = new Set(exceptRules.flatMap(rule => [...localsOf(rule, entry, first, reach, home, budget, false)]))
  const seen = new Set<number>()
  const isNew = (base: Base) => {
    if (seen.has(base.instant) || excepted.has(base.local) || isExcepted(entry, base)) return false
    seen.add(base.instant)
    return true
  }
  // Of several at one time, a PERIOD says how long it lasts.
  for (const base of more.map(extra => extraBase(extra, start, clock, home))) if (isNew(base)) yield base
  if (isNew(first)) yield first
  for (const rule of rules) {
    for (const local of localsOf(rule, entry, first, reach, home, budget, true)) {
      const base = start.kind === 'date'
        ? { local, instant: home.startOfDay(local), until: null }
        : { local, instant: clock.toInstant(local), until: null }
      if (isNew(base)) yield base
    }
  }
}

/** Where a rule puts instances after the first one, which counts for COUNT whether the rule names it or not. */
function* localsOf(
  rule: Rule, { start }: Entry, first: Base, reach: Span, home: ClockZone, budget: Budget, countsFirst: boolean,
): Generator<number> {
  const isWholeDay = start.kind === 'date'
  const unit = isWholeDay ? DAY : 1
  const clock = clockOf({ start }, home)
  const origin = first.local * unit
  let count = countsFirst ? 1 : 0
  for (const at of startsOf(rule, { start: origin, isWholeDay, from: rule.count === null ? reach.from : origin, to: reach.to, budget })) {
    if (isOver(rule, at, () => (isWholeDay ? clock.startOfDay(at / DAY) : clock.toInstant(at)))) return
    if (at > origin || !countsFirst) {
      if (rule.count !== null && ++count > rule.count) return
      if (at >= reach.from) yield at / unit
    }
  }
}

/** An RDATE: of an entry of whole days its date, of one with a time, where it is a date, at that time. */
function extraBase(extra: Entry['more'][number], start: Moment, clock: ClockZone, home: ClockZone): Base {
  const [moment, until] = extra.kind === 'period' ? [extra.start, extra.end] : [extra, null]
  if (start.kind === 'date') {
    const day = moment.kind === 'date' ? moment.day : Math.floor(moment.local / DAY)
    return { local: day, instant: home.startOfDay(day), until }
  }
  const at: Moment = moment.kind === 'time' ? moment : { ...start, local: moment.day * DAY + start.local - Math.floor(start.local / DAY) * DAY }
  return { ...baseOf(at, clock, home), until }
}

/** An entry's instance at a place, as long as the entry lasts. */
function instanceAt(entry: Entry, { local, instant, until }: Base, home: ClockZone): Instance {
  const isWholeDay = entry.start.kind === 'date'
  const clock = clockOf(entry, home)
  const end = until ? endBy(until, local, instant, isWholeDay, clock, home) : endOf(entry, local, instant, isWholeDay, clock, home)
  return { start: instant, end, isWholeDay, entry }
}

/** RFC 5545 §3.6.1: a DTEND gives each instance the same exact length, a DURATION the same by the wall clock. */
function endOf(entry: Entry, local: number, instant: number, isWholeDay: boolean, clock: ClockZone, home: ClockZone): number {
  const { start, end, duration } = entry
  if (start.kind === 'date' && isWholeDay && (!end || end.kind === 'date')) {
    const days = end?.kind === 'date' ? end.day - start.day : 0
    if (days > 0) return home.startOfDay(local + days)
    const last = duration && !end ? endBy(duration, local, instant, true, clock, home) : instant
    return last > instant ? last : home.startOfDay(local + 1)
  }
  if (end) return instant + instantOf(end, home) - instantOf(start, home)
  return duration ? endBy(duration, local, instant, isWholeDay, clock, home) : instant
}

function endBy(until: Moment | Duration, local: number, instant: number, isWholeDay: boolean, clock: ClockZone, home: ClockZone): number {
  if ('kind' in until) return instantOf(until, home)
  const { days, seconds } = until
  if (days === 0) return instant + seconds
  return (isWholeDay ? home.startOfDay(local + days) : clock.toInstant(local + days * DAY)) + seconds
}

/** By how much a change moves the instances it is about, by the master's wall clock. */
function shiftOf(master: Entry, { start, replaces }: Entry, home: ClockZone): number {
  const clock = clockOf(master, home)
  const wall = (moment: Moment) => (moment.kind === 'date' ? moment.day * DAY : clock.toLocal(instantOf(moment, home)))
  return replaces ? wall(start) - wall(replaces) : 0
}

/** A later instance of a series that was changed from some instance on. */
function shifted(master: Entry, base: Base, change: Entry, home: ClockZone): Instance {
  const clock = clockOf(master, home)
  const local = (master.start.kind === 'date' ? base.local * DAY : base.local) + shiftOf(master, change, home)
  if (change.start.kind === 'date') {
    const day = Math.floor(local / DAY)
    return instanceAt(change, { local: day, instant: home.startOfDay(day), until: null }, home)
  }
  const instant = clock.toInstant(local)
  const own = clockOf(change, home)
  return instanceAt(change, { local: own === clock ? local : own.toLocal(instant), instant, until: null }, home)
}
