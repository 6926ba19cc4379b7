import { z } from 'zod'
import { sessionNotesSchema } from '../../core/booking/notes'
import { bookingStates } from '../../core/booking/states'
import { definitionSchema } from '../../core/event-type/definition'
import { editedGroupSchema, MOST_HOSTS } from '../../core/event-type/groups'
import { shapes } from '../../core/event-type/shapes'
import { calendarSchema, storedPlanSchema } from '../../core/hours/plan'
import { emailSchema, phoneSchema } from '../../core/intake'
import { editedSetSchema } from '../../core/intake/question-sets'
import { zoneName } from '../../core/openings'
import { dateToDays, parseClock, weekdays } from '../../core/time/civil'
import { dateSchema, instantSchema } from '../../core/time/instant-schema'
import { clockFaces } from '../../core/time/format'
import { fault, faultIssue, noRepeats } from '../../core/validation'
import { memberRoles } from '../../core/views/desk'
import { hostProfileSchema } from '../../core/views/host'

/** What calls take: the schemas that the routes check, and that the OpenAPI document is made from. */

/** PostgreSQL's integer. */
const MOST_VERSION = 2_147_483_647
const version = z.int().min(1).max(MOST_VERSION)
const reason = z.string().trim().max(500).optional()
/** Names go out in mails to addresses that nobody has confirmed, so they carry no link. */
const plainName = z.string().trim().min(1).max(120).refine(text => !text.includes('://'), fault('webAddressInName'))
const password = z.string().min(1).max(200)
const token = z.string().max(100)

/** Whose list of bookings is mailed to them. */
export const listRequestSchema = z.strictObject({ workspace: z.string().min(1).max(80), email: emailSchema })
export const messagesQuerySchema = z.strictObject({ eventType: z.uuid().optional() })
export const remindersSchema = z.strictObject({ wanted: z.boolean() })
export const cancelSchema = z.strictObject({ reason })
export const attendanceSchema = z.strictObject({ state: z.enum(['attended', 'missed']) })
export const closeSchema = z.strictObject({ state: z.enum(['cancelled', 'declined']), reason })

const code = z.string().trim().min(1).max(20)
export const signInSchema = z.strictObject({
  email: z.string().trim().min(1).max(254), password,
  /** Of the second factor, where there is one. */
  code: code.optional(),
})
export const passwordSchema = z.strictObject({ password })
export const codeSchema = z.strictObject({ code })
export const passwordAndCodeSchema = z.strictObject({ password, code })
export const newAddressSchema = z.strictObject({ email: emailSchema, password })
export const tokenSchema = z.strictObject({ token })
export const signUpSchema = z.strictObject({
  workspace: plainName,
  name: plainName,
  email: emailSchema,
  password: z.string().min(10).max(200),
  timeZone: zoneName,
  clock: z.enum(clockFaces).optional(),
})
export const confirmSchema = z.strictObject({ token, password: password.optional() })
export const refuseSchema = z.strictObject({ token })

/** Left out, the number stays as it is. */
export const preferencesSchema = z.strictObject({
  timeZone: zoneName, clock: z.enum(clockFaces).nullable(), phone: phoneSchema.nullable().optional(),
})
export const forgottenPasswordSchema = z.strictObject({ email: z.string().trim().min(1).max(254) })
export const newPasswordSchema = z.strictObject({ token, password: z.string().min(10).max(200) })

const memberRole = z.enum(memberRoles)
export const invitationSchema = z.strictObject({ name: plainName, email: emailSchema, role: memberRole, hosts: z.boolean() })
export const acceptSchema = z.strictObject({
  token, name: plainName, password: z.string().min(1).max(200).nullable(), timeZone: zoneName, clock: z.enum(clockFaces).nullable(),
})
export const invitationQuerySchema = z.object({ token })
export const roleSchema = z.strictObject({ role: memberRole })
/** The workspace's address is typed once more, so that nobody deletes another one by a slip. */
export const deletionSchema = z.strictObject({ slug: z.string().max(200), password })
export const newWorkspaceSchema = z.strictObject({ name: plainName })
export const changedHostSchema = hostProfileSchema.extend({ basedOn: version })
export const defaultHoursSchema = z.strictObject({ planId: z.uuid() })
export const newHostSchema = z.strictObject({ name: plainName, email: emailSchema, timeZone: zoneName })

