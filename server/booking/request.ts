import { z } from 'zod'
import { MOST_GUESTS } from '../../core/booking/guests'
import type { Place } from '../../core/event-type/settings'
import { type Answer, checkAnswers, emailSchema, phoneNumber } from '../../core/intake'
import { allQuestions } from '../../core/intake/question-sets'
import { fault, type InputFault } from '../../core/validation'
import { zoneName } from '../../core/openings'
import { instantToSeconds } from '../../core/time/civil'
import { instantSchema } from '../../core/time/instant-schema'
import type { EventType } from '../event-types'

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
export interface ValidatedRequest extends Pick<BookingRequest, 'client' | 'timeZone' | 'host'> {
  /** Seconds since the epoch. */
  start: number
  durationMinutes: number
  people: number
  place: Place
  suggestion: string | null
  phone: string | null
  answers: Answer[]
  guests: NonNullable<BookingRequest['guests']>
  source: string | null
}

/** What Zod cannot know: whether the request suits this event type. */
export function checkRequest(eventType: EventType, request: BookingRequest): ValidatedRequest | { errors: InputFault[] } {
  const { settings, chairs } = eventType
  const { answers, errors } = checkAnswers(allQuestions(settings), request.answers)
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
  if (
    request.host !== undefined
    && !chairs.some(chair => chair.policy === 'client' && chair.hosts.some(host => host.id === request.host))
  ) {
    errors.push({ path: 'host', code: 'hostNotOffered', values: {} })
  }
  if (request.guests?.length && !settings.guests) errors.push({ path: 'guests', code: 'guestsNotAllowed', values: {} })
  const phone = request.client.phone ? phoneNumber(request.client.phone) : null
  if (request.client.phone && !phone) errors.push({ path: 'client.phone', code: 'phone', values: {} })
  else if (place?.kind === 'phoneWeCall' && !phone) errors.push({ path: 'client.phone', code: 'phoneNeeded', values: {} })
  if (errors.length > 0 || !place) return { errors }
  const { client, timeZone, host, guests = [], source = null } = request
  return {
    client,
    timeZone,
    ...(host ? { host } : {}),
    start: instantToSeconds(request.start),
    durationMinutes,
    people,
    place,
    suggestion: place.kind === 'clientSuggests' ? request.suggestion ?? null : null,
    phone,
    answers,
    guests,
    source,
  }
}
