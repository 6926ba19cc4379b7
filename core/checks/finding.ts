import { z } from 'zod'
import type { Definition } from '../event-type/definition'
import { panels } from '../event-type/panels'
import { accountConditions } from '../rooms/accounts'
import { roomAbilities } from '../rooms/options'
import { waysSchema } from '../rooms/ways'
import { placeKinds } from '../event-type/place-kinds'
import { chairPolicies, eventTypeStates, settingsSchema } from '../event-type/settings'
import type { HolidayDates } from '../hours/plan'
import type { HostTime } from '../event-type/host-time'

/** What a check finds about a set-up, and what it looks at. */

export const severities = ['stops', 'risky', 'look'] as const
/** stops: it stops bookings; risky: something may go wrong; look: worth a look. */
export type Severity = (typeof severities)[number]

export const wayOutSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('set'), settings: settingsSchema.partial() }),
  z.strictObject({ kind: z.literal('open'), panel: z.enum(panels) }),
  z.strictObject({ kind: z.literal('go'), to: z.string() }),
])
export type WayOut = z.infer<typeof wayOutSchema>

const text = z.string()
const number = z.number()
/** Somebody by their first name; `own` where it is the reader. */
const person = z.strictObject({ name: text, own: z.boolean() })
export type Person = z.infer<typeof person>
const people = z.array(person)
/** Days since 1970-01-01. */
const day = z.int()

/** One kind of finding: its code and the values that its words need (`core/catalogue/findings.ts`). Spans are minutes. */
function finding<Code extends string, Shape extends z.ZodRawShape>(code: Code, shape: Shape) {
  return z.strictObject({
    code: z.literal(code),
    severity: z.enum(severities),
    values: z.strictObject(shape),
    wayOut: wayOutSchema,
  })
}

export const findingSchema = z.discriminatedUnion('code', [
  finding('noOpening', {
    days: number,
    cause: z.enum(['leadTime', 'horizon', 'hours', 'limits', 'buffers', 'startEvery', 'taken', 'noHours', 'severalRules']),
    hosts: people,
  }),
  finding('nextOpeningFar', { day, weeks: number }),
  finding('neverFits', { durations: z.array(number), longest: number }),
  finding('startsHideSessions', { startEvery: number, duration: number, share: number, needed: number }),
  finding('timeBetweenSessions', { startEvery: number, duration: number, unused: number, needed: number }),
  finding('bufferBeyondGap', { buffer: number, gap: number, unused: number }),
  finding('leadBeyondHorizon', { leadTime: number }),
  finding('datesPast', { day }),
  finding('limitNeverReached', { limit: number, per: z.enum(['day', 'week']), most: number }),
  finding('limitByOneHour', { limit: number }),
  finding('planZone', { plan: text, timeZone: text, host: person, hostTimeZone: text }),
  finding('hoursInAnotherZone', { timeZone: text, hosts: people }),
  finding('clockChange', { day, timeZone: text, host: person.nullable(), from: text, to: text, minutes: number }),
  finding('ruleNeverHappens', { day }),
  finding('planRunsOut', { day, isOver: z.boolean() }),
  finding('holidaysNotChosen', { hosts: people, whose: z.enum(['eventType', 'allHosts', 'someHosts']) }),
  finding('hostWithoutCommonHours', { hosts: people, chair: text.nullable(), otherChairs: number, isWholeChair: z.boolean() }),
  finding('onlyHost', { host: person, policy: z.enum(chairPolicies) }),
  finding('poolOfOne', { host: person, hosts: number }),
  finding('withoutVideo', { hosts: people, isEverybody: z.boolean() }),
  /** An account does not make rooms at present; `host` is null for the workspace's. */
  finding('accountTroubled', { host: person.nullable(), service: text, state: z.enum(accountConditions) }),
  finding('optionsNotPossible', { service: text, abilities: z.array(z.enum(roomAbilities)) }),
  finding('planTooSmall', { service: text, host: person.nullable(), what: z.enum(['minutes', 'people']), most: number, needed: number }),
  finding('underMainUser', { service: text, hosts: people }),
  finding('secondLink', { link: text }),
  finding('withoutCalendar', { hosts: people }),
  finding('silentCalendar', { host: person, since: z.int() }),
  finding('wholeDaysBlocked', { host: person, calendar: text, days: z.array(day), count: number }),
  finding('unusedHolds', { words: z.array(text) }),
  finding('noPaymentAccount', {}),
  finding('samePersonTwice', { host: person }),
  finding('hastyApproval', {}),
  finding('secretInPublic', { found: text, where: z.enum(['description', 'place', 'question']) }),
  finding('contradictingPlace', { kind: z.enum(placeKinds), label: text }),
  finding('equalPlaces', { kind: z.enum(placeKinds), label: text }),
  finding('suggestedOrAgreed', {}),
  finding('fixedRoomBackToBack', {}),
  finding('asksAgain', { question: text, what: z.enum(['name', 'email', 'phone']) }),
  /** A message of the event type's own names the answer to a question that is not asked; `own`: what the team calls it. */
  finding('answerNotAsked', { occasion: text, own: text.nullable(), key: text }),
  finding('closedButLinked', { first: text, others: number, state: z.enum(eventTypeStates) }),
])
export type Finding = z.infer<typeof findingSchema>
export type FindingCode = Finding['code']
export type FindingValues = { [Found in Finding as Found['code']]: Found['values'] }

