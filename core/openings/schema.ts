import { z } from 'zod'
import { parseClock, parseDate, parseInstant, weekdays } from '../time/civil'
import { isZoneName } from '../time/zone'
import { ruleFault } from './recurring'

/** The public case format of an openings query, version 1. Instants are RFC 3339 UTC, dates are local. */

const instant = z.string().refine(text => parseInstant(text) !== null, 'Expected an instant such as 2027-03-08T09:12:00Z')
const date = z.string().refine(text => parseDate(text) !== null, 'Expected a date such as 2027-03-08')
const clock = z.string().refine(text => parseClock(text) !== null, 'Expected a time of day such as 09:30')
const clockEnd = z.string().refine(text => parseClock(text, true) !== null, 'Expected a time of day such as 17:00, at most 24:00')
export const zoneName = z.string().refine(isZoneName, 'Expected the IANA name of a time zone, such as Europe/Lisbon')
const id = z.string().min(1, 'Expected a name of at least one character')
const minutes = (least: number, most: number) => z.int().min(least).max(most)
const limit = z.int().min(1).max(1000).nullable()

export const windowSchema = z
  .strictObject({ from: clock, to: clockEnd })
  .refine(isForward, { path: ['to'], message: 'A window must end after it starts; write hours across midnight as two windows' })

const weeklyWindowSchema = z
  .strictObject({ days: z.array(z.enum(weekdays)).min(1, 'Expected at least one day'), from: clock, to: clockEnd })
  .refine(isForward, { path: ['to'], message: 'A window must end after it starts; write hours across midnight as two windows' })

const recurringWindowSchema = z
  .strictObject({
    rrule: z.string().superRefine((text, context) => {
      const fault = ruleFault(text)
      if (fault) context.addIssue({ code: 'custom', message: fault })
    }),
    start: date,
    from: clock,
    to: clockEnd,
  })
  .refine(isForward, { path: ['to'], message: 'A window must end after it starts; write hours across midnight as two windows' })

const datesSchema = { from: date.nullable(), to: date.nullable() }
const datesInOrder = (dates: { from: string | null, to: string | null }) =>
  dates.from === null || dates.to === null || dates.from <= dates.to

export const hoursPlanSchema = z.strictObject({
  timeZone: zoneName,
  weekly: z.array(weeklyWindowSchema),
  recurring: z.array(recurringWindowSchema),
  exceptions: z.array(z.strictObject({ date, windows: z.array(windowSchema) })).superRefine(noRepeats('date')),
  valid: z.strictObject(datesSchema).refine(datesInOrder, { path: ['to'], message: 'The last date must not be before the first' }),
})
export type HoursPlan = z.infer<typeof hoursPlanSchema>

export const horizonSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('open') }),
  z.strictObject({ kind: z.literal('rolling'), days: z.int().min(0).max(3660) }),
  z.strictObject({ kind: z.literal('rollingWorkingDays'), days: z.int().min(0).max(3660), holidays: z.array(date) }),
  z.strictObject({ kind: z.literal('dates'), ...datesSchema })
    .refine(datesInOrder, { path: ['to'], message: 'The last date must not be before the first' }),
])
export type Horizon = z.infer<typeof horizonSchema>

const intervalSchema = z
  .strictObject({ start: instant, end: instant })
  .refine(notBackward, { path: ['end'], message: 'The end must not be before the start' })

const eventTypeSchema = z.strictObject({
  timeZone: zoneName,
  durationMinutes: minutes(1, 1440),
  startEveryMinutes: minutes(1, 1440),
  bufferBeforeMinutes: minutes(0, 1440),
  bufferAfterMinutes: minutes(0, 1440),
  leadTimeMinutes: minutes(0, 525_600),
  horizon: horizonSchema,
  dailyLimit: limit,
  weeklyLimit: limit,
  seats: z.int().min(1).max(1000),
  chairs: z
    .array(z.strictObject({ id, hosts: z.array(id).min(1, 'Expected at least one host').superRefine(noRepeats()) }))
    .min(1, 'Expected at least one chair')
    .superRefine(noRepeats('id')),
})

