import { z } from 'zod'
import { questionsSchema } from '../intake'
import { questionSetsSchema } from '../intake/question-sets'
import { calendarSchema, enginePlan, type HolidayCalendar, type HolidayDates, holidaysOf, storedPlanSchema } from '../hours/plan'
import type { EngineQuery } from '../openings/engine-query'
import { queryLimits } from '../openings/limits'
import { type Horizon, horizonKinds, zoneName } from '../openings/schema'
import { busyOf, type HostTime, planFor } from './host-time'
import { fault, faultIssue, noRepeats } from '../validation'
import { priceSchema } from '../payment/price'
import { roomOptionsSchema } from '../rooms/options'
import { linkSchema, waysSchema } from '../rooms/ways'
import { placeKinds } from './place-kinds'
import { PRESET_REMINDERS, remindersSchema } from './reminders'

/** What an event type's owner decides, apart from who sits in its chairs. */

export const placeSchema = z.strictObject({
  key: z.string().regex(/^[a-z][a-zA-Z0-9]{0,39}$/),
  kind: z.enum(placeKinds),
  /** What clients read before they book. */
  label: z.string().trim().max(200),
  /** The address or number itself; given once the booking is confirmed. */
  detail: z.string().trim().max(500),
  /** What whoever has booked should know about it: floor, bell, how to join. */
  note: z.string().trim().max(500).optional(),
}).superRefine((place, context) => {
  if (place.kind === 'address' && !place.detail) {
    context.addIssue(faultIssue(['detail'], 'placeAddress', {}))
  }
  if (place.kind === 'phoneYouCall' && !place.detail) {
    context.addIssue(faultIssue(['detail'], 'placeNumber', {}))
  }
})
export type Place = z.infer<typeof placeSchema>

/** The longest that a session can last. */
export const LONGEST_MINUTES = 1440

/** A term that clients have to keep: 60 days at most. */
const MOST_TERM_MINUTES = 86_400

const whole = (least: number, most: number) => z.int().min(least).max(most)

const webAddress = z.union([
  z.literal(''),
  z.url({ protocol: /^https?$/, hostname: z.regexes.domain, error: fault('webAddress') }),
])

/** Which of a host's hours plans applies, by host id; the default plan for those who are not named. */
const hostPlans = z.record(z.string().max(64), z.string().max(64)).optional()

/** The workspace's plan that `plan` is a copy of. */
const sharedPlan = z.uuid().optional()

const PRESET_COLOUR = '#54305C'

const horizonSchema = z.discriminatedUnion('kind', [
  horizonKinds.open,
  horizonKinds.rolling,
  horizonKinds.rollingWorkingDays.extend({ holidays: z.array(calendarSchema).max(5).default([]) }),
  horizonKinds.dates,
])
/** How far ahead clients can book; working days leave out weekends and the days of holiday calendars. */
export type StoredHorizon = z.infer<typeof horizonSchema>

