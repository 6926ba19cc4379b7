import { z } from 'zod'
import { questionSchema } from '../intake'
import { horizonSchema, hoursPlanSchema, type OpeningsQuery, type QueryHost, zoneName } from '../openings'
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

const minutes = (least: number, most: number, words: string) =>
  z.int(words).min(least, words).max(most, words)

export const settingsSchema = z.strictObject({
  name: z.string().trim().min(1, 'Give it a name').max(120, 'At most 120 characters'),
  summary: z.string().trim().max(200, 'At most 200 characters'),
  description: z.string().trim().max(5000, 'At most 5,000 characters'),
  timeZone: zoneName,
  durations: z.array(minutes(1, 1440, 'From 1 to 1,440 minutes')).min(1, 'Give a duration').max(8, 'At most 8 durations'),
  startEveryMinutes: minutes(1, 1440, 'From 1 to 1,440 minutes'),
  bufferBeforeMinutes: minutes(0, 1440, 'From 0 to 1,440 minutes'),
  bufferAfterMinutes: minutes(0, 1440, 'From 0 to 1,440 minutes'),
  leadTimeMinutes: minutes(0, 525_600, 'From none to 365 days'),
  horizon: horizonSchema,
  dailyLimit: z.int().min(1).max(1000).nullable(),
  weeklyLimit: z.int().min(1).max(1000).nullable(),
  seats: z.int().min(1).max(1000),
  approval: z.boolean(),
  hours: z.discriminatedUnion('mode', [
    z.strictObject({ mode: z.literal('hosts') }),
    z.strictObject({ mode: z.literal('narrow'), plan: hoursPlanSchema }),
    z.strictObject({ mode: z.literal('replace'), plan: hoursPlanSchema }),
  ]),
  places: z.array(placeSchema).min(1, 'Say where it takes place').max(10, 'At most 10 places'),
  questions: z.array(questionSchema).max(50, 'At most 50 questions').superRefine((questions, context) => {
    const seen = new Set<string>()
    questions.forEach((question, index) => {
      if (seen.has(question.key)) context.addIssue({ code: 'custom', path: [index, 'key'], message: 'This key is taken' })
      if (question.showIf && !seen.has(question.showIf.key)) {
        context.addIssue({ code: 'custom', path: [index, 'showIf'], message: 'It can depend only on a question before it' })
      }
      seen.add(question.key)
    })
  }),
  /** Liquid, with the fields `client.name` and `eventType.name`. */
  calendarTitle: z.string().trim().min(1, 'Give the calendar entry a title').max(200, 'At most 200 characters'),
})
export type Settings = z.infer<typeof settingsSchema>

export const chairPolicies = ['fairShare', 'order', 'client'] as const
export type ChairPolicy = (typeof chairPolicies)[number]

export interface Chair {
  id: string
  name: string
  policy: ChairPolicy
  hosts: { id: string, name: string, weight: number }[]
}

export interface QuerySpan {
  now: string
  from: string
  to: string
  durationMinutes?: number
  explain?: string[]
}

/** The openings query of an event type: its settings and chairs over what is known of the hosts. */
export function queryFor(settings: Settings, chairs: readonly Chair[], hosts: readonly QueryHost[], span: QuerySpan): OpeningsQuery {
  const { hours } = settings
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
    hosts: hosts.map(host => ({
      ...host,
      plans: hours.mode === 'hosts' ? host.plans : hours.mode === 'narrow' ? [...host.plans, hours.plan] : [hours.plan],
    })),
    openedOver: [],
    ...(span.explain ? { explain: span.explain } : {}),
  }
}
