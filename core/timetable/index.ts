import { DAY, HOUR, MINUTE } from '../time/civil'
import { zoneOf } from '../time/zone'
import { groupBy } from '../group-by'

/** The timetable: one row a day, one column an hour, in each cell the minutes at which a session can start. */

export interface TimetableStart<Mark = undefined> {
  /** Seconds since the epoch. */
  at: number
  mark: Mark
}

export interface TimetableCell<Mark> {
  hour: number
  departures: (TimetableStart<Mark> & { minute: number })[]
}

export interface TimetableRow<Mark> {
  /** Local date, days since 1970-01-01. */
  day: number
  cells: TimetableCell<Mark>[]
  count: number
  /** Minutes that the reader's zone is ahead of the other one on this day. */
  ahead: number
}

export interface Timetable<Mark> {
  /** Hours with at least one departure in view, ascending; others are folded away. */
  hours: number[]
  /** Every day of the span, with or without departures. */
  rows: TimetableRow<Mark>[]
}

/** Lays starts out by day and hour of the reader's zone. Days are local dates, both inclusive; `alsoHours` have columns in any case. */
export function layTimetable<Mark>(
  departures: readonly TimetableStart<Mark>[],
  zoneName: string,
  otherZone: string,
  firstDay: number,
  lastDay: number,
  alsoHours: readonly number[] = [],
): Timetable<Mark> {
  const zone = zoneOf(zoneName)
  const other = zoneOf(otherZone)
  const placed = departures
    .map((departure) => {
      const local = zone.toLocal(departure.at)
      return { ...departure, minute: Math.floor(local / MINUTE) - Math.floor(local / HOUR) * 60, hour: Math.floor(local / HOUR) }
    })
    .filter(({ hour }) => hour >= firstDay * 24 && hour < (lastDay + 1) * 24)
    .sort((a, b) => a.at - b.at)
  const byHour = groupBy(placed, ({ hour }) => hour)
  const hours = [...new Set([...alsoHours, ...[...byHour.keys()].map(hour => hour - Math.floor(hour / 24) * 24)])].sort((a, b) => a - b)

  const rows: TimetableRow<Mark>[] = []
  for (let day = firstDay; day <= lastDay; day++) {
    const cells = hours.map(hour => ({ hour, departures: byHour.get(day * 24 + hour) ?? [] }))
    const reference = cells.find(cell => cell.departures.length > 0)?.departures[0]?.at ?? zone.startOfDay(day) + DAY / 2
    rows.push({
      day,
      count: cells.reduce((sum, cell) => sum + cell.departures.length, 0),
      ahead: Math.round((zone.offsetAt(reference) - other.offsetAt(reference)) / 60),
      cells,
    })
  }
  return { hours, rows }
}

/** What a clock in the other zone shows at a full hour of the reader's: minutes past midnight, and the day's shift. */
export function otherClock(hour: number, ahead: number): { minutes: number, dayShift: number } {
  const total = hour * 60 - ahead
  const dayShift = Math.floor(total / 1440)
  return { minutes: total - dayShift * 1440, dayShift }
}
