import { z } from 'zod'
import { zoneName } from '../openings'
import { fault } from '../validation'
import { accountKinds, accountStates } from './calendar-account'

/** Hosts' calendars at the desk, as `docs/http.md` promises them to other programs too. */

const text = z.string()

export const calendarViewSchema = z.strictObject({
  id: text,
  name: text,
  writable: z.boolean(),
  blocks: z.boolean(),
  receives: z.boolean(),
  /** Event types whose sessions it receives although another calendar receives the rest. */
  receivesFor: z.array(text),
  countsAllDay: z.boolean(),
  countsUnconfirmed: z.boolean(),
  /** What the host set for floating times and whole days; null for what the calendar says. */
  timeZone: text.nullable(),
  /** When it was last read, RFC 3339; null before the first time. */
  lastLook: z.iso.datetime().nullable(),
  /** It is no longer on its server. */
  isGone: z.boolean(),
  entries: z.int(),
  /** What could not be read, and why; at most 50 of them. */
  unread: z.array(z.strictObject({ uid: text, why: text })),
})
export type CalendarView = z.infer<typeof calendarViewSchema>

export const accountViewSchema = z.strictObject({
  id: text,
  hostId: text,
  kind: z.enum(accountKinds),
  label: text,
  state: z.enum(accountStates),
  fault: text.optional(),
  /** Since when no look has succeeded, RFC 3339. */
  failingSince: z.iso.datetime().nullable(),
  calendars: z.array(calendarViewSchema),
})
export type AccountView = z.infer<typeof accountViewSchema>

export const accountsViewSchema = z.strictObject({ accounts: z.array(accountViewSchema) })

/** What takes a host's time, ascending. Instants in seconds. */
export const takenViewSchema = z.strictObject({
  times: z.array(z.strictObject({
    start: z.number(),
    end: z.number(),
    /** The calendar's name; null for a session. */
    calendar: text.nullable(),
    /** Of calendar entries only for the host. */
    title: text.nullable(),
    isWholeDay: z.boolean(),
  })),
})
export type TakenView = z.infer<typeof takenViewSchema>

const LONGEST_SPAN = 3 * 86_400
export const takenSpanSchema = z.object({ from: z.coerce.number().int(), to: z.coerce.number().int() })
  .refine(({ from, to }) => to > from && to - from <= LONGEST_SPAN, fault('dateOrder'))

/** Where an address leads to. */
export const discoveredSchema = z.strictObject({ host: text, url: text })

const address = z.string().trim().min(1).max(2000)

export const newAccountSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('caldav'), hostId: z.uuid(), address, user: z.string().min(1).max(300), password: z.string().min(1).max(1000) }),
  z.strictObject({ kind: z.literal('feed'), hostId: z.uuid(), address }),
])
export type NewAccount = z.infer<typeof newAccountSchema>

/** The fields beside an uploaded file. */
export const uploadedFileSchema = z.object({ hostId: z.uuid(), name: z.string().trim().min(1).max(120) })

export const calendarChangeSchema = z.strictObject({
  blocks: z.boolean().optional(),
  receives: z.boolean().optional(),
  receivesFor: z.array(z.uuid()).max(500).optional(),
  countsAllDay: z.boolean().optional(),
  countsUnconfirmed: z.boolean().optional(),
  timeZone: zoneName.nullable().optional(),
})
export type CalendarChange = z.infer<typeof calendarChangeSchema>
