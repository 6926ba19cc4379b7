import { nextClockChange, formatDay, formatHourCount, formatZone } from '../time/format'

/** A sentence on a clock change between now and the session in either zone, or null. */
export function describeClockChange(zones: readonly string[], now: number, start: number, locale: string): string | null {
  for (const zone of new Set(zones)) {
    const change = nextClockChange(zone, now, start)
    if (change) {
      return `${formatZone(zone)} moves its clocks ${change.minutes > 0 ? 'forward' : 'back'} by ${formatHourCount(Math.abs(change.minutes)).replace('1 hour', 'an hour')} on ${formatDay(change.at, zone, locale)}; the times here already take that into account.`
    }
  }
  return null
}