export const settingsSchema = z.strictObject({
  name: z.string().trim().min(1).max(120),
  /** What the team calls it; empty where that is the same. */
  teamName: z.string().trim().max(120).default(''),
  summary: z.string().trim().max(200),
  /** Markdown. */
  description: z.string().trim().max(5000),
  colour: z
    .string()
    .regex(/^#[0-9A-Fa-f]{6}$/, fault('colour'))
    .default(PRESET_COLOUR),
  timeZone: zoneName,
  durations: z
    .array(whole(1, LONGEST_MINUTES))
    .min(1)
    .max(8)
    .superRefine(noRepeats()),
  startEveryMinutes: whole(1, 1440),
  bufferBeforeMinutes: whole(0, 1440),
  bufferAfterMinutes: whole(0, 1440),
  leadTimeMinutes: z.int().min(0).max(525_600, fault('leadTimeRange')),
  horizon: horizonSchema,
  dailyLimit: whole(1, 1000).nullable(),
  weeklyLimit: whole(1, 1000).nullable(),
  /** Over all hosts. */
  totalDailyLimit: whole(1, queryLimits.totalLimit).nullable().default(null),
  totalWeeklyLimit: whole(1, queryLimits.totalLimit).nullable().default(null),
  seats: whole(1, 1000),
  /** How many people one booking may be for; each takes a seat. With 1, clients are not asked. */
  mostPeople: whole(1, 1000).default(1),
  /** What a booking costs; null where it costs nothing. */
  price: priceSchema.nullable().default(null),
  approval: z.boolean(),
  /** For how many hours a request waits for an answer at most; null where it may wait until the start. */
  approvalHours: whole(1, 1000).nullable().default(null),
  /** Until how long before the start clients may move or cancel by themselves; null where they have to ask. */
  clientTerms: z.strictObject({
    moveUntilMinutes: whole(0, MOST_TERM_MINUTES).nullable(),
    cancelUntilMinutes: whole(0, MOST_TERM_MINUTES).nullable(),
  }).default({ moveUntilMinutes: 0, cancelUntilMinutes: 0 }),
  reminders: remindersSchema.default([...PRESET_REMINDERS]),
  /** Whether clients may bring people along. */
  guests: z.boolean().default(true),
  hours: z.discriminatedUnion('mode', [
    z.strictObject({ mode: z.literal('hosts'), hostPlans }),
    z.strictObject({ mode: z.literal('narrow'), hostPlans, plan: storedPlanSchema, shared: sharedPlan }),
    z.strictObject({ mode: z.literal('replace'), plan: storedPlanSchema, shared: sharedPlan }),
  ]),
  /** Calendar entries whose titles hold one of these words take no time from this event type. */
  holds: z.array(z.string().trim().min(2).max(60)).max(10).superRefine(noRepeats()).default([]),
  places: z.array(placeSchema).min(1).max(10),
  /** Rooms of sessions by video. */
  room: z.strictObject({
    /** Which ways to a room are tried, in this order; null for those of the workspace. */
    ways: waysSchema.nullable(),
    /** A room that all sessions share, in whatever program it is; clients see it once they have booked. */
    link: linkSchema,
    /** What they are like for those who come into them. */
    options: roomOptionsSchema.prefault({}),
  }).prefault({ ways: null, link: '' }),
  questions: questionsSchema,
  /** Asked after its own questions; other event types may ask them too. */
  questionSets: questionSetsSchema.default([]),
  /** Liquid, with the fields `client.name` and `eventType.name`. */
  calendarTitle: z.string().trim().min(1).max(200),
  /** What clients see once they have booked: a text, or an address they go on to. */
  afterwards: z
    .strictObject({ text: z.string().trim().max(1000), address: webAddress })
    .default({ text: '', address: '' }),
  /** Members who are told of each session and get its calendar entry, whatever else they do at that time. */
  observers: z.array(z.strictObject({ id: z.uuid(), name: z.string() })).max(20).superRefine(noRepeats('id')).default([]),
  /** For the team only. */
  notes: z.string().trim().max(5000).default(''),
  tags: z.array(z.string().trim().min(1).max(40)).max(20).default([]),
})
export type Settings = z.infer<typeof settingsSchema>
/** Settings before what is left out is at its default. */
export type SettingsInput = z.input<typeof settingsSchema>

export const eventTypeStates = ['draft', 'open', 'closed'] as const
export type EventTypeState = (typeof eventTypeStates)[number]

export const chairPolicies = ['fairShare', 'order', 'client'] as const
export type ChairPolicy = (typeof chairPolicies)[number]

export interface Chair {
  id: string
  name: string
  policy: ChairPolicy
  /** Its own hosts, and those who sit in it through a group. */
  hosts: { id: string, name: string, weight: number, group?: string | undefined }[]
  groups: { id: string, name: string }[]
}

export function hostIdsOf(chairs: readonly Chair[]): string[] {
  return [...new Set(chairs.flatMap(chair => chair.hosts.map(host => host.id)))]
}

export interface QuerySpan {
  now: string
  from: string
  to: string
  durationMinutes?: number
  explain?: string[]
  /** The days of the holiday calendars that the event type names, from `now` on. */
  holidays?: HolidayDates
}

/** The holiday calendars that an event type names itself: of its own hours and of its working days. */
export function calendarsOf({ hours, horizon }: Settings): HolidayCalendar[] {
  return [
    ...(hours.mode === 'hosts' ? [] : hours.plan.holidays),
    ...(horizon.kind === 'rollingWorkingDays' ? horizon.holidays : []),
  ]
}

function engineHorizon(horizon: StoredHorizon, dates: HolidayDates): Horizon {
  return horizon.kind === 'rollingWorkingDays' ? { ...horizon, holidays: holidaysOf(horizon.holidays, dates) } : horizon
}

/** The openings query of an event type: its settings and chairs over what is known of the hosts. */
export function queryFor(settings: Settings, chairs: readonly Chair[], hosts: readonly HostTime[], span: QuerySpan): EngineQuery {
  const { hours } = settings
  const ids = new Set(hostIdsOf(chairs))
  const own = hours.mode === 'hosts' ? [] : [enginePlan(hours.plan, span.holidays ?? {})]
  return {
    version: 1,
    now: span.now,
    from: span.from,
    to: span.to,
    eventType: {
      timeZone: settings.timeZone,
      durationMinutes: span.durationMinutes ?? settings.durations[0] ?? 30,
      startEveryMinutes: settings.startEveryMinutes,
      bufferBeforeMinutes: settings.bufferBeforeMinutes,
      bufferAfterMinutes: settings.bufferAfterMinutes,
      leadTimeMinutes: settings.leadTimeMinutes,
      horizon: engineHorizon(settings.horizon, span.holidays ?? {}),
      dailyLimit: settings.dailyLimit,
      weeklyLimit: settings.weeklyLimit,
      totalDailyLimit: settings.totalDailyLimit,
      totalWeeklyLimit: settings.totalWeeklyLimit,
      seats: settings.seats,
      chairs: chairs.map(chair => ({ id: chair.id, hosts: chair.hosts.map(host => host.id) })),
    },
    hosts: hosts.filter(host => ids.has(host.id)).map((host) => {
      const { id, sessions, away } = host
      const applying = planFor(host, hours)
      const plans = hours.mode === 'replace' || !applying ? own : [applying.plan, ...own]
      return { id, busy: busyOf(host, settings.holds), sessions, plans: away ? [...plans, away] : plans }
    }),
    openedOver: [],
    ...(span.explain ? { explain: span.explain } : {}),
  }
}
