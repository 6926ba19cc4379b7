import { createPrivateKey } from 'node:crypto'
import { z } from 'zod'
import { type CalendarServer, calendarServersSchema } from './ports/calendar/servers'
import { type Network, parseNetworks } from './networks'
import { type PaymentEnvironment, paymentEnvironment } from './ports/payment/services'
import type { PhoneTextService } from './ports/phone-text/http'
import { type VideoEnvironment, videoEnvironment } from './ports/video/services'

/** The application’s settings from the environment, checked once at start. */

const seconds = (preset: number) => z.coerce.number().positive().default(preset)
const count = (preset: number) => z.coerce.number().int().positive().default(preset)

const settingsSchema = z.object({
  DATABASE_URL: z.string().startsWith('postgres', 'must be a postgres:// address'),
  /** Seals cookies and stored secrets; all keys are derived from it. */
  TEMPORIA_SECRET: z.string().min(32, 'must be at least 32 characters; make one with: openssl rand -hex 32'),
  BASE_URL: z
    .url('must be the address under which people reach the application, such as https://book.example')
    .transform(url => url.replace(/\/$/, '')),
  SMTP_URL: z.string().startsWith('smtp', 'must be an smtp:// or smtps:// address'),
  MAIL_FROM: z.email('must be the mail address messages come from'),
  /** Signing of mails (DKIM): domain, selector and private key, all or none. Line ends of the key may be written as \\n. */
  DKIM_DOMAIN: z.string().default(''),
  DKIM_SELECTOR: z.string().regex(/^[\w.-]*$/, 'must be a name within the domain').default(''),
  DKIM_KEY: z.string().default('').transform(text => text.replaceAll('\\n', '\n'))
    .refine(text => text === '' || isPrivateKey(text), 'must be a private key as PEM'),
  /** The service for phone texts: where it takes them, its token, and the sender that readers see; all or none. */
  TEXTS_URL: z.union([z.literal(''), z.url({ protocol: /^https?$/, error: 'must be an http:// or https:// address' })]).default(''),
  TEXTS_TOKEN: z.string().default(''),
  TEXTS_SENDER: z.string().max(20, 'must be 20 characters at most').default(''),
  ...videoEnvironment,
  ...paymentEnvironment,
  /** `host:port` of calendar servers that people may name though they are not on the public internet. */
  ALLOWED_HOSTS: z.string().default('').transform(text => text.split(',').map(part => part.trim().toLowerCase()).filter(Boolean))
    .refine(hosts => hosts.every(host => /^[^\s/]+:\d{1,5}$/.test(host)), 'must be a list of host:port, separated by commas'),
  CALENDAR_SERVERS: calendarServersSchema,
  /** How often a calendar is looked at while its host can be booked. */
  CALENDAR_LOOK_SECONDS: seconds(300),
  /** How long a confirmation waits for its room before it goes out without the link. */
  ROOM_WAIT_SECONDS: seconds(20),
  /** How long after a time was held for them a client who has not paid is sent the way to do so. */
  PAYMENT_REMINDER_SECONDS: seconds(120),
  /** How long one call to a video service may take. */
  VIDEO_TIMEOUT_SECONDS: seconds(10),
  MAIL_TIMEOUT_SECONDS: seconds(30),
  /** Multiplies all waits between tries. */
  RETRY_PACE: z.coerce.number().positive().default(1),
  BOOKINGS_PER_MINUTE: count(20),
  SIGN_INS_PER_QUARTER_HOUR: count(20),
  TOKEN_GUESSES_PER_MINUTE: count(30),
  /** Pages and openings that one source may ask for in a minute. */
  READS_PER_MINUTE: count(600),
  /** Mails an hour to an address that has opened none. */
  UNOPENED_MAILS_PER_HOUR: count(6),
  /** Addresses or networks of proxies whose X-Forwarded-For is believed, separated by commas. */
  TRUSTED_PROXIES: z
    .string()
    .default('')
    .transform((text, context) => parseNetworks(text, fault => context.addIssue({ code: 'custom', message: fault }))),
  /** Connections that may be open at once, in all and from one source. */
  MAX_CONNECTIONS: count(2000),
  MAX_CONNECTIONS_PER_SOURCE: count(256),
  /** What this process does: answer requests, run jobs, or both. */
  ROLE: z.enum(['all', 'web', 'jobs'], 'must be all, web or jobs').default('all'),
  HOST: z.string().default('127.0.0.1'),
  PORT: z.coerce.number().int().min(1).max(65_535).default(3000),
  MIGRATIONS: z.string().default('server/database/migrations'),
})