const sessionSchema = z
  .strictObject({
    id,
    start: instant,
    end: instant,
    bufferBeforeMinutes: minutes(0, 1440),
    bufferAfterMinutes: minutes(0, 1440),
    sameEventType: z.boolean(),
    seatsTaken: z.int().min(0).max(1000),
  })
  .refine(session => session.start < session.end, { path: ['end'], message: 'A session must end after it starts' })

const hostSchema = z.strictObject({
  id,
  plans: z.array(hoursPlanSchema).min(1, 'Expected at least one hours plan'),
  busy: z.array(intervalSchema),
  sessions: z.array(sessionSchema),
})

const openedOverSchema = z
  .strictObject({ start: instant, end: instant, hosts: z.array(id).min(1, 'Expected at least one host') })
  .refine(notBackward, { path: ['end'], message: 'The end must not be before the start' })

export const querySchema = z
  .strictObject({
    version: z.literal(1),
    now: instant,
    from: instant,
    to: instant,
    eventType: eventTypeSchema,
    hosts: z.array(hostSchema).min(1, 'Expected at least one host').superRefine(noRepeats('id')),
    openedOver: z.array(openedOverSchema),
    explain: z.array(instant).optional(),
  })
  .refine(query => query.from <= query.to, { path: ['to'], message: 'The end of the span must not be before its start' })
  .superRefine((query, context) => {
    const known = new Set(query.hosts.map(host => host.id))
    const check = (hosts: string[], path: (string | number)[]) =>
      hosts.forEach((host, index) => {
        if (!known.has(host)) context.addIssue({ code: 'custom', path: [...path, index], message: `No host of the query is called ${host}` })
      })
    query.eventType.chairs.forEach((chair, index) => check(chair.hosts, ['eventType', 'chairs', index, 'hosts']))
    query.openedOver.forEach((entry, index) => check(entry.hosts, ['openedOver', index, 'hosts']))
  })

export type OpeningsQuery = z.infer<typeof querySchema>
export type QueryHost = OpeningsQuery['hosts'][number]

/** A query that does not fit the format; `path` is the JSON path of the first fault. */
export class CaseError extends Error {
  constructor(readonly path: string, message: string) {
    super(message)
    this.name = 'CaseError'
  }
}

/** Checks a value against the format. Throws CaseError. */
export function parseQuery(value: unknown): OpeningsQuery {
  const result = querySchema.safeParse(value)
  if (result.success) return result.data
  const issue = result.error.issues[0]
  if (!issue) throw new CaseError('$', 'Not a query')
  const path = issue.code === 'unrecognized_keys' ? [...issue.path, issue.keys[0] ?? ''] : issue.path
  const message = issue.code === 'unrecognized_keys' ? 'No such member belongs here' : issue.message
  throw new CaseError(jsonPath(path), message)
}

/** Reads a query from JSON text. Throws CaseError, with path `$` for text that is not JSON. */
export function readQuery(text: string): OpeningsQuery {
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch {
    throw new CaseError('$', 'The text is not JSON')
  }
  return parseQuery(value)
}

export function jsonPath(path: readonly PropertyKey[]): string {
  return path.reduce<string>((text, step) => text + (typeof step === 'number' ? `[${step}]` : `.${String(step)}`), '$')
}

function isForward(window: { from: string, to: string }): boolean {
  return (parseClock(window.to, true) ?? 1440) > (parseClock(window.from) ?? 0)
}

function notBackward(interval: { start: string, end: string }): boolean {
  return interval.start <= interval.end
}

/** Refuses the second of two equal entries, by themselves or by one of their members. */
function noRepeats(member?: string) {
  return (entries: readonly unknown[], context: z.RefinementCtx) => {
    const seen = new Set<unknown>()
    entries.forEach((entry, index) => {
      const key = member && typeof entry === 'object' && entry !== null ? Reflect.get(entry, member) : entry
      if (seen.has(key)) {
        context.addIssue({ code: 'custom', path: member ? [index, member] : [index], message: `${String(key)} stands here twice` })
      }
      seen.add(key)
    })
  }
}