export const beginSchema = z
  .strictObject({
    days: z.array(z.enum(weekdays)).min(1).max(7),
    from: z
      .string()
      .max(10)
      .refine(text => parseClock(text) !== null, fault('timeOfDay')),
    to: z
      .string()
      .max(10)
      .refine(text => parseClock(text, true) !== null, fault('endTime')),
    timeZone: zoneName,
    shape: z.enum(shapes).default('meeting'),
  })
  .refine(({ from, to }) => (parseClock(to, true) ?? 1440) > (parseClock(from) ?? 0), {
    path: ['to'],
    message: fault('windowOrder'),
  })

export const newEventTypeSchema = z.strictObject({ name: z.string().trim().min(1).max(120), shape: z.enum(shapes).default('meeting') })
export const byVideoSchema = z.strictObject({ ids: z.array(z.uuid()).min(1).max(200) })
export const stateSchema = z.strictObject({ state: z.enum(['open', 'closed']) })
export const publishSchema = z.strictObject({ basedOn: version, definition: definitionSchema })
export const changedSetSchema = editedSetSchema.extend({ basedOn: version })
export const changedGroupSchema = editedGroupSchema.extend({ basedOn: version })
/** Over how many of the last days sessions are counted, and of which pools. */
export const rotationQuerySchema = z.strictObject({
  days: z.coerce.number().int().min(1).max(730).default(90),
  page: z.coerce.number().int().min(1).max(1000).default(1),
  pool: z.uuid().optional(),
})
/** Which sessions are listed; dates are those of `timeZone`, inclusive. */
export const sessionsQuerySchema = z.strictObject({
  timeZone: zoneName,
  search: z.string().trim().max(200).default(''),
  when: z.enum(['coming', 'past']).default('coming'),
  from: dateSchema.optional(),
  to: dateSchema.optional(),
  host: z.uuid().optional(),
  eventType: z.uuid().optional(),
  state: z.enum(bookingStates).optional(),
  tag: z.string().trim().max(40).optional(),
  page: z.coerce.number().int().min(1).max(100_000).default(1),
})
/** The version is that of the notes that were read. */
export const savedNotesSchema = sessionNotesSchema.extend({ basedOn: z.int().min(0).max(2_147_483_647) })
export const markedPaymentSchema = z.strictObject({ paid: z.boolean() })
/** Which sessions a host hands over; without a host to take it, whoever is next in turn. */
export const handOverSchema = z.strictObject({
  seats: z.array(z.strictObject({ sessionId: z.uuid(), to: z.uuid().nullable() })).min(1).max(500),
})
/** Ids separated by commas. */
const hostIds = z.string().max(8000).transform(text => text.split(',')).pipe(z.array(z.uuid()).max(MOST_HOSTS))
export const hostsTimeQuerySchema = z.strictObject({
  hosts: hostIds,
  /** Hold words beside those that are published, one per line. */
  holds: z.string().max(1000).transform(text => text.split('\n').map(word => word.trim()).filter(Boolean).slice(0, 20)).optional(),
})
/** Hosts who are tried in a pool beside its own. */
export const whatIfQuerySchema = z.strictObject({ hosts: hostIds.optional() })
export const archiveSchema = z.strictObject({ archived: z.boolean() })
export const orderSchema = z.strictObject({ ids: z.array(z.uuid()).max(1000) })

const planName = z.string().trim().min(1).max(80)

export const hoursSchema = z.strictObject({
  basedOn: version,
  name: planName,
  plan: storedPlanSchema,
})

export const newHoursSchema = z.strictObject({
  /** The plan it begins like, and whose host it is for. */
  like: z.uuid(),
  name: planName,
  /** Whether it is for the whole workspace instead. */
  shared: z.boolean().default(false),
})
export const sharingSchema = z.strictObject({ hostIds: z.array(z.uuid()).max(1000).superRefine(noRepeats()) })

const MOST_DAYS = 92
/** Dates of `timeZone`, inclusive. */
const dateSpan = { from: dateSchema, to: dateSchema, timeZone: zoneName }

