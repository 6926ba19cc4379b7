import { z } from 'zod'
import { parseClock, parseDate, parseInstant, weekdays } from '../time/civil'
import { isZoneName } from '../time/zone'
import { fault, faultIssue, noRepeats } from '../validation'
import { queryLimits } from './limits'
import { ruleFault } from './rule'

/** The public case format of an openings query, version 1. Instants are RFC 3339 UTC, dates are local. */

const text = z.string()
const instant = text.refine(value => parseInstant(value) !== null, fault('instant'))
  .meta({ description: 'RFC 3339, UTC, whole seconds', pattern: '^\\d{4}-\\d{2}-\\d{2}T\\d{2}:\\d{2}:\\d{2}Z$' })
const date = text
  .refine(value => parseDate(value) !== null, fault('date'))
  .meta({ pattern: '^\\d{4}-\\d{2}-\\d{2}$' })
const clock = text
  .refine(value => parseClock(value) !== null, fault('timeOfDay'))
  .meta({ pattern: '^([01]\\d|2[0-3]):[0-5]\\d$' })
const clockEnd = text.refine(value => parseClock(value, true) !== null, fault('endTime'))
  .meta({ pattern: '^(([01]\\d|2[0-3]):[0-5]\\d|24:00)$' })
export const zoneName = text
  .refine(isZoneName, fault('timeZone'))
  .meta({ description: 'IANA name of a time zone' })
const id = text
  .min(1)
  .max(queryLimits.idCharacters)
  .refine(value => value !== '__proto__', fault('reservedName'))
const whole = (least: number, most: number) => z.int().min(least).max(most)
const limit = whole(1, 1000).nullable()
const totalLimit = whole(1, queryLimits.totalLimit).nullable().default(null)

/** A list of at most so many entries, and where `least` is 1, of at least one. */
function listOf<Entry extends z.ZodType>(entry: Entry, what: keyof typeof queryLimits.list, least = 0) {
  const most = queryLimits.list[what]
  return z.array(entry).min(least).max(most)
}

export const windowSchema = z
  .strictObject({ from: clock, to: clockEnd })
  .refine(isForward, { path: ['to'], message: fault('windowOrder') })

const weeklyWindowSchema = z
  .strictObject({ days: listOf(z.enum(weekdays), 'days', 1), from: clock, to: clockEnd })
  .refine(isForward, { path: ['to'], message: fault('windowOrder') })

const recurringWindowSchema = z
  .strictObject({
    rrule: text.superRefine((rule, context) => {
      const found = ruleFault(rule)
      if (found) context.addIssue(faultIssue([], found.code, found.values))
    }),
    start: date,
    from: clock,
    to: clockEnd,
  })
  .refine(isForward, { path: ['to'], message: fault('windowOrder') })

const datesSchema = { from: date.nullable(), to: date.nullable() }
const datesInOrder = (dates: { from: string | null, to: string | null }) =>
  dates.from === null || dates.to === null || dates.from <= dates.to

export const hoursPlanSchema = z.strictObject({
  timeZone: zoneName,
  weekly: listOf(weeklyWindowSchema, 'weekly'),
  recurring: listOf(recurringWindowSchema, 'recurring'),
  exceptions: listOf(z.strictObject({ date, windows: listOf(windowSchema, 'windows') }), 'exceptions').superRefine(noRepeats('date')),
  valid: z.strictObject(datesSchema).refine(datesInOrder, { path: ['to'], message: fault('dateOrder') }),
})
export type HoursPlan = z.infer<typeof hoursPlanSchema>

const rollingDays = whole(0, 3660)
/** How far ahead, but for what counts as a holiday, which people name by calendars and the engine by dates. */
export const horizonKinds = {
  open: z.strictObject({ kind: z.literal('open') }),
  rolling: z.strictObject({ kind: z.literal('rolling'), days: rollingDays }),
  rollingWorkingDays: z.strictObject({ kind: z.literal('rollingWorkingDays'), days: rollingDays }),
  dates: z.strictObject({ kind: z.literal('dates'), ...datesSchema }).refine(datesInOrder, { path: ['to'], message: fault('dateOrder') }),
} as const

const horizonSchema = z.discriminatedUnion('kind', [
  horizonKinds.open,
  horizonKinds.rolling,
  horizonKinds.rollingWorkingDays.extend({ holidays: listOf(date, 'holidays') }),
  horizonKinds.dates,
])
export type Horizon = z.infer<typeof horizonSchema>

const intervalSchema = z
  .strictObject({ start: instant, end: instant })
  .refine(notBackward, { path: ['end'], message: fault('spanOrder') })

const eventTypeSchema = z.strictObject({
  timeZone: zoneName,
  durationMinutes: whole(1, 1440),
  startEveryMinutes: whole(1, 1440),
  bufferBeforeMinutes: whole(0, 1440),
  bufferAfterMinutes: whole(0, 1440),
  leadTimeMinutes: whole(0, 525_600),
  horizon: horizonSchema,
  dailyLimit: limit,
  weeklyLimit: limit,
  totalDailyLimit: totalLimit,
  totalWeeklyLimit: totalLimit,
  seats: whole(1, 1000),
  chairs: listOf(z.strictObject({ id, hosts: listOf(id, 'hosts', 1).superRefine(noRepeats()) }), 'chairs', 1).superRefine(noRepeats('id')),
})

const sessionSchema = z
  .strictObject({
    id,
    start: instant,
    end: instant,
    bufferBeforeMinutes: whole(0, 1440),
    bufferAfterMinutes: whole(0, 1440),
    sameEventType: z.boolean(),
    seatsTaken: whole(0, 1000),
  })
  .refine(session => session.start < session.end, { path: ['end'], message: fault('spanOrder') })

const hostSchema = z.strictObject({
  id,
  plans: listOf(hoursPlanSchema, 'plans', 1),
  busy: listOf(intervalSchema, 'busy'),
  sessions: listOf(sessionSchema, 'sessions'),
})

const openedOverSchema = z
  .strictObject({ start: instant, end: instant, hosts: listOf(id, 'hosts', 1) })
  .refine(notBackward, { path: ['end'], message: fault('spanOrder') })

export const querySchema = z
  .strictObject({
    version: z.literal(1),
    now: instant,
    from: instant,
    to: instant,
    eventType: eventTypeSchema,
    hosts: listOf(hostSchema, 'hosts', 1).superRefine(noRepeats('id')),
    openedOver: listOf(openedOverSchema, 'openedOver'),
    explain: listOf(instant, 'explain').optional(),
  })
  .refine(query => query.from <= query.to, { path: ['to'], message: fault('spanOrder') })
  .superRefine((query, context) => {
    const known = new Set(query.hosts.map(host => host.id))
    const check = (hosts: string[], path: (string | number)[]) =>
      hosts.forEach((host, index) => {
        if (!known.has(host)) context.addIssue(faultIssue([...path, index], 'unknownHost', { name: host }))
      })
    query.eventType.chairs.forEach((chair, index) => check(chair.hosts, ['eventType', 'chairs', index, 'hosts']))
    query.openedOver.forEach((entry, index) => check(entry.hosts, ['openedOver', index, 'hosts']))
  })

export type OpeningsQuery = z.infer<typeof querySchema>

function isForward(window: { from: string, to: string }): boolean {
  return (parseClock(window.to, true) ?? 1440) > (parseClock(window.from) ?? 0)
}

function notBackward(interval: { start: string, end: string }): boolean {
  return interval.start <= interval.end
}
