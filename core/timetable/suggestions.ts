import { DAY } from '../time/civil'
import { zoneOf } from '../time/zone'
import { groupBy } from '../group-by'

export interface Suggestion {
  kind: 'soonest' | 'nextDay' | 'mostChoice'
  at: number
  /** Local date of the suggestion, days since 1970-01-01. */
  day: number
  /** How many starts that day has. */
  count: number
}

/** Three ways in: the soonest start, the first of the next day that has one, and the first on the day of most choice. */
export function suggestStarts(starts: readonly number[], zoneName: string): Suggestion[] {
  const zone = zoneOf(zoneName)
  const days = [...groupBy(starts, start => zone.dayOf(start))].map(([day, ofDay]) => ({ day, at: ofDay[0] ?? 0, count: ofDay.length }))
  const [first, second] = days
  if (!first) return []
  const rest = days.slice(2)
  const most = rest.reduce<(typeof days)[number] | undefined>((best, next) => (best && best.count >= next.count ? best : next), undefined)
  return [
    { kind: 'soonest' as const, ...first },
    ...(second ? [{ kind: 'nextDay' as const, ...second }] : []),
    ...(most ? [{ kind: 'mostChoice' as const, ...most }] : []),
  ]
}

const DAY_HOURS = { from: 7, to: 22 }

/** The starts that are not at night in a zone; all of them where there are no others. */
export function startsByDay(starts: readonly number[], zoneName: string): readonly number[] {
  const zone = zoneOf(zoneName)
  const found = starts.filter((at) => {
    const hour = Math.floor((zone.toLocal(at) % DAY) / 3600)
    return hour >= DAY_HOURS.from && hour < DAY_HOURS.to
  })
  return found.length > 0 ? found : starts
}
