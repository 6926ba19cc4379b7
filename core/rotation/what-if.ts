import { type HostTime, hostTimeSchema, sentHostTimeSchema } from '../event-type/host-time'
import { type Chair, chairPolicies, queryFor, settingsSchema } from '../event-type/settings'
import { answerWithin, type EngineSession, type HoursPlan } from '../openings'
import { ableAt } from '../openings/able-at'
import { holidayDatesSchema } from '../hours/plan'
import { DAY, formatInstant, instantToSeconds, MINUTE } from '../time/civil'
import { z } from 'zod'
import { poolAfter, type PoolHost } from '.'
import { assign } from './chairs'

/**
 * What if: the bookings of a time that is over, assigned once more in the order in which they came, with other
 * hosts, weights or hours. Hosts are able by their hours and by what else they had then; the pool's own sessions are laid anew.
 */

const text = z.string()
const instant = z.int()

export const pastBookingSchema = z.strictObject({
  eventTypeId: text,
  /** When it was booked, and when the session began; seconds. */
  at: instant,
  start: instant,
  minutes: z.int(),
  bufferBeforeMinutes: z.int(),
  bufferAfterMinutes: z.int(),
  /** Whom the client picked. */
  chosen: text.nullable(),
  /** Who had it. */
  host: text,
})
export type PastBooking = z.infer<typeof pastBookingSchema>

export const whatIfDataSchema = z.strictObject({
  now: instant,
  from: instant,
  /** How many of the last days are played. */
  days: z.int(),
  policy: z.enum(chairPolicies),
  /** The pool as it is. */
  pool: z.array(z.strictObject({ id: text, weight: z.number() })),
  /** All hosts of the workspace. */
  hosts: z.array(z.strictObject({ id: text, name: text, timeZone: text })),
  /** The hours of those who are in the pool or asked for, and what they had beside the pool's sessions. */
  time: z.array(hostTimeSchema),
  eventTypes: z.array(z.strictObject({ id: text, settings: settingsSchema, holidays: holidayDatesSchema })),
  /** In the order in which they were booked. */
  bookings: z.array(pastBookingSchema),
})
export type WhatIfData = z.infer<typeof whatIfDataSchema>
/** The same as it is sent. */
export const sentWhatIfSchema = whatIfDataSchema.extend({ time: z.array(sentHostTimeSchema) })
export type SentWhatIf = z.infer<typeof sentWhatIfSchema>

export interface WhatIfHost {
  id: string
  weight: number
  /** Weekly hours that are tried instead of those of all the host's plans. */
  weekly?: HoursPlan['weekly'] | undefined
}

export interface WhatIfResult {
  /** Sessions by host. */
  had: Record<string, number>
  /** Bookings that nobody could have taken. */
  impossible: number
  /** Openings in a week on average, and seconds from a client’s booking to the soonest start; null where there was none. */
  openingsAWeek: number | null
  soonestStart: number | null
}

/** Bookings at whose moment the soonest start is looked for, at most. */
const MOST_LOOKS = 40
const LOOK_DAYS = 14
const MOST_OPENINGS = 20_000

function withWeekly(host: HostTime, weekly: HoursPlan['weekly'] | undefined): HostTime {
  return weekly ? { ...host, plans: host.plans.map(item => ({ ...item, plan: { ...item.plan, weekly } })) } : host
}

