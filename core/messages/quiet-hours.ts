import { z } from 'zod'
import { DAY, MINUTE, parseClock } from '../time/civil'
import { zoneOf } from '../time/zone'
import { fault, faultIssue } from '../validation'

/** Hours of the day in which nobody is sent a phone text, by the clock where its reader is. */

const timeOfDay = z.string().max(10).refine(text => parseClock(text) !== null, fault('timeOfDay'))

export const quietHoursSchema = z.strictObject({ from: timeOfDay, to: timeOfDay }).superRefine(({ from, to }, context) => {
  if (from === to) context.addIssue(faultIssue(['to'], 'quietHoursEmpty', {}))
})
/** From a time of day to another, over midnight where that is the earlier one. */
export type QuietHours = z.infer<typeof quietHoursSchema>

export const PRESET_QUIET_HOURS: QuietHours = { from: '21:00', to: '08:00' }

/** The quiet hours that an instant lies in; null where there are none. All in seconds. */
function quietAround(at: number, quiet: QuietHours | null, zone: string): { start: number, end: number } | null {
  if (!quiet) return null
  const { dayOf, toInstant } = zoneOf(zone)
  const [from, to] = [secondsInto(quiet.from), secondsInto(quiet.to)]
  const today = dayOf(at)
  for (const day of [today - 1, today]) {
    const start = toInstant(day * DAY + from)
    const end = toInstant((to > from ? day : day + 1) * DAY + to)
    if (start <= at && at < end) return { start, end }
  }
  return null
}

const secondsInto = (clock: string) => (parseClock(clock) ?? 0) * MINUTE

/** Until when a text that is due waits; null where it may go out at once. Instants in seconds. */
export function quietUntil(at: number, quiet: QuietHours | null, zone: string): number | null {
  return quietAround(at, quiet, zone)?.end ?? null
}

/** So long before quiet hours one is sent that would come too late after them, so that it is out in time. */
const AHEAD = 10 * MINUTE

/** When a text that is due at an instant is sent: once the quiet hours are over, or before them where that would be after `latest`. */
export function outsideQuietHours(at: number, latest: number, quiet: QuietHours | null, zone: string): number {
  const around = quietAround(at, quiet, zone)
  if (!around) return at
  return around.end < latest ? around.end : around.start - AHEAD
}
