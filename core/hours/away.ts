import { z } from 'zod'
import type { HoursPlan } from '../openings'
import { dateToDays, formatDate, weekdays } from '../time/civil'
import { dateSchema } from '../time/instant-schema'
import { fault } from '../validation'

/** Stretches of days on which a host is away, whatever hours plan applies. Days are those of the host's zone. */

const MOST_STRETCHES = 100
const MOST_DAYS = 366

export const awayDatesSchema = z.strictObject({
  from: dateSchema,
  /** The last day, inclusive. */
  to: dateSchema,
  /** For the team only. */
  note: z.string().trim().max(100).default(''),
})
  .refine(({ from, to }) => from <= to, { path: ['to'], message: fault('dateOrder') })
  .refine(({ from, to }) => dateToDays(to) - dateToDays(from) < MOST_DAYS, { path: ['to'], message: fault('awayTooLong') })
export type AwayDates = z.infer<typeof awayDatesSchema>

export const awaySchema = z.array(awayDatesSchema).max(MOST_STRETCHES)

/** The dates of some stretches from `first` to `last` (days since 1970-01-01, inclusive), ascending and each once. */
export function awayDays(away: readonly AwayDates[], first: number, last: number): number[] {
  const days = new Set<number>()
  for (const { from, to } of away) {
    for (let day = Math.max(first, dateToDays(from)); day <= Math.min(last, dateToDays(to)); day++) days.add(day)
  }
  return [...days].sort((a, b) => a - b)
}

/**
 * A plan that is open at all times but the days away, which the engine intersects with whatever else applies; null where no
 * day from `first` to `last` is one.
 */
export function awayPlan(away: readonly AwayDates[], timeZone: string, first: number, last: number): HoursPlan | null {
  const days = awayDays(away, first, last)
  if (days.length === 0) return null
  return {
    timeZone,
    weekly: [{ days: [...weekdays], from: '00:00', to: '24:00' }],
    recurring: [],
    exceptions: days.map(day => ({ date: formatDate(day), windows: [] })),
    valid: { from: null, to: null },
  }
}

/** The last day of the stretch that a host is away in on a day, be it made up of several that touch; null where they are not. */
export function awayUntil(away: readonly AwayDates[], day: number): string | null {
  let last: number | null = null
  for (const { from, to } of [...away].sort((a, b) => a.from.localeCompare(b.from))) {
    if (dateToDays(from) <= (last === null ? day : last + 1) && dateToDays(to) >= day) last = Math.max(last ?? day, dateToDays(to))
  }
  return last === null ? null : formatDate(last)
}