/** Plays the bookings with a pool of some hosts. */
export function playWhatIf(data: WhatIfData, hosts: readonly WhatIfHost[]): WhatIfResult {
  const had: Record<string, number> = Object.fromEntries(hosts.map(host => [host.id, 0]))
  const tried = new Map(hosts.map(host => [host.id, host.weekly]))
  const time = new Map(data.time.map(host => [host.id, withWeekly(host, tried.get(host.id))]))
  const laid = new Map<string, (Omit<EngineSession, 'sameEventType'> & { eventTypeId: string })[]>()
  const eventTypes = new Map(data.eventTypes.map(eventType => [eventType.id, eventType]))
  const chair: Chair = { id: 'pool', name: '', policy: data.policy, groups: [], hosts: hosts.map(({ id, weight }) => ({ id, name: '', weight })) }
  let pool: PoolHost[] = hosts.map(({ id, weight }) => ({ host: id, weight, credit: 0, assignedAt: null }))
  let impossible = 0
  const waits: number[] = []
  const step = Math.max(1, Math.ceil(data.bookings.length / MOST_LOOKS))

  const timesFor = (eventTypeId: string) => hosts.map(({ id }) => {
    const known = time.get(id) ?? { id, plans: [], away: null, taken: [], sessions: [] }
    const own = (laid.get(id) ?? []).map(({ eventTypeId: of, ...session }) => ({ ...session, sameEventType: of === eventTypeId }))
    return { ...known, sessions: [...known.sessions, ...own] }
  })
  const openingsOf = (eventTypeId: string, now: number, from: number, to: number): string[] => {
    const eventType = eventTypes.get(eventTypeId)
    if (!eventType || hosts.length === 0) return []
    const query = queryFor(eventType.settings, [chair], timesFor(eventTypeId), {
      now: formatInstant(now), from: formatInstant(from), to: formatInstant(to), holidays: eventType.holidays,
    })
    return (answerWithin(query, MOST_OPENINGS) ?? []).map(opening => opening.start)
  }

  data.bookings.forEach((booking, index) => {
    const eventType = eventTypes.get(booking.eventTypeId)
    if (!eventType) return
    if (index % step === 0) {
      const [soonest] = openingsOf(booking.eventTypeId, booking.at, booking.at, booking.at + LOOK_DAYS * DAY)
      if (soonest) waits.push(instantToSeconds(soonest) - booking.at)
    }
    const { bufferBeforeMinutes, bufferAfterMinutes } = booking
    const query = queryFor({ ...eventType.settings, bufferBeforeMinutes, bufferAfterMinutes }, [chair], timesFor(booking.eventTypeId), {
      now: formatInstant(booking.at), from: formatInstant(booking.start), to: formatInstant(booking.start + 1),
      durationMinutes: booking.minutes, holidays: eventType.holidays,
    })
    const able = new Set(ableAt(query, booking.start))
    if (able.size === 0) {
      impossible++
      return
    }
    const chosen = booking.chosen !== null && able.has(booking.chosen) ? booking.chosen : undefined
    const assignment = assign(data.policy, pool, able, chosen)
    pool = poolAfter(pool, assignment, booking.at)
    had[assignment.host] = (had[assignment.host] ?? 0) + 1
    const taken = laid.get(assignment.host) ?? []
    laid.set(assignment.host, [...taken, {
      id: `b${index}`, start: booking.start, end: booking.start + booking.minutes * MINUTE, bufferBeforeMinutes, bufferAfterMinutes,
      seatsTaken: eventType.settings.seats, eventTypeId: booking.eventTypeId,
    }])
  })

  // What was left to book in those weeks, seen from before them.
  const weeks = Math.max(1, (data.now - data.from) / (7 * DAY))
  const left = [...new Set(data.bookings.map(booking => booking.eventTypeId))].reduce((sum, id) => {
    const eventType = eventTypes.get(id)
    if (!eventType) return sum
    eventTypes.set(id, { ...eventType, settings: { ...eventType.settings, horizon: { kind: 'open' }, leadTimeMinutes: 0 } })
    return sum + openingsOf(id, data.from, data.from, data.now).length
  }, 0)
  return {
    had,
    impossible,
    openingsAWeek: data.bookings.length === 0 ? null : Math.round(left / weeks),
    soonestStart: waits.length === 0 ? null : [...waits].sort((a, b) => a - b)[Math.floor(waits.length / 2)] ?? null,
  }
}
