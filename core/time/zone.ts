import { DAY, daysOf } from './civil'

/**
 * One IANA time zone: offsets in seconds east of UTC, looked up once per UTC day and remembered.
 * The platform's own zone rules (Intl) are the source; instants are integer seconds since the epoch.
 */
export interface Zone {
  readonly name: string
  /** Offset in force at an instant. */
  offsetAt(instant: number): number
  /** Local seconds shown by a clock in the zone at an instant. */
  toLocal(instant: number): number
  /**
   * The instant of local seconds. A time that a clock change skips moves forward by the skipped length;
   * one that occurs twice means the first (Temporal's `compatible`).
   */
  toInstant(local: number): number
  /** The local date (days since 1970-01-01) at an instant. */
  dayOf(instant: number): number
  /** The first instant of a local date; for a date the zone skipped, the first instant after it. */
  startOfDay(day: number): number
  /** The offset of a local date around which no clock changes within a day, or null. Quick, where most dates are plain. */
  steadyOffset(day: number): number | null
  /** False for a date that the zone skipped altogether (Pacific/Apia, 2011-12-30). */
  hasDay(day: number): boolean
}

interface DayOffsets {
  before: number
  /** Instant from which `after` is in force; Infinity where the whole UTC day has one offset. */
  change: number
  after: number
}

const known = new Map<string, Zone>()
/** More than there are: names may be written in any case. */
const MOST_ZONES = 1000

/** Days remembered per zone before they are forgotten and looked up again: three decades of a long-lived server. */
const MOST_DAYS = 11_000
/** No zone changed its clocks before this instant, and the platform's calendar counts earlier years otherwise. */
const FIRST_RULES = daysOf(1800, 1, 1) * DAY

/** The zone of an IANA name. Throws RangeError for a name the platform does not know. */
export function zoneOf(name: string): Zone {
  let zone = known.get(name)
  if (!zone) {
    if (known.size >= MOST_ZONES) known.clear()
    zone = makeZone(name)
    known.set(name, zone)
  }
  return zone
}

const namePattern = /^[A-Za-z][A-Za-z0-9_+-]*(\/[A-Za-z0-9_+-]+)*$/

/** Whether a text is the name of a zone the platform knows; plain offsets such as `+01:00` are not. */
export function isZoneName(name: string): boolean {
  if (known.has(name)) return true
  if (!namePattern.test(name)) return false
  try {
    new Intl.DateTimeFormat('en', { timeZone: name })
    return true
  } catch {
    return false
  }
}

function makeZone(name: string): Zone {
  if (!namePattern.test(name)) throw new RangeError(`Not a time zone: ${name}`)
  const probe = offsetProbe(name)
  const days = new Map<number, DayOffsets>()
  const midnights = new Map<number, number>()

  function offsetAtStartOf(utcDay: number): number {
    let offset = midnights.get(utcDay)
    if (offset === undefined) midnights.set(utcDay, offset = probe(utcDay * DAY))
    return offset
  }

  function dayOffsets(utcDay: number): DayOffsets {
    const remembered = days.get(utcDay)
    if (remembered) return remembered
    const start = utcDay * DAY
    const before = offsetAtStartOf(utcDay)
    const after = offsetAtStartOf(utcDay + 1)
    if (days.size >= MOST_DAYS) {
      days.clear()
      midnights.clear()
    }
    const found = { before, after, change: before === after ? Infinity : firstWith(probe, start, start + DAY, after) }
    days.set(utcDay, found)
    return found
  }

  function offsetAt(instant: number): number {
    const day = dayOffsets(Math.floor(instant / DAY))
    return instant < day.change ? day.before : day.after
  }

  /** The earliest instant whose clock shows `local`, or null in a gap. */
  function firstShowing(local: number): number | null {
    const early = offsetAt(local - DAY)
    const late = offsetAt(local + DAY)
    const candidates = early === late ? [local - early] : [local - Math.max(early, late), local - Math.min(early, late)]
    for (const instant of candidates) if (instant + offsetAt(instant) === local) return instant
    return null
  }

  function dayOf(instant: number): number {
    return Math.floor((instant + offsetAt(instant)) / DAY)
  }

  function startOfDay(day: number): number {
    const local = day * DAY
    const offset = steadyOffset(day)
    if (offset !== null) return local - offset
    const exact = firstShowing(local)
    if (exact !== null) return exact
    const early = offsetAt(local - DAY)
    return firstWith(offsetAt, local - early - DAY, local - early + DAY, offsetAt(local + DAY))
  }

  const steady = new Map<number, number | null>()

  function steadyOffset(day: number): number | null {
    let offset = steady.get(day)
    if (offset === undefined) {
      const around = [day - 1, day, day + 1].map(dayOffsets)
      const first = around[0]?.before ?? 0
      offset = around.every(change => change.before === first && change.change === Infinity) ? first : null
      if (steady.size >= MOST_DAYS) steady.clear()
      steady.set(day, offset)
    }
    return offset
  }

  return {
    name,
    offsetAt,
    toLocal: instant => instant + offsetAt(instant),
    toInstant: local => firstShowing(local) ?? local - offsetAt(local - DAY),
    dayOf,
    startOfDay,
    steadyOffset,
    hasDay: day => dayOf(startOfDay(day)) === day,
  }
}

/** First instant in (low, high] at which `offset` holds, given that it holds at high and not at low. */
function firstWith(probe: (instant: number) => number, low: number, high: number, offset: number): number {
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2)
    if (probe(middle) === offset) high = middle
    else low = middle
  }
  return high
}

const partsPattern = /^(\d+)\/(\d+)\/(-?\d+), (\d+):(\d+):(\d+)$/

function offsetProbe(name: string): (instant: number) => number {
  const format = new Intl.DateTimeFormat('en-US', {
    timeZone: name,
    hourCycle: 'h23',
    year: 'numeric',
    month: 'numeric',
    day: 'numeric',
    hour: 'numeric',
    minute: 'numeric',
    second: 'numeric',
  })
  return (asked) => {
    const instant = Math.max(asked, FIRST_RULES)
    const match = partsPattern.exec(format.format(instant * 1000))
    if (!match) throw new RangeError(`No wall clock for ${instant} in ${name}`)
    const [month = 1, day = 1, year = 1970, hour = 0, minute = 0, second = 0] = match.slice(1).map(Number)
    return daysOf(year, month, day) * DAY + hour * 3600 + minute * 60 + second - instant
  }
}
