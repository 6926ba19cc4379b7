import { z } from 'zod'
import { fault, type InputFault } from '../validation'
import { hoursPlanSchema, type HoursPlan } from '../openings/schema'
import { countedDays } from '../openings/query-size'

/** An hours plan as people keep it: the engine's plan, and the holiday calendars whose days it is closed on. */

export const calendarSchema = z.strictObject({
  /** ISO 3166-1 alpha-2. */
  country: z.string().regex(/^[A-Z]{2}$/, fault('country')),
  /** A part of the country, without the country before it; null for the whole. */
  region: z.string().regex(/^[A-Z0-9]{1,10}$/, fault('region')).nullable(),
})
export type HolidayCalendar = z.infer<typeof calendarSchema>

export const storedPlanSchema = hoursPlanSchema.extend({
  holidays: z.array(calendarSchema).max(5).default([]),
})
export type StoredPlan = z.infer<typeof storedPlanSchema>

/** Bounds of a plan that clients' pages are computed from, far beyond what people have. */
const most = { weekly: 200, recurring: 20, exceptions: 2000 } as const
/** Days over which windows that end after a number of times are followed from their start, all of a plan together. */
const MOST_COUNTED_DAYS = 15_000
const AHEAD_DAYS = 366

/** Which part of a plan is too large to be saved, or null. `today` in days since 1970-01-01. */
export function planFault(plan: StoredPlan, today: number): InputFault | null {
  for (const path of ['weekly', 'recurring', 'exceptions'] as const) {
    if (plan[path].length > most[path]) return { path, code: 'tooMany', values: { most: most[path] } }
  }
  if (countedDays(plan.recurring, today + AHEAD_DAYS) <= MOST_COUNTED_DAYS) return null
  return { path: 'recurring', code: 'countedTooFarBack', values: {} }
}

export const holidaySchema = z.strictObject({ date: z.iso.date(), name: z.string() })
export type Holiday = z.infer<typeof holidaySchema>

/** The holidays of calendars, by `calendarKey`. */
export const holidayDatesSchema = z.record(z.string(), z.array(holidaySchema))
export type HolidayDates = z.infer<typeof holidayDatesSchema>

export function calendarKey({ country, region }: HolidayCalendar): string {
  return region === null ? country : `${country}-${region}`
}

/** The dates of calendars, ascending and each once. */
export function holidaysOf(calendars: readonly HolidayCalendar[], dates: HolidayDates): string[] {
  return [...new Set(calendars.flatMap(calendar => dates[calendarKey(calendar)] ?? []).map(holiday => holiday.date))].sort()
}

/** What the engine computes with: each holiday is an exception without windows, unless the plan says otherwise for its date. */
export function enginePlan({ holidays, ...plan }: StoredPlan, dates: HolidayDates): HoursPlan {
  if (holidays.length === 0) return plan
  const ownDates = new Set(plan.exceptions.map(exception => exception.date))
  const closed = holidaysOf(holidays, dates).filter(date => !ownDates.has(date))
  return { ...plan, exceptions: [...plan.exceptions, ...closed.map(date => ({ date, windows: [] }))] }
}

export function plainPlan(timeZone: string, weekly: HoursPlan['weekly']): StoredPlan {
  return { timeZone, weekly, recurring: [], exceptions: [], valid: { from: null, to: null }, holidays: [] }
}
