import { nextClockChange, sayDay, sayHours, sayZone } from '../time/say'

/** A sentence on a clock change between now and the session in either zone, or null. */
export function sayClockChange(zones: readonly string[], now: number, start: number, locale: string): string | null {
  for (const zone of new Set(zones)) {
    const change = nextClockChange(zone, now, start)
    if (change) {
      return `${sayZone(zone)} moves its clocks ${change.minutes > 0 ? 'forward' : 'back'} by ${sayHours(Math.abs(change.minutes)).replace('1 hour', 'an hour')} on ${sayDay(change.at, zone, locale)}; the times here already take that into account.`
    }
  }
  return null
}
