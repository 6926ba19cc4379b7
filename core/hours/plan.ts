import { z } from 'zod'
import { hoursPlanSchema, type HoursPlan } from '../openings'

/** An hours plan as people keep it: the engine's plan, and the holiday calendars whose days it is closed on. */

export const calendarSchema = z.strictObject({
  /** ISO 3166-1 alpha-2. */
  country: z.string().regex(/^[A-Z]{2}$/, 'Expected a country such as PT'),
  /** A part of the country, without the country before it; null for the whole. */
  region: z.string().regex(/^[A-Z0-9]{1,10}$/, 'Expected a region').nullable(),
})
export type HolidayCalendar = z.infer<typeof calendarSchema>

export const keptPlanSchema = hoursPlanSchema.extend({
  holidays: z.array(calendarSchema).max(5, 'At most 5 holiday calendars').default([]),
})
export type KeptPlan = z.infer<typeof keptPlanSchema>

export interface Holiday {
  date: string
  name: string
}

/** The holidays of calendars, by `calendarKey`. */
export type HolidayDates = Readonly<Record<string, readonly Holiday[]>>

export function calendarKey({ country, region }: HolidayCalendar): string {
  return region === null ? country : `${country}-${region}`
}

/** What the engine computes with: each holiday is an exception without windows, unless the plan says otherwise for its date. */
export function enginePlan({ holidays, ...plan }: KeptPlan, dates: HolidayDates): HoursPlan {
  if (holidays.length === 0) return plan
  const said = new Set(plan.exceptions.map(exception => exception.date))
  const closed = new Set(holidays.flatMap(calendar => dates[calendarKey(calendar)] ?? []).map(holiday => holiday.date).filter(date => !said.has(date)))
  return { ...plan, exceptions: [...plan.exceptions, ...[...closed].sort().map(date => ({ date, windows: [] }))] }
}

export function plainPlan(timeZone: string, weekly: HoursPlan['weekly']): KeptPlan {
  return { timeZone, weekly, recurring: [], exceptions: [], valid: { from: null, to: null }, holidays: [] }
}
