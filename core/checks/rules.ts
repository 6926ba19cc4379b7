import type { Settings } from '../event-type/settings'
import type { Panel } from '../event-type/panels'
import { dateToDays, instantToSeconds, MINUTE } from '../time/civil'
import { zoneOf } from '../time/zone'
import { type Facts, KNOWN_DAYS, longest } from './facts'
import type { Finding, FindingValues, Person } from './finding'

/** Checks of the rules by which an event type is booked. */

/** What is loosened, one at a time, to find the rule that leaves nothing to book. */
const loosened: { cause: FindingValues['noOpening']['cause'] & Panel, change: Partial<Settings> }[] = [
  { cause: 'leadTime', change: { leadTimeMinutes: 0 } },
  { cause: 'horizon', change: { horizon: { kind: 'open' } } },
  { cause: 'hours', change: { hours: { mode: 'hosts' } } },
  { cause: 'limits', change: { dailyLimit: null, weeklyLimit: null, totalDailyLimit: null, totalWeeklyLimit: null } },
  { cause: 'buffers', change: { bufferBeforeMinutes: 0, bufferAfterMinutes: 0 } },
  { cause: 'startEvery', change: { startEveryMinutes: 5 } },
]

export function noOpening(facts: Facts): Finding[] {
  if (facts.openings.length > 0) return []
  const later = facts.laterOpening()
  if (later !== null) return farOpening(facts, later)
  const found = (cause: FindingValues['noOpening']['cause'], panel: Panel, hosts: Person[] = []): Finding[] => [{
    code: 'noOpening', severity: 'stops', values: { days: KNOWN_DAYS, cause, hosts }, wayOut: { kind: 'open', panel },
  }]
  const rule = loosened.find(({ change }) => facts.openingsWith(change).length > 0)
  if (rule) return found(rule.cause, rule.cause)
  const free = facts.time.map(host => ({ ...host, taken: [], sessions: [] }))
  if (facts.openingsWith({}, free).length > 0) return found('taken', 'chairs')
  const without = facts.pool.filter(host => longest(facts.hoursOf(host.id)) === 0).map(host => facts.person(host.id))
  return without.length > 0 ? found('noHours', 'hours', without) : found('severalRules', 'hours')
}

/** A clinic every other week is what it is; beyond so many days somebody may have forgotten something. */
const FAR_DAYS = 28

function farOpening({ settings, now }: Facts, later: number): Finding[] {
  const zone = zoneOf(settings.timeZone)
  const ahead = zone.dayOf(later) - zone.dayOf(instantToSeconds(now))
  return ahead <= FAR_DAYS ? [] : [{
    code: 'nextOpeningFar', severity: 'look', values: { day: zone.dayOf(later), weeks: Math.floor(ahead / 7) },
    wayOut: { kind: 'open', panel: 'hours' },
  }]
}

export function neverFits({ settings, pool, hoursOf }: Facts): Finding[] {
  const room = Math.max(0, ...pool.map(host => longest(hoursOf(host.id)))) / MINUTE
  const tooLong = settings.durations.filter(minutes => room > 0 && minutes > room)
  return tooLong.length === 0 ? [] : [{
    code: 'neverFits', severity: 'stops', values: { durations: tooLong, longest: room }, wayOut: { kind: 'open', panel: 'duration' },
  }]
}

export function startsHideSessions({ settings }: Facts): Finding[] {
  const { startEveryMinutes: startEvery } = settings
  const duration = Math.min(...settings.durations)
  const needed = duration + settings.bufferBeforeMinutes + settings.bufferAfterMinutes
  const wayOut = { kind: 'set', settings: { startEveryMinutes: needed } } as const
  if (startEvery >= 2 * needed) {
    const share = 1 - 1 / Math.floor(startEvery / needed)
    return [{ code: 'startsHideSessions', severity: 'risky', values: { startEvery, duration, share, needed }, wayOut }]
  }
  const unused = startEvery - needed
  return unused < 5 ? [] : [{
    code: 'timeBetweenSessions', severity: 'look', values: { startEvery, duration, unused, needed }, wayOut,
  }]
}