export interface ServerSettings {
  databaseUrl: string
  secret: string
  baseUrl: string
  smtpUrl: string
  mailFrom: string
  mailSigning: { domain: string, selector: string, privateKey: string } | null
  phoneTexts: PhoneTextService | null
  videoEnvironment: VideoEnvironment
  paymentEnvironment: PaymentEnvironment
  allowedHosts: string[]
  calendarServers: CalendarServer[]
  calendarLookSeconds: number
  roomWaitSeconds: number
  paymentReminderSeconds: number
  videoTimeoutSeconds: number
  mailTimeoutSeconds: number
  retryPace: number
  bookingsPerMinute: number
  signInsPerQuarterHour: number
  tokenGuessesPerMinute: number
  readsPerMinute: number
  unopenedMailsPerHour: number
  trustedProxies: Network[]
  migrations: string
  role: 'all' | 'web' | 'jobs'
}

type Environment = Readonly<Record<string, string | undefined>>

/** Throws an Error that names every setting at fault, one a line. */
function parseEnvironment(environment: Environment): z.output<typeof settingsSchema> {
  const result = settingsSchema.safeParse(environment)
  if (result.success) return result.data
  const lines = result.error.issues.map(
    issue => `  ${issue.path.join('.')} ${environment[String(issue.path[0])] === undefined ? 'is missing' : issue.message}`,
  )
  throw new Error(`Invalid environment settings:\n${lines.join('\n')}`)
}

function signingOf({ DKIM_DOMAIN: domain, DKIM_SELECTOR: selector, DKIM_KEY: privateKey }: z.output<typeof settingsSchema>): ServerSettings['mailSigning'] {
  const given = [domain, selector, privateKey].filter(Boolean).length
  if (given === 0) return null
  if (given < 3) throw new Error('Invalid environment settings:\n  DKIM_DOMAIN, DKIM_SELECTOR and DKIM_KEY are needed together, or none of them')
  return { domain, selector, privateKey }
}

function textsOf({ TEXTS_URL: url, TEXTS_TOKEN: token, TEXTS_SENDER: sender }: z.output<typeof settingsSchema>): ServerSettings['phoneTexts'] {
  if (!url && !token && !sender) return null
  if (!url || !token || !sender) throw new Error('Invalid environment settings:\n  TEXTS_URL, TEXTS_TOKEN and TEXTS_SENDER are needed together, or none of them')
  return { url, token, sender }
}

function isPrivateKey(text: string): boolean {
  try {
    return createPrivateKey(text).type === 'private'
  } catch {
    return false
  }
}

/** Where and how the process listens. Settings at fault are named by `readSettings`; until then the defaults hold. */
export function listenSettings(environment: Environment) {
  const schema = settingsSchema.pick({
    HOST: true,
    PORT: true,
    MAX_CONNECTIONS: true,
    MAX_CONNECTIONS_PER_SOURCE: true,
    TRUSTED_PROXIES: true,
  })
  const { HOST, PORT, MAX_CONNECTIONS, MAX_CONNECTIONS_PER_SOURCE, TRUSTED_PROXIES } =
    schema.safeParse(environment).data ?? schema.parse({})
  return {
    host: HOST,
    port: PORT,
    connections: MAX_CONNECTIONS,
    connectionsPerSource: MAX_CONNECTIONS_PER_SOURCE,
    trustedProxies: TRUSTED_PROXIES,
  }
}

export function readSettings(environment: Environment): ServerSettings {
  const found = parseEnvironment(environment)
  return {
    databaseUrl: found.DATABASE_URL,
    secret: found.TEMPORIA_SECRET,
    baseUrl: found.BASE_URL,
    smtpUrl: found.SMTP_URL,
    mailFrom: found.MAIL_FROM,
    mailSigning: signingOf(found),
    phoneTexts: textsOf(found),
    videoEnvironment: z.object(videoEnvironment).parse(found),
    paymentEnvironment: z.object(paymentEnvironment).parse(found),
    allowedHosts: found.ALLOWED_HOSTS,
    calendarServers: found.CALENDAR_SERVERS,
    calendarLookSeconds: found.CALENDAR_LOOK_SECONDS,
    roomWaitSeconds: found.ROOM_WAIT_SECONDS,
    paymentReminderSeconds: found.PAYMENT_REMINDER_SECONDS,
    videoTimeoutSeconds: found.VIDEO_TIMEOUT_SECONDS,
    mailTimeoutSeconds: found.MAIL_TIMEOUT_SECONDS,
    retryPace: found.RETRY_PACE,
    bookingsPerMinute: found.BOOKINGS_PER_MINUTE,
    signInsPerQuarterHour: found.SIGN_INS_PER_QUARTER_HOUR,
    tokenGuessesPerMinute: found.TOKEN_GUESSES_PER_MINUTE,
    readsPerMinute: found.READS_PER_MINUTE,
    unopenedMailsPerHour: found.UNOPENED_MAILS_PER_HOUR,
    trustedProxies: found.TRUSTED_PROXIES,
    migrations: found.MIGRATIONS,
    role: found.ROLE,
  }
}
