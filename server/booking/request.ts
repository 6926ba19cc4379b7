import { z } from 'zod'
import { MOST_GUESTS } from '../../core/booking/guests'
import { LONGEST_MINUTES, type Place, placeSchema } from '../../core/event-type/settings'
import { tellable } from '../../core/booking/told'
import { type Answer, checkAnswers, emailSchema, phoneNumber } from '../../core/intake'
import { allQuestions } from '../../core/intake/question-sets'
import { fault, type InputFault, noRepeats } from '../../core/validation'
import { zoneName } from '../../core/openings'
import { instantToSeconds } from '../../core/time/civil'
import { instantSchema } from '../../core/time/instant-schema'
import type { ChosenHost } from '../../core/rotation/chairs'
import { chairToPick, type EventType } from '../event-types'

/** The body of a booking, as the HTTP interface takes it, and whether it suits its event type. */

const oneLine = (most: number) => z.string().trim().min(1).max(most).refine(text => !hasControls(text), fault('multipleLines'))

/** Letters only, so that it can stand in a header or a log as it is. */
const localeSchema = z.string().max(35).refine(isLocale, fault('language'))

/** Mails to people who never asked for them would carry the link. */
const nameSchema = oneLine(120).refine(text => !text.includes('://'), fault('webAddressInName'))

const guestsSchema = z.array(z.strictObject({ email: emailSchema, name: nameSchema.optional() }))
  .max(MOST_GUESTS)
  .refine(guests => new Set(guests.map(guest => guest.email.toLowerCase())).size === guests.length, fault('repeatedAddress'))

export const guestsRequestSchema = z.strictObject({
  add: guestsSchema.default([]),
  /** Addresses. */
  remove: z.array(z.string().max(254)).max(MOST_GUESTS).default([]),
})
export type GuestsRequest = z.output<typeof guestsRequestSchema>

export const bookingRequestSchema = z.strictObject({
  start: instantSchema,
  duration: z.int().min(1).max(1440).optional(),
  people: z.int().min(1).max(1000).optional(),
  timeZone: zoneName,
  place: z.string().max(40).optional(),
  /** Where the client would like to meet, for a place that they suggest. */
  suggestion: oneLine(300).optional(),
  host: z.string().max(64).optional(),
  source: oneLine(100).optional(),
  client: z.strictObject({
    name: nameSchema,
    email: emailSchema,
    phone: z.string().trim().max(40).optional(),
    locale: localeSchema.optional(),
  }),
  guests: guestsSchema.optional(),
  answers: z.record(z.string().max(40), z.unknown()),
})
export type BookingRequest = z.infer<typeof bookingRequestSchema>

/** As a member sends it for a client: of an event type, or a session of its own. */
export const deskBookingSchema = bookingRequestSchema.omit({ source: true }).extend({
  eventType: z.uuid().optional(),
  oneOff: z.strictObject({
    title: oneLine(120),
    durationMinutes: z.int().min(1).max(LONGEST_MINUTES),
    place: placeSchema,
    /** All of them sit in it. */
    hosts: z.array(z.uuid()).min(1).max(20).superRefine(noRepeats()),
  }).optional(),
  /** Books also a time that is not open, as long as no other session is in the way. */
  despite: z.boolean().default(false),
  /** Who is told of it. */
  told: z.array(z.enum(tellable)).superRefine(noRepeats()).default([...tellable]),
}).refine(({ eventType, oneOff }) => (eventType === undefined) !== (oneOff === undefined), { path: ['eventType'], message: fault('eventTypeOrOneOff') })
export type DeskBooking = z.output<typeof deskBookingSchema>

export const peopleRequestSchema = z.strictObject({ people: z.int().min(1).max(1000) })

export const idempotencyKeySchema = z
  .string(fault('idempotencyKey'))
  .regex(/^[\x21-\x7e]{1,128}$/, fault('idempotencyKey'))

function isLocale(text: string): boolean {
  try {
    return /^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$/.test(text) && Intl.getCanonicalLocales(text).length === 1
  } catch {
    return false
  }
}

function hasControls(text: string): boolean {
  // eslint-disable-next-line no-control-regex
  return /[\u0000-\u001f\u007f\u2028\u2029]/.test(text)
}

/** A request that suits its event type. */
export interface ValidatedRequest extends Pick<BookingRequest, 'client' | 'timeZone'> {
  /** Seconds since the epoch. */
  start: number
  durationMinutes: number
  people: number
  /** Who was picked; null for anyone. */
  chosen: ChosenHost | null
  place: Place
  suggestion: string | null
  phone: string | null
  answers: Answer[]
  guests: NonNullable<BookingRequest['guests']>
  source: string | null
}

/**
 * What Zod cannot know: whether the request suits this event type. A member who books for a client may leave questions out,
 * pick any host and bring guests along.
 */
export function checkRequest(
  eventType: EventType, request: Omit<BookingRequest, 'source'> & Pick<Partial<BookingRequest>, 'source'>, isClient = true,
): ValidatedRequest | { errors: InputFault[] } {
  const { settings } = eventType
  const { answers, errors: unsuitable } = checkAnswers(allQuestions(settings), request.answers)
  const errors = unsuitable.filter(({ code }) => isClient || code !== 'unanswered')
  const durationMinutes = request.duration ?? settings.durations[0] ?? 30
  if (!settings.durations.includes(durationMinutes)) {
    errors.push({ path: 'duration', code: 'durationNotOffered', values: { durations: settings.durations } })
  }
  const people = request.people ?? 1
  if (people > settings.mostPeople) errors.push({ path: 'people', code: 'tooManyPeople', values: { most: settings.mostPeople } })
  const place = settings.places.length === 1 && request.place === undefined
    ? settings.places[0]
    : settings.places.find(candidate => candidate.key === request.place)
  if (!place) errors.push({ path: 'place', code: 'placeNotChosen', values: {} })
  const chosen = request.host === undefined ? null : chairToPick(eventType, request.host, isClient)
  if (request.host !== undefined && !chosen) errors.push({ path: 'host', code: 'hostNotOffered', values: {} })
  if (isClient && request.guests?.length && !settings.guests) errors.push({ path: 'guests', code: 'guestsNotAllowed', values: {} })
  const phone = request.client.phone ? phoneNumber(request.client.phone) : null
  if (request.client.phone && !phone) errors.push({ path: 'client.phone', code: 'phone', values: {} })
  else if (place?.kind === 'phoneWeCall' && !phone) errors.push({ path: 'client.phone', code: 'phoneNeeded', values: {} })
  if (errors.length > 0 || !place) return { errors }
  const { client, timeZone, guests = [], source = null } = request
  return {
    client,
    timeZone,
    start: instantToSeconds(request.start),
    durationMinutes,
    people,
    chosen,
    place,
    suggestion: place.kind === 'clientSuggests' ? request.suggestion ?? null : null,
    phone,
    answers,
    guests,
    source,
  }
}