export function bufferBeyondGap({ settings, pool, hoursOf }: Facts): Finding[] {
  const buffer = settings.bufferBeforeMinutes + settings.bufferAfterMinutes
  const shortest = Math.min(...settings.durations)
  const gap = Math.ceil(shortest / settings.startEveryMinutes) * settings.startEveryMinutes - shortest
  const unused = Math.ceil((shortest + buffer) / settings.startEveryMinutes) * settings.startEveryMinutes - shortest - buffer
  // Where the hours hold one session only, no start follows.
  const follows = pool.some(host => longest(hoursOf(host.id)) >= (shortest + settings.startEveryMinutes) * MINUTE)
  return buffer === 0 || buffer <= gap || unused < 10 || !follows ? [] : [{
    code: 'bufferBeyondGap', severity: 'look', values: { buffer, gap, unused }, wayOut: { kind: 'open', panel: 'startEvery' },
  }]
}

export function leadBeyondHorizon({ settings, now }: Facts): Finding[] {
  const { horizon } = settings
  const zone = zoneOf(settings.timeZone)
  const today = zone.dayOf(instantToSeconds(now))
  const earliest = zone.dayOf(instantToSeconds(now) + settings.leadTimeMinutes * MINUTE)
  const last =
    'days' in horizon
      ? today + horizon.days * (horizon.kind === 'rolling' ? 1 : 7 / 5)
      : horizon.kind === 'dates' && horizon.to
        ? dateToDays(horizon.to)
        : Infinity
  if (earliest <= Math.ceil(last)) return []
  const wayOut = { kind: 'open', panel: 'horizon' } as const
  return horizon.kind === 'dates' && last < today
    ? [{ code: 'datesPast', severity: 'stops', values: { day: last }, wayOut }]
    : [{ code: 'leadBeyondHorizon', severity: 'stops', values: { leadTime: settings.leadTimeMinutes }, wayOut }]
}

export function limits({ settings, pool, hoursOf }: Facts): Finding[] {
  const found: Finding[] = []
  const { dailyLimit, weeklyLimit } = settings
  const whole = Math.min(...settings.durations) + settings.bufferBeforeMinutes + settings.bufferAfterMinutes
  const inADay = Math.max(0, ...pool.map(host => mostInADay(hoursOf(host.id), whole, zoneOf(settings.timeZone))))
  if (dailyLimit !== null && inADay > 0 && dailyLimit >= inADay) {
    found.push({
      code: 'limitNeverReached', severity: 'look', values: { limit: dailyLimit, per: 'day', most: inADay },
      wayOut: { kind: 'set', settings: { dailyLimit: null } },
    })
  }
  if (dailyLimit !== null && dailyLimit < inADay && dailyLimit * whole <= 60) {
    found.push({ code: 'limitByOneHour', severity: 'look', values: { limit: dailyLimit }, wayOut: { kind: 'open', panel: 'limits' } })
  }
  if (weeklyLimit !== null && dailyLimit !== null && weeklyLimit >= dailyLimit * 7) {
    found.push({
      code: 'limitNeverReached', severity: 'look', values: { limit: weeklyLimit, per: 'week', most: dailyLimit },
      wayOut: { kind: 'set', settings: { weeklyLimit: null } },
    })
  }
  return found
}

function mostInADay(hours: ArrayLike<number>, minutes: number, zone: ReturnType<typeof zoneOf>): number {
  const perDay = new Map<number, number>()
  for (let i = 0; i < hours.length; i += 2) {
    const from = hours[i] ?? 0
    const day = zone.dayOf(from)
    perDay.set(day, (perDay.get(day) ?? 0) + Math.floor(((hours[i + 1] ?? 0) - from) / (minutes * MINUTE)))
  }
  return Math.max(0, ...perDay.values())
}

/** Clients are to pay, and nobody can take it. */
export function withoutPaymentAccount({ settings, canBePaid }: Facts): Finding[] {
  return settings.price?.when !== 'booking' || canBePaid ? []
    : [{ code: 'noPaymentAccount', severity: 'stops', values: {}, wayOut: { kind: 'go', to: '/desk/connections?host=workspace' } }]
}
