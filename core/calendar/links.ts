import { z } from 'zod'
import { fault } from '../validation'

/** Links by which clients put a session into a calendar on the web, as a workspace writes them for the calendars it knows. */

/** What stands in braces in an address. Times are in UTC as in calendar files: 20270329T093000Z. */
export const calendarLinkFields = ['title', 'start', 'end', 'place'] as const
export type CalendarLinkValues = Record<(typeof calendarLinkFields)[number], string>

export const calendarLinkSchema = z.strictObject({
  name: z.string().trim().min(1).max(60),
  address: z.string().trim().max(1000).refine(isSound, fault('calendarLink')),
})
export const calendarLinksSchema = z.array(calendarLinkSchema).max(5)
export type CalendarLink = z.infer<typeof calendarLinkSchema>

/** A web address that leads to the same server whatever it is filled with, holds the start, and knows every field it names. */
function isSound(address: string): boolean {
  const fill = (value: string) => fillCalendarLink(address, { title: value, start: value, end: value, place: value })
  const [one, other] = [fill('one'), fill('other')]
  if (!one.startsWith('https://') || /[{}]/.test(one) || !address.includes('{start}')) return false
  return URL.canParse(one) && URL.canParse(other) && new URL(one).origin === new URL(other).origin
}

export function fillCalendarLink(address: string, values: CalendarLinkValues): string {
  return address.replace(/\{(title|start|end|place)\}/g, (_, field: keyof CalendarLinkValues) => encodeURIComponent(values[field]))
}
