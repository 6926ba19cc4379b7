import { DAY, HOUR, MINUTE } from '../../time/civil'
import type { Block } from './blocks'
import { Budget, TooMuchWork } from './budget'
import { startsOf } from './expand'
import { type ClockZone, readMoment } from './moments'
import { propertiesOf, type Property } from './properties'
import { isOver, readRule, type Rule, RuleError } from './rule'

/** A zone by its own description (VTIMEZONE, RFC 5545 §3.6.5): each observance says from when which offset holds. */

interface Observance {
  /** Local seconds by the offset before it. */
  start: number
  before: number
  after: number
  rules: Rule[]
  more: number[]
}

/** From `at` on, the offset is `after`. Seconds. */
interface Transition {
  at: number
  before: number
  after: number
}

/** No clock has been changed before. */
const FIRST = -Math.floor(170 * 365.25) * DAY
const AHEAD = 5 * 366 * DAY
const WORK = 200_000

/** Null where the description cannot be read. */
export function observedZone(block: Block): ClockZone | null {
  const observances = block.blocks.map(readObservance)
  if (observances.length === 0) return null
  const read: Observance[] = []
  for (const observance of observances) {
    if (!observance) return null
    read.push(observance)
  }
  try {
    return new ObservedZone(read)
  } catch (error) {
    if (error instanceof TooMuchWork) return null
    throw error
  }
}

class ObservedZone implements ClockZone {
  private transitions: Transition[] = []
  private until = -Infinity

  constructor(private readonly observances: readonly Observance[]) {
    this.reach(FIRST + AHEAD)
  }

  toInstant(local: number): number {
    // A skipped time goes by the offset before the change, and so does the first of two.
    const change = this.last(({ at, before, after }) => at + Math.max(before, after) <= local, local)
    return local - (change?.after ?? this.first)
  }

  toLocal(instant: number): number {
    return instant + (this.last(({ at }) => at <= instant, instant)?.after ?? this.first)
  }

  startOfDay(day: number): number {
    const local = day * DAY
    const skipping = this.last(({ at, before }) => at + before < local, local)
    return skipping && skipping.at + skipping.after > local ? skipping.at : this.toInstant(local)
  }

  private get first(): number {
    return this.transitions[0]?.before ?? 0
  }

  /** The last transition that a condition holds for, which holds for all before it too. */
  private last(holds: (transition: Transition) => boolean, around: number): Transition | undefined {
    this.reach(around + 2 * DAY)
    let [low, high] = [0, this.transitions.length]
    while (low < high) {
      const middle = (low + high) >> 1
      const transition = this.transitions[middle]
      if (transition && holds(transition)) low = middle + 1
      else high = middle
    }
    return this.transitions[low - 1]
  }

  private reach(instant: number): void {
    if (instant <= this.until) return
    this.until = instant + AHEAD
    const budget = new Budget(WORK, WORK)
    budget.begin()
    const found = this.observances.flatMap(({ start, before, after, rules, more }) => {
      const to = this.until + before
      const locals = new Set([start, ...more])
      for (const rule of rules) {
        let count = 1
        for (const local of startsOf(rule, { start, isWholeDay: false, from: rule.count === null ? FIRST : start, to, budget })) {
          if (rule.count !== null && local > start && ++count > rule.count) break
          if (isOver(rule, local, () => local - before)) break
          locals.add(local)
        }
      }
      return [...locals].map((local): Transition => ({ at: local - before, before, after }))
    })
    this.transitions = found.filter(({ at }) => at <= this.until).sort((a, b) => a.at - b.at)
  }
}

function readObservance(block: Block): Observance | null {
  try {
    const properties = propertiesOf(block)
    const [start] = momentsOf(properties, 'dtstart')
    const [before, after] = ['tzoffsetfrom', 'tzoffsetto'].map(name => offsetOf(properties.find(property => property.name === name)))
    if (start === undefined || before === undefined || after === undefined || before === null || after === null) return null
    const rules = properties.filter(({ name }) => name === 'rrule')
      .flatMap(({ values }) => values.map(value => readRule(typeof value === 'object' && value !== null ? { ...value } : {})))
    return { start, before, after, rules, more: momentsOf(properties, 'rdate') }
  } catch (error) {
    if (error instanceof RuleError) return null
    throw error
  }
}

function momentsOf(properties: readonly Property[], name: string): number[] {
  return properties.filter(property => property.name === name).flatMap(({ values }) => values.flatMap((value) => {
    const moment = readMoment(String(value), null)
    return moment ? [moment.kind === 'date' ? moment.day * DAY : moment.local] : []
  }))
}

const offsetPattern = /^([+-])(\d\d):?(\d\d):?(\d\d)?$/

function offsetOf(property: Property | undefined): number | null {
  const [, sign, hours = '', minutes = '', seconds = '0'] = offsetPattern.exec(String(property?.values[0] ?? '')) ?? []
  return sign ? (sign === '-' ? -1 : 1) * (Number(hours) * HOUR + Number(minutes) * MINUTE + Number(seconds)) : null
}