function checkSpan({ from, to }: { from: string, to: string }, context: z.RefinementCtx): void {
  if (from > to) context.addIssue(faultIssue(['to'], 'dateOrder', {}))
  else if (dateToDays(to) - dateToDays(from) >= MOST_DAYS) context.addIssue(faultIssue(['to'], 'tooManyDays', { most: MOST_DAYS }))
}

export const openingsQuerySchema = z.object({
  ...dateSpan,
  duration: z.coerce.number().int().min(1).max(1440).optional(),
  people: z.coerce.number().int().min(1).max(1000).optional(),
  host: z.string().max(64).optional(),
}).superRefine(checkSpan)

export const clientsQuerySchema = z.strictObject({ search: z.string().trim().min(1).max(200) })
/** Of an event type, or of the hosts of a session without one. */
export const deskOpeningsQuerySchema = z.object({
  ...dateSpan,
  eventType: z.uuid().optional(),
  hosts: hostIds.optional(),
  duration: z.coerce.number().int().min(1).max(1440).optional(),
  people: z.coerce.number().int().min(1).max(1000).optional(),
  host: z.uuid().optional(),
}).superRefine(checkSpan).superRefine(({ eventType, hosts, duration }, context) => {
  if ((eventType === undefined) === (hosts === undefined)) context.addIssue(faultIssue(['eventType'], 'eventTypeOrHosts', {}))
  else if (hosts && duration === undefined) context.addIssue(faultIssue(['duration'], 'required', {}))
})

/** Which times a booking could move to. */
export const moveQuerySchema = z.object(dateSpan).superRefine(checkSpan)
export const deskMoveQuerySchema = z.object({ ...dateSpan, whole: z.enum(['yes', 'no']).default('no') }).superRefine(checkSpan)
export const moveSchema = z.strictObject({ start: instantSchema })
export const deskMoveSchema = z.strictObject({
  start: instantSchema,
  /** Whether everybody in its session moves too. */
  whole: z.boolean().default(false),
  /** Moves it also to a time that is not open, as long as no other session is in the way. */
  despite: z.boolean().default(false),
})

export const pageQuerySchema = z.object({ mail: z.string().max(100).optional() })
export const eventTypesQuerySchema = z.object({ clock: z.enum(clockFaces).optional() })
export const todayQuerySchema = z.object({ timeZone: zoneName, date: dateSchema.optional() })
export const holidaysQuerySchema = z.object({ country: z.string(), region: z.string().optional() })
  .transform(({ country, region }) => ({ country, region: region || null })).pipe(calendarSchema)
/** Where a session takes place after all. */
export const newPlaceSchema = z.strictObject({
  kind: z.enum(['video', 'address', 'phoneWeCall', 'phoneYouCall', 'agreed']),
  detail: z.string().trim().max(500),
  note: z.string().trim().max(500),
}).superRefine(({ kind, detail, note }, context) => {
  if (kind === 'address' && !detail) context.addIssue(faultIssue(['detail'], 'placeAddress', {}))
  if (kind === 'phoneYouCall' && !detail) context.addIssue(faultIssue(['detail'], 'placeNumber', {}))
  if (kind === 'agreed' && !note) context.addIssue(faultIssue(['note'], 'placeNote', {}))
})
export const renewedRoomSchema = z.strictObject({ way: z.string().max(100).nullable().default(null) })

/** What is typed in to connect an account by credentials, and the same once it is known which ones a service asks for. */
export const credentialsSchema = z.strictObject({ fields: z.record(z.string().max(100), z.string().max(500)) })
export function fieldsSchema(fields: readonly { key: string }[]) {
  return z.strictObject(Object.fromEntries(fields.map(({ key }) => [key, z.string().trim().min(1).max(500)])))
}
export const acceptedAccountSchema = z.strictObject({ sealed: z.string().max(8000) })
export const connectQuerySchema = z.object({ host: z.uuid() })
export const calendarConsentQuerySchema = z.object({ state: z.string().max(4000), code: z.string().max(2000).optional() })
export const consentQuerySchema = z.object({ state: z.string().max(2000), code: z.string().max(500).optional() })
