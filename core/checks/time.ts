import { planFor } from '../event-type/host-time'
import type { Settings } from '../event-type/settings'
import type { HoursPlan } from '../openings'
import { DAY, dateToDays, instantToSeconds, MINUTE, parseClock, weekdayIndex, weekdays } from '../time/civil'
import { plural, formatMonthDay, formatRepeatInterval, formatList, formatDuration, formatZone } from '../time/format'
import { zoneOf } from '../time/zone'
import { CHECKED_DAYS, type Facts, longest } from './facts'
import type { Finding } from './finding'
import { recurringDays } from '../openings/recurring'

/** Checks of when an event type can be booked. */

/** What is loosened, one at a time, to find the rule that leaves nothing to book. */
const loosened: { change: Partial<Settings>, words: string, panel: Finding['wayOut'] }[] = [
  {
    change: { leadTimeMinutes: 0 },
    words: 'how long before its start it must be booked',
    panel: { kind: 'open', words: 'Change how soon', panel: 'leadTime' },
  },
  {
    change: { horizon: { kind: 'open' } },
    words: 'how far ahead it may be booked',
    panel: { kind: 'open', words: 'Change how far ahead', panel: 'horizon' },
  },
  {
    change: { hours: { mode: 'hosts' } },
    words: 'the hours it is narrowed to',
    panel: { kind: 'open', words: 'Change the hours', panel: 'hours' },
  },
  {
    change: { dailyLimit: null, weeklyLimit: null },
    words: 'the limit of sessions',
    panel: { kind: 'open', words: 'Change the limit', panel: 'limits' },
  },
  {
    change: { bufferBeforeMinutes: 0, bufferAfterMinutes: 0 },
    words: 'the time kept free around it',
    panel: { kind: 'open', words: 'Change what is kept free', panel: 'buffers' },
  },
  {
    change: { startEveryMinutes: 5 },
    words: 'the few starts that are offered',
    panel: { kind: 'open', words: 'Change when it starts', panel: 'startEvery' },
  },
]

export function noOpening(facts: Facts): Finding[] {
  if (facts.openings.length > 0) return []
  const words = `There is no opening in the next ${CHECKED_DAYS} days`
  const cause = loosened.find(({ change }) => facts.openingsWith(change).length > 0)
  if (cause)
    return [
      {
        code: 'noOpening',
        severity: 'stops',
        words: `${words}. What causes it is ${cause.words}: without it there would be some.`,
        wayOut: cause.panel,
      },
    ]
  const free = facts.time.map(host => ({ ...host, busy: [], sessions: [] }))
  if (facts.openingsWith({}, free).length > 0) {
    return [
      {
        code: 'noOpening',
        severity: 'stops',
        words: `${words}: the hosts’ time is all taken.`,
        wayOut: { kind: 'open', words: 'Add a host', panel: 'chairs' },
      },
    ]
  }
  const never = facts.pool.filter(host => longest(facts.hoursOf(host.id)) === 0)
  return [
    {
      code: 'noOpening',
      severity: 'stops',
      words:
        never.length > 0
          ? `${words}: ${formatList(never.map(host => facts.firstName(host.id)))} ${never.length === 1 ? 'has' : 'have'} no open hours for it.`
          : `${words}. Several rules together leave none.`,
      wayOut: { kind: 'open', words: 'Change the hours', panel: 'hours' },
    },
  ]
}

export function neverFits({ settings, pool, hoursOf }: Facts): Finding[] {
  const room = Math.max(0, ...pool.map(host => longest(hoursOf(host.id)))) / MINUTE
  const tooLong = settings.durations.filter(minutes => room > 0 && minutes > room)
  return tooLong.length === 0
    ? []
    : [
        {
          code: 'neverFits',
          severity: 'stops',
          words: `${formatList(tooLong.map(formatDuration))} never ${tooLong.length === 1 ? 'fits' : 'fit'}: the longest open hours are ${formatDuration(room)} in one piece.`,
          wayOut: { kind: 'open', words: 'Change the duration', panel: 'duration' },
        },
      ]
}

