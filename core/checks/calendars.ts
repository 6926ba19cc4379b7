import { DAY, instantToSeconds } from '../time/civil'
import { intersect } from '../time/intervals'
import { zoneOf } from '../time/zone'
import type { Facts } from './facts'
import type { Finding } from './finding'

/** Checks of the calendars that take hosts' time. */

const toConnections = { kind: 'go', to: '/desk/connections' } as const

export function withoutCalendar({ pool, person }: Facts): Finding[] {
  const without = pool.filter(({ calendars }) => calendars !== null && calendars.blocking === 0)
  return without.length === 0 ? [] : [{
    code: 'withoutCalendar', severity: 'look', values: { hosts: without.map(({ id }) => person(id)) }, wayOut: toConnections,
  }]
}

export function silentCalendar({ pool, person }: Facts): Finding[] {
  return pool.flatMap(({ id, calendars }): Finding[] => (calendars === null || calendars.silentSince === null ? [] : [{
    code: 'silentCalendar', severity: 'risky', values: { host: person(id), since: calendars.silentSince }, wayOut: toConnections,
  }]))
}

const WHOLE_DAYS_AHEAD = 28

/** Entries of whole days block more than their writers may think of: a birthday keeps a host from work. */
export function wholeDaysBlocked({ time, pool, person, settings, now, hoursOf }: Facts): Finding[] {
  const from = instantToSeconds(now)
  const ids = new Set(pool.map(({ id }) => id))
  const inPool = time.filter(({ id }) => ids.has(id))
  return inPool.flatMap(({ id, taken }) => taken.filter(part => part.isWholeDay).flatMap((part): Finding[] => {
    const zone = zoneOf(pool.find(host => host.id === id)?.timeZone ?? settings.timeZone)
    const open = intersect(intersect(part.times, [from, from + WHOLE_DAYS_AHEAD * DAY]), hoursOf(id))
    const days = new Set<number>()
    for (let i = 0; i < open.length; i += 2) days.add(zone.dayOf(open[i] ?? 0))
    return days.size === 0 ? [] : [{
      code: 'wholeDaysBlocked', severity: 'look',
      values: { host: person(id), calendar: part.calendar, days: [...days].slice(0, 5), count: days.size },
      wayOut: toConnections,
    }]
  }))
}

/** Hold words that no entry has, perhaps since they are written otherwise there. */
export function unusedHolds({ settings, pool, time }: Facts): Finding[] {
  const known = time.filter(({ id }) => pool.some(host => host.id === id))
  if (known.length < pool.length || pool.every(({ calendars }) => calendars === null || calendars.blocking === 0)) return []
  const unused = settings.holds.filter(word =>
    !known.some(({ taken }) => taken.some(({ holds }) => holds.some(held => held.toLowerCase() === word.toLowerCase()))))
  return unused.length === 0 ? [] : [{
    code: 'unusedHolds', severity: 'look', values: { words: unused }, wayOut: { kind: 'open', panel: 'holds' },
  }]
}