export const checkHostSchema = z.strictObject({
  id: text,
  name: text,
  /** Whether it is the member who reads. */
  own: z.boolean(),
  timeZone: text,
  /** A room that is always theirs. */
  hasFixedRoom: z.boolean(),
  /** How many calendars block, and since when one of them has not answered (seconds); null where the reader may not know. */
  calendars: z.strictObject({ blocking: z.int(), silentSince: z.int().nullable() }).nullable(),
  plans: z.array(z.strictObject({ id: text, name: text, timeZone: text, holidays: z.boolean() })),
})
export type CheckHost = z.infer<typeof checkHostSchema>

/** An account at a video service, and what it can do. */
const checkAccountSchema = z.strictObject({
  /** Whose it is; null for the workspace's. */
  hostId: text.nullable(),
  service: text,
  state: z.enum(accountConditions),
  can: z.array(z.enum(roomAbilities)),
  /** The longest session in minutes and the most people in a room, where its service says so. */
  minutes: z.int().nullable(),
  people: z.int().nullable(),
  /** Of a service with users, the hosts whom rooms are made for; null where it has none. */
  users: z.array(text).nullable(),
})
export type CheckAccount = z.infer<typeof checkAccountSchema>

/** A message that the event type has worded itself, with the answers that it names and the address where it is edited. */
export const checkMessageSchema = z.strictObject({ occasion: text, own: text.nullable(), answers: z.array(text), address: text })
export type CheckMessage = z.infer<typeof checkMessageSchema>

/** The ways to a room that there are, and the order where an event type says no other. */
export const roomWaysViewSchema = z.strictObject({ order: waysSchema, hasPattern: z.boolean(), accounts: z.array(checkAccountSchema) })

export interface CheckContext {
  roomWays: z.infer<typeof roomWaysViewSchema>
  /** Whether clients can pay before they are confirmed. */
  canBePaid: boolean
  definition: Definition
  /** All hosts of the workspace. */
  hosts: readonly CheckHost[]
  /** Hours and taken time, at least of the hosts in the chairs, for the next `KNOWN_DAYS` (`facts.ts`). */
  time: readonly HostTime[]
  holidays: HolidayDates
  /** Other event types, offers and pages that lead to this one. */
  linkedFrom: readonly string[]
  messages: readonly CheckMessage[]
  /** RFC 3339, UTC. */
  now: string
}