export function startsHideSessions({ settings }: Facts): Finding[] {
  const shortest = Math.min(...settings.durations)
  const whole = shortest + settings.bufferBeforeMinutes + settings.bufferAfterMinutes
  if (settings.startEveryMinutes < 2 * whole) {
    if (settings.startEveryMinutes <= whole) return []
    const lost = settings.startEveryMinutes - whole
    return lost < 5
      ? []
      : [
          {
            code: 'startsHideSessions',
            severity: 'look',
            words: `Starts ${formatRepeatInterval(settings.startEveryMinutes)} leave ${formatDuration(lost)} unused between sessions of ${formatDuration(shortest)} that follow each other.`,
            wayOut: { kind: 'set', words: `Start ${formatRepeatInterval(whole)}`, settings: { startEveryMinutes: whole } },
          },
        ]
  }
  const share = 1 - 1 / Math.floor(settings.startEveryMinutes / whole)
  return [
    {
      code: 'startsHideSessions',
      severity: 'risky',
      words: `Starts ${formatRepeatInterval(settings.startEveryMinutes)} hide ${share === 0.5 ? 'half' : `${Math.round(share * 100)} of a hundred`} of the sessions of ${formatDuration(shortest)} that would fit.`,
      wayOut: { kind: 'set', words: `Start ${formatRepeatInterval(whole)}`, settings: { startEveryMinutes: whole } },
    },
  ]
}

export function bufferBeyondGap({ settings, pool, hoursOf }: Facts): Finding[] {
  const buffer = settings.bufferBeforeMinutes + settings.bufferAfterMinutes
  const shortest = Math.min(...settings.durations)
  const gap = Math.ceil(shortest / settings.startEveryMinutes) * settings.startEveryMinutes - shortest
  const unused = Math.ceil((shortest + buffer) / settings.startEveryMinutes) * settings.startEveryMinutes - shortest - buffer
  // Where the hours hold one session only, no start follows.
  const follows = pool.some(host => longest(hoursOf(host.id)) >= (shortest + settings.startEveryMinutes) * MINUTE)
  return buffer === 0 || buffer <= gap || unused < 10 || !follows
    ? []
    : [
        {
          code: 'bufferBeyondGap',
          severity: 'look',
          words: `With ${formatDuration(buffer)} kept free and ${gap === 0 ? 'no gap' : `a gap of ${formatDuration(gap)}`} between starts, each session takes the start after it away, and ${formatDuration(unused)} go unused.`,
          wayOut: { kind: 'open', words: 'Change when it starts', panel: 'startEvery' },
        },
      ]
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
  const ended = horizon.kind === 'dates' && last < today
  return [
    {
      code: ended ? 'datesPast' : 'leadBeyondHorizon',
      severity: 'stops',
      words: ended
        ? `The last date it can be booked for, ${formatMonthDay(last, 'long', 'en-GB')}, has passed.`
        : `It must be booked at least ${formatDuration(settings.leadTimeMinutes)} before, but only that far ahead it cannot be booked: the two rules leave nothing.`,
      wayOut: { kind: 'open', words: 'Change how far ahead', panel: 'horizon' },
    },
  ]
}

