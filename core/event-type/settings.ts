import { z } from 'zod'
import { questionsSchema } from '../intake'
import { enginePlan, type HolidayDates, storedPlanSchema } from '../hours/plan'
import { type EngineQuery, horizonSchema, zoneName } from '../openings'
import { type HostTime, planFor } from './host-time'
import { placeKinds } from './words'

/** What an event type's owner decides, apart from who sits in its chairs. */

export const placeSchema = z.strictObject({
  key: z.string().regex(/^[a-z][a-zA-Z0-9]{0,39}$/),
  kind: z.enum(placeKinds),
  /** What clients read before they book. */
  label: z.string().trim().max(200, 'At most 200 characters'),
  /** The address or number itself; told once the booking is confirmed. */
  detail: z.string().trim().max(500, 'At most 500 characters'),
}).superRefine((place, context) => {
  if (place.kind === 'address' && !place.detail) {
    context.addIssue({ code: 'custom', path: ['detail'], message: 'Write the address' })
  }
  if (place.kind === 'phoneYouCall' && !place.detail) {
    context.addIssue({ code: 'custom', path: ['detail'], message: 'Write the number clients call' })
  }
})
export type Place = z.infer<typeof placeSchema>

const whole = (least: number, most: number, words: string) =>
  z.int(words).min(least, words).max(most, words)

const webAddress = z.union([
  z.literal(''),
  z.url({ protocol: /^https?$/, hostname: z.regexes.domain, error: 'Write an address such as https://place.example/thanks' }),
])

/** Which of a host's hours plans applies, by host id; the default plan for those who are not named. */
const hostPlans = z.record(z.string().max(64), z.string().max(64)).optional()

const PRESET_COLOUR = '#54305C'

export const settingsSchema = z.strictObject({
  name: z.string().trim().min(1, 'Give it a name').max(120, 'At most 120 characters'),
  summary: z.string().trim().max(200, 'At most 200 characters'),
  /** Markdown. */
  description: z.string().trim().max(5000, 'At most 5,000 characters'),
  colour: z
    .string()
    .regex(/^#[0-9A-Fa-f]{6}$/, 'Expected a colour such as #54305C')
    .default(PRESET_COLOUR),
  timeZone: zoneName,
  durations: z
    .array(whole(1, 1440, 'From 1 to 1,440 minutes'))
    .min(1, 'Give a duration')
    .max(8, 'At most 8 durations')
    .refine(all => new Set(all).size === all.length, 'A duration stands here twice'),
  startEveryMinutes: whole(1, 1440, 'From 1 to 1,440 minutes'),
  bufferBeforeMinutes: whole(0, 1440, 'From 0 to 1,440 minutes'),
  bufferAfterMinutes: whole(0, 1440, 'From 0 to 1,440 minutes'),
  leadTimeMinutes: whole(0, 525_600, 'From none to 365 days'),
  horizon: horizonSchema,
  dailyLimit: whole(1, 1000, 'From 1 to 1,000 sessions').nullable(),
  weeklyLimit: whole(1, 1000, 'From 1 to 1,000 sessions').nullable(),
  seats: whole(1, 1000, 'From 1 to 1,000 seats'),
  approval: z.boolean(),
  /** Whether clients may bring people along. */
  guests: z.boolean().default(true),
  hours: z.discriminatedUnion('mode', [
    z.strictObject({ mode: z.literal('hosts'), hostPlans }),
    z.strictObject({ mode: z.literal('narrow'), hostPlans, plan: storedPlanSchema }),
    z.strictObject({ mode: z.literal('replace'), plan: storedPlanSchema }),
  ]),
  places: z.array(placeSchema).min(1, 'Say where it takes place').max(10, 'At most 10 places'),
  questions: questionsSchema,
  /** Liquid, with the fields `client.name` and `eventType.name`. */
  calendarTitle: z.string().trim().min(1, 'Give the calendar entry a title').max(200, 'At most 200 characters'),
  /** What clients see once they have booked: a text, or an address they go on to. */
  afterwards: z
    .strictObject({ text: z.string().trim().max(1000, 'At most 1,000 characters'), address: webAddress })
    .default({ text: '', address: '' }),
  /** For the team only. */
  notes: z.string().trim().max(5000, 'At most 5,000 characters').default(''),
  tags: z.array(z.string().trim().min(1, 'Write the tag').max(40, 'At most 40 characters')).max(20, 'At most 20 tags').default([]),
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
  hosts: { id: string, name: string, weight: number }[]
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
  /** The days of the holiday calendars that the event type's own plan names. */
  holidays?: HolidayDates
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
      horizon: settings.horizon,
      dailyLimit: settings.dailyLimit,
      weeklyLimit: settings.weeklyLimit,
      seats: settings.seats,
      chairs: chairs.map(chair => ({ id: chair.id, hosts: chair.hosts.map(host => host.id) })),
    },
    hosts: hosts.filter(host => ids.has(host.id)).map((host) => {
      const applying = planFor(host, hours)
      return { ...host, plans: hours.mode === 'replace' || !applying ? own : [applying.plan, ...own] }
    }),
    openedOver: [],
    ...(span.explain ? { explain: span.explain } : {}),
  }
}
