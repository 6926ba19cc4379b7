import { randomUUID } from 'node:crypto'
import { Temporal } from 'temporal-polyfill'
import { z } from 'zod'
import { entryText } from './objects'
import { makeCalendar, type StoredAccount, type StoredCalendar } from './store'

/** Accounts that exist from the start, with entries laid around today. */

const time = z.string().regex(/^\d\d:\d\d$/)

const entrySchema = z.strictObject({
  title: z.string(),
  /** Days from today. */
  day: z.int(),
  /** Of one day, in the account's zone; without times it is of whole days. */
  from: time.optional(),
  to: time.optional(),
  days: z.int().positive().default(1),
  rule: z.string().optional(),
  status: z.enum(['CONFIRMED', 'TENTATIVE', 'CANCELLED']).optional(),
  isFree: z.boolean().default(false),
  /** Occurrences that do not take place, and those that take place at another time, by their number from 0, in weeks. */
  without: z.array(z.int()).default([]),
  moved: z.array(z.strictObject({ week: z.int(), day: z.int(), from: time, to: time })).default([]),
})

export const accountsSchema = z.array(z.strictObject({
  user: z.string(),
  password: z.string(),
  name: z.string(),
  email: z.string(),
  timeZone: z.string(),
  calendars: z.array(z.strictObject({
    name: z.string(), colour: z.string(), readOnly: z.boolean().default(false), entries: z.array(entrySchema),
  })),
}))
type SeedEntry = z.output<typeof entrySchema>

export function seedAccounts(accounts: z.output<typeof accountsSchema>): StoredAccount[] {
  return accounts.map(({ calendars, ...account }) => ({
    ...account,
    calendars: calendars.map(({ name, colour, readOnly, entries }) => {
      const calendar = makeCalendar(name, colour, readOnly)
      for (const entry of entries) addEntry(calendar, entry, account.timeZone)
      return calendar
    }),
  }))
}

/** Without a store: nothing of it has been saved yet. */
function addEntry(calendar: StoredCalendar, entry: SeedEntry, timeZone: string): void {
  const uid = randomUUID()
  const name = `${uid}.ics`
  calendar.objects[name] = { name, uid, etag: `"${uid.slice(0, 8)}"`, text: textOf(uid, entry, timeZone) }
  calendar.log.push(name)
}

function textOf(uid: string, entry: SeedEntry, timeZone: string): string {
  const today = Temporal.Now.plainDateISO(timeZone)
  const day = (days: number) => today.add({ days }).toString().replaceAll('-', '')
  const at = (days: number, clock: string) => `${day(days)}T${clock.replace(':', '')}00`
  const { from, to } = entry
  const span = (days: number, begin = from, end = to) => (begin && end
    ? [`DTSTART;TZID=${timeZone}:${at(days, begin)}`, `DTEND;TZID=${timeZone}:${at(days, end)}`]
    : [`DTSTART;VALUE=DATE:${day(days)}`, `DTEND;VALUE=DATE:${day(days + entry.days)}`])
  return entryText({
    uid,
    title: entry.title,
    lines: [
      ...span(entry.day),
      ...(entry.rule ? [`RRULE:${entry.rule}`] : []),
      ...entry.without.map(week => `EXDATE;TZID=${timeZone}:${at(entry.day + 7 * week, from ?? '00:00')}`),
      ...(entry.status ? [`STATUS:${entry.status}`] : []),
      ...(entry.isFree ? ['TRANSP:TRANSPARENT'] : []),
    ],
    overrides: entry.moved.map(({ week, day: days, from: begin, to: end }) => [
      `RECURRENCE-ID;TZID=${timeZone}:${at(entry.day + 7 * week, from ?? '00:00')}`, ...span(days, begin, end),
    ]),
  })
}
