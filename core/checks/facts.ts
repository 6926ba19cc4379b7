import { hostIdsOf, queryFor, type Settings } from '../event-type/settings'
import type { HostTime } from '../event-type/host-time'
import { answer, type Opening } from '../openings'
import { hoursOf } from '../openings/windows'
import { DAY, formatInstant, instantToSeconds } from '../time/civil'
import type { Intervals } from '../time/intervals'
import type { CheckContext, CheckHost, Person } from './finding'

/** How far ahead checks look for openings. */
export const CHECKED_DAYS = 14
/** How far ahead hours and taken time are known: an opening is looked for until then where there is none in the first days. */
export const KNOWN_DAYS = 60
/** Hours are looked at over four weeks, so that what recurs every other week is met. */
const HOURS_DAYS = 28

export interface Facts extends CheckContext {
  settings: Settings
  pool: CheckHost[]
  person: (hostId: string) => Person
  /** Openings of the next days for these settings instead of the definition's, for its first duration. */
  openingsWith: (change: Partial<Settings>, time?: readonly HostTime[]) => Opening[]
  openings: Opening[]
  /** When the first opening after the checked days starts, in seconds since the epoch, or null where none is known. */
  laterOpening: () => number | null
  /** The hours a host has for this event type over four weeks, in seconds; each computed once. */
  hoursOf: (hostId: string) => Intervals
}

export function factsOf(context: CheckContext): Facts {
  const { definition, hosts, time, holidays } = context
  const { settings, chairs } = definition
  const ids = new Set(hostIdsOf(chairs))
  const now = instantToSeconds(context.now)
  const openingsBetween = (from: number, to: number, change: Partial<Settings> = {}, over = time) =>
    answer(queryFor({ ...settings, ...change }, chairs, over, {
      now: context.now, from: formatInstant(from), to: formatInstant(to), holidays,
    })).openings
  const openingsWith = (change: Partial<Settings>, over = time) => openingsBetween(now, now + CHECKED_DAYS * DAY, change, over)
  const query = queryFor(settings, chairs, time, { now: context.now, from: context.now, to: context.now, holidays })
  const known = new Map<string, Intervals>()
  let openings: Opening[] | null = null
  return {
    ...context,
    settings,
    pool: hosts.filter(host => ids.has(host.id)),
    person(id) {
      const { name = '', own = false } = hosts.find(host => host.id === id) ?? {}
      return { name: name.split(' ')[0] ?? name, own }
    },
    openingsWith,
    get openings() {
      return openings ??= openingsWith({})
    },
    laterOpening() {
      for (let day = CHECKED_DAYS; day < KNOWN_DAYS; day += CHECKED_DAYS) {
        const [first] = openingsBetween(now + day * DAY, now + Math.min(day + CHECKED_DAYS, KNOWN_DAYS) * DAY)
        if (first) return instantToSeconds(first.start)
      }
      return null
    },
    hoursOf(id) {
      let hours = known.get(id)
      const plans = query.hosts.find(host => host.id === id)?.plans ?? []
      if (!hours) known.set(id, hours = plans.length === 0 ? [] : hoursOf(plans, now, now + HOURS_DAYS * DAY))
      return hours
    },
  }
}

export function longest(hours: Intervals): number {
  let most = 0
  for (let i = 0; i < hours.length; i += 2) most = Math.max(most, (hours[i + 1] ?? 0) - (hours[i] ?? 0))
  return most
}