export function limits({ settings, pool, hoursOf }: Facts): Finding[] {
  const found: Finding[] = []
  const { dailyLimit, weeklyLimit } = settings
  const whole = Math.min(...settings.durations) + settings.bufferBeforeMinutes + settings.bufferAfterMinutes
  const inADay = Math.max(0, ...pool.map(host => mostInADay(hoursOf(host.id), whole, zoneOf(settings.timeZone))))
  const open = { kind: 'open', words: 'Change the limit', panel: 'limits' } as const
  if (dailyLimit !== null && inADay > 0 && dailyLimit >= inADay) {
    found.push({
      code: 'limitNeverReached',
      severity: 'look',
      words: `The limit of ${dailyLimit} a day is never reached before the hours are full: at most ${plural(inADay, 'session')} ${inADay === 1 ? 'fits' : 'fit'} into a day.`,
      wayOut: { kind: 'set', words: 'Take the daily limit away', settings: { dailyLimit: null } },
    })
  }
  if (dailyLimit !== null && dailyLimit < inADay && dailyLimit * whole <= 60) {
    found.push({
      code: 'limitByOneHour',
      severity: 'look',
      words: `A single hour reaches the limit of ${dailyLimit} a day: the rest of the day is then closed.`,
      wayOut: open,
    })
  }
  if (weeklyLimit !== null && dailyLimit !== null && weeklyLimit >= dailyLimit * 7) {
    found.push({
      code: 'limitNeverReached',
      severity: 'look',
      words: `The limit of ${weeklyLimit} a week is never reached, with at most ${dailyLimit} a day.`,
      wayOut: { kind: 'set', words: 'Take the weekly limit away', settings: { weeklyLimit: null } },
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

export function planZones({ settings, pool, definition }: Facts): Finding[] {
  const found: Finding[] = pool.flatMap(host =>
    host.plans
      .filter(plan => plan.timeZone !== host.timeZone)
      .map(plan => ({
        code: 'planZone',
        severity: 'look' as const,
        words: `“${plan.name}” of ${host.name} is in ${formatZone(plan.timeZone)} time, but ${host.name.split(' ')[0]} lives by ${formatZone(host.timeZone)} time.`,
        wayOut: { kind: 'go' as const, words: 'Open these hours', to: `/desk/hours/${plan.id}` },
      })),
  )
  if (settings.hours.mode === 'replace') {
    const { timeZone } = settings.hours.plan
    const away = [...new Set(definition.chairs.flatMap(chair => chair.hosts.map(host => host.id)))]
      .map(id => pool.find(host => host.id === id))
      .filter(host => host && host.timeZone !== timeZone)
    if (away.length > 0)
      found.push({
        code: 'planZone',
        severity: 'look',
        words: `The hours that replace the hosts’ own are in ${formatZone(timeZone)} time; ${formatList(away.map(host => host?.name.split(' ')[0] ?? ''))} ${away.length === 1 ? 'lives' : 'live'} elsewhere and may be asked at night.`,
        wayOut: { kind: 'open', words: 'Change the hours', panel: 'hours' },
      })
  }
  return found
}

/** Weekly windows that hold a wall-clock time which a clock change of the coming year skips or repeats. */
export function clockChanges({ settings, pool, time, now }: Facts): Finding[] {
  const own =
    settings.hours.mode === 'hosts'
      ? []
      : [{ whose: 'its hours', plan: settings.hours.plan, wayOut: { kind: 'open', words: 'Change the hours', panel: 'hours' } as const }]
  const hosts = settings.hours.mode === 'replace' ? [] : pool.flatMap((host) => {
    const known = time.find(candidate => candidate.id === host.id)
    const applying = known && planFor(known, settings.hours)
    if (!applying) return []
    return [
      {
        whose: `${host.name}’s hours`,
        plan: applying.plan,
        wayOut: { kind: 'go', words: 'Open these hours', to: `/desk/hours/${applying.id}` } as const,
      },
    ]
  })
  const first = instantToSeconds(now)
  const found = [...own, ...hosts].flatMap(({ whose, plan, wayOut }) => {
    const change = changeWithin(plan, first)
    return change
      ? [
          {
            words: `On ${formatMonthDay(change.day, 'long', 'en-GB')} the clocks in ${formatZone(plan.timeZone)} change within ${whose} from ${change.from} to ${change.to}: they last ${formatDuration(change.minutes)} that day.`,
            wayOut,
          },
        ]
      : []
  })
  return found.slice(0, 1).map(row => ({ code: 'clockChange', severity: 'look', ...row }))
}

function changeWithin(plan: HoursPlan, now: number): { day: number, from: string, to: string, minutes: number } | null {
  const zone = zoneOf(plan.timeZone)
  const first = zone.dayOf(now)
  for (let day = first; day < first + 366; day++) {
    if (zone.steadyOffset(day) !== null) continue
    const weekday = weekdays[weekdayIndex(day)]
    for (const { days, from, to } of plan.weekly) {
      if (!weekday || !days.includes(weekday)) continue
      const [begins, ends] = [parseClock(from) ?? 0, parseClock(to, true) ?? 0]
      const seconds = zone.toInstant(day * DAY + ends * MINUTE) - zone.toInstant(day * DAY + begins * MINUTE)
      if (seconds !== (ends - begins) * MINUTE) return { day, from, to, minutes: Math.round(seconds / MINUTE) }
    }
  }
  return null
}

export function ruleNeverHappens({ settings, now }: Facts): Finding[] {
  if (settings.hours.mode === 'hosts') return []
  const today = zoneOf(settings.hours.plan.timeZone).dayOf(instantToSeconds(now))
  return settings.hours.plan.recurring
    .filter(window => [...recurringDays(window.rrule, dateToDays(window.start), today, today + 2 * 366)].length === 0)
    .map(window => ({
      code: 'ruleNeverHappens',
      severity: 'risky' as const,
      words: `A recurring window that starts on ${formatMonthDay(dateToDays(window.start), 'long', 'en-GB')} names no date within the next two years.`,
      wayOut: { kind: 'open' as const, words: 'Change the hours', panel: 'hours' as const },
    }))
}

export function planRunsOut({ settings, now }: Facts): Finding[] {
  if (settings.hours.mode === 'hosts' || settings.hours.plan.valid.to === null) return []
  const today = zoneOf(settings.hours.plan.timeZone).dayOf(instantToSeconds(now))
  const left = dateToDays(settings.hours.plan.valid.to) - today
  return left > 30
    ? []
    : [
        {
          code: 'planRunsOut',
          severity: left < 0 ? 'stops' : 'risky',
          words:
            left < 0
              ? `Its hours ended on ${formatMonthDay(today + left, 'long', 'en-GB')}.`
              : `Its hours end on ${formatMonthDay(today + left, 'long', 'en-GB')}; after that nothing can be booked.`,
          wayOut: { kind: 'open', words: 'Change the hours', panel: 'hours' },
        },
      ]
}

export function holidaysNotChosen({ settings, pool }: Facts): Finding[] {
  const { hours, horizon } = settings
  if (hours.mode !== 'hosts' && hours.plan.holidays.length > 0) return []
  if ('days' in horizon && horizon.days < 10) return []
  const without = hours.mode === 'replace' ? [] : pool.filter(host => !host.plans.some(plan => plan.holidays))
  if (hours.mode !== 'replace' && without.length === 0) return []
  const [first] = without
  return [
    {
      code: 'holidaysNotChosen',
      severity: 'look',
      words:
        hours.mode === 'replace'
          ? 'No holiday calendar is chosen for its hours: clients can book on public holidays.'
          : `${without.length === pool.length && pool.length > 1 ? 'No host has' : `${formatList(without.map(host => host.name.split(' ')[0] ?? ''))} ${without.length === 1 ? 'has' : 'have'} not`} chosen ${without.length === pool.length && pool.length > 1 ? 'a holiday calendar' : 'one for holidays'}: clients can book on public holidays.`,
      wayOut:
        hours.mode === 'replace' || !first?.plans[0]
          ? { kind: 'open', words: 'Choose holidays', panel: 'hours' }
          : { kind: 'go', words: `Choose holidays for ${first.name.split(' ')[0]}`, to: `/desk/hours/${first.plans[0].id}` },
    },
  ]
}
