import { z } from 'zod'
import { definitionSchema } from '../../core/event-type/definition'
import { calendarSchema, storedPlanSchema } from '../../core/hours/plan'
import { emailSchema } from '../../core/intake'
import { zoneName } from '../../core/openings'
import { parseClock, weekdays } from '../../core/time/civil'
import { dateSchema } from '../../core/time/instant-schema'

/** What calls take: the schemas that the routes check, and that the OpenAPI document is made from. */

/** PostgreSQL's integer. */
const MOST_VERSION = 2_147_483_647
const version = z.int().min(1).max(MOST_VERSION)
const reason = z.string().trim().max(500, 'At most 500 characters').optional()
/** Names go out in mails to addresses that nobody has confirmed, so they carry no link. */
const plainName = (missing: string) =>
  z
    .string()
    .trim()
    .min(1, missing)
    .max(120, 'At most 120 characters')
    .refine(text => !text.includes('://'), 'A name has no web address in it')
const password = z.string().min(1, 'Enter your password').max(200, 'At most 200 characters')
const token = z.string().max(100)

export const cancelSchema = z.strictObject({ reason })
export const closeSchema = z.strictObject({ state: z.enum(['cancelled', 'declined']), reason })

export const signInSchema = z.strictObject({ email: z.string().trim().min(1, 'Enter your address').max(254), password })
export const signUpSchema = z.strictObject({
  workspace: plainName('Enter what your business is called'),
  name: plainName('Enter your name'),
  email: emailSchema,
  password: z.string().min(10, 'At least 10 characters').max(200, 'At most 200 characters'),
  timeZone: zoneName,
})
export const confirmSchema = z.strictObject({ token, password: password.optional() })
export const refuseSchema = z.strictObject({ token })

export const beginSchema = z
  .strictObject({
    days: z.array(z.enum(weekdays)).min(1, 'Choose at least one day').max(7),
    from: z
      .string()
      .max(10)
      .refine(text => parseClock(text) !== null, 'Enter a time of day such as 09:00'),
    to: z
      .string()
      .max(10)
      .refine(text => parseClock(text, true) !== null, 'Enter a time of day such as 17:00'),
    timeZone: zoneName,
  })
  .refine(({ from, to }) => (parseClock(to, true) ?? 1440) > (parseClock(from) ?? 0), {
    path: ['to'],
    message: 'The day ends before it begins',
  })

export const newEventTypeSchema = z.strictObject({ name: z.string().trim().min(1, 'Give it a name').max(120, 'At most 120 characters') })
export const publishSchema = z.strictObject({ basedOn: version, definition: definitionSchema })
export const archiveSchema = z.strictObject({ archived: z.boolean() })
export const orderSchema = z.strictObject({ ids: z.array(z.uuid()).max(1000, 'At most 1,000 event types') })

const planName = z.string().trim().min(1, 'Give the hours a name').max(80, 'At most 80 characters')

export const hoursSchema = z.strictObject({
  basedOn: version,
  name: planName,
  plan: storedPlanSchema,
})

export const newHoursSchema = z.strictObject({
  /** The plan it begins like, and whose host it is for. */
  like: z.uuid('Expected an hours plan'),
  name: planName,
})

export const openingsQuerySchema = z.object({
  from: dateSchema,
  to: dateSchema,
  timeZone: zoneName,
  duration: z.coerce.number().int().min(1).max(1440).optional(),
  host: z.string().max(64).optional(),
}).refine(query => query.from <= query.to, { path: ['to'], message: 'The last date must not be before the first' })

export const pageQuerySchema = z.object({ mail: z.string().max(100).optional() })
export const todayQuerySchema = z.object({ timeZone: zoneName, date: dateSchema.optional() })
export const holidaysQuerySchema = z.object({ country: z.string(), region: z.string().optional() })
  .transform(({ country, region }) => ({ country, region: region || null })).pipe(calendarSchema)
export const connectQuerySchema = z.object({ host: z.uuid('Expected a host') })
export const consentQuerySchema = z.object({ state: z.string().max(2000), code: z.string().max(500).optional() })
