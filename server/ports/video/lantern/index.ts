import { z } from 'zod'
import { type ConnectedAccount, type Credentials, type RoomRequest, ServiceFault, type ServiceFaultKind, type VideoService } from '..'
import { callService, differences, read, readCredentials, type ServiceRequest, webAddress } from '../../service/requests'

/** Lantern Rooms over its HTTP interface (docs/stand-ins.md). */

export const lanternEnvironment = {
  LANTERN_URL: z.url().optional(),
  LANTERN_CLIENT_ID: z.string().default('temporia'),
  LANTERN_CLIENT_SECRET: z.string().default(''),
}

type LanternEnvironment = z.output<z.ZodObject<typeof lanternEnvironment>>

/** What is stored for an account. */
const storedTokensSchema = z.object({
  accessToken: z.string(),
  refreshToken: z.string(),
  /** Seconds since the epoch. */
  expiresAt: z.number(),
})

const tokensSchema = z.object({
  access_token: z.string(),
  refresh_token: z.string(),
  expires_in: z.number(),
  account: z.object({ email: z.string(), name: z.string() }),
})

const accountSchema = z.object({
  approved: z.boolean(),
  plan: z.object({ rooms: z.number(), rooms_used: z.number(), minutes: z.number(), people: z.number() }),
})

const roomSchema = z.object({
  id: z.string(),
  number: z.string().max(100),
  passcode: z.string().max(100),
  join_url: webAddress,
  host_url: webAddress,
})

const instant = z.iso.datetime().transform(text => Date.parse(text) / 1000)

const roomListSchema = z.object({
  rooms: z.array(z.object({ id: z.string(), reference: z.string(), title: z.string(), starts_at: instant, ends_at: instant })),
})

const problemSchema = z.object({ error: z.object({ code: z.string(), message: z.string() }) })
const missingSchema = z.object({ error: z.object({ code: z.literal('no_room') }) })
const withdrawnSchema = z.union([z.object({ withdrawn: z.literal(true) }), missingSchema])

/** Tokens are renewed when less than this is left of them. */
const RENEW_BEFORE_SECONDS = 120

const CALLS_AT_ONCE = 10

/** Null where the service has no address in the environment. */
export function createLanternRooms(environment: LanternEnvironment, timeoutSeconds: number): VideoService | null {
  const url = environment.LANTERN_URL?.replace(/\/$/, '')
  return url === undefined ? null : lanternRooms(url, environment, timeoutSeconds)
}

function lanternRooms(url: string, environment: LanternEnvironment, timeoutSeconds: number): VideoService {
  return {
    name: 'Lantern Rooms',
    owner: 'host',
    can: ['waitingRoom', 'openEntry', 'muting'],
    callsAtOnce: CALLS_AT_ONCE,
    users: null,
    connection: {
      way: 'consent',
      consentUrl: (redirectUri, state) =>
        `${url}/consent?${new URLSearchParams({ client_id: environment.LANTERN_CLIENT_ID, redirect_uri: redirectUri, state })}`,
      exchangeCode: async (code, redirectUri) => accountFrom(await askTokens({ grant: 'code', code, redirect_uri: redirectUri })),
    },
    renewal: {
      isDue: (credentials, now) => readTokens(credentials).expiresAt - now <= RENEW_BEFORE_SECONDS,
      renew: async credentials =>
        accountFrom(await askTokens({ grant: 'refresh', refresh_token: readTokens(credentials).refreshToken })).credentials,
    },
    readAccount: async (credentials) => {
      const { approved, plan } = read(accountSchema, await call(credentials, { method: 'GET', path: '/api/account' }))
      return { waiting: !approved, plan: { rooms: plan.rooms, roomsUsed: plan.rooms_used, minutes: plan.minutes, people: plan.people } }
    },
    makeRoom: async (credentials, request, mostSeconds) => {
      const body = { reference: request.reference, ...describe(request) }
      const room = read(roomSchema, await call(credentials, { method: 'POST', path: '/api/rooms', body, mostSeconds }))
      return { externalId: room.id, number: room.number, passcode: room.passcode, joinUrl: room.join_url, hostUrl: room.host_url }
    },
    changeRoom: async (credentials, externalId, request) => {
      const found = await call(credentials, { method: 'GET', path: pathOf(externalId), accepted: [404] })
      if (missingSchema.safeParse(found).success) return 'gone'
      read(roomSchema, found)
      const body = differences(describe(request), found)
      if (Object.keys(body).length === 0) return 'same'
      read(roomSchema, await call(credentials, { method: 'PATCH', path: pathOf(externalId), body }))
      return 'changed'
    },
    listRooms: async (credentials) => {
      const { rooms } = read(roomListSchema, await call(credentials, { method: 'GET', path: '/api/rooms' }))
      return rooms.map(({ id, reference, title, starts_at: start, ends_at: end }) => ({ externalId: id, reference, title, start, end }))
    },
    withdrawRoom: async (credentials, externalId) => {
      read(withdrawnSchema, await call(credentials, { method: 'DELETE', path: pathOf(externalId), accepted: [404] }))
    },
  }

  async function askTokens(body: Record<string, string>) {
    return read(tokensSchema, await call(null, {
      method: 'POST', path: '/api/tokens',
      body: { ...body, client_id: environment.LANTERN_CLIENT_ID, client_secret: environment.LANTERN_CLIENT_SECRET },
    }))
  }

  function call(credentials: Credentials | null, request: ServiceRequest): Promise<unknown> {
    const headers: Record<string, string> = credentials ? { authorization: `Bearer ${readTokens(credentials).accessToken}` } : {}
    return callService({ url, timeoutSeconds, readRefusal, faultKinds }, { ...request, headers })
  }
}

const pathOf = (externalId: string) => `/api/rooms/${encodeURIComponent(externalId)}`

function describe({ title, start, end, options, hosts, attendees }: RoomRequest) {
  return {
    title,
    starts_at: new Date(start * 1000).toISOString(),
    ends_at: new Date(end * 1000).toISOString(),
    entry: options.entry,
    mute_on_entry: options.muted,
    hosts,
    attendees,
  }
}

function readRefusal(body: unknown): { code: string, message: string } {
  const problem = problemSchema.safeParse(body)
  const { code, message } = problem.success ? problem.data.error : { code: '', message: '' }
  if (code === 'unknown_client')
    throw new ServiceFault({ code: 'unknownInstallation', settings: ['LANTERN_CLIENT_ID', 'LANTERN_CLIENT_SECRET'] })
  return { code, message }
}

const faultKinds: Record<string, ServiceFaultKind> = {
  no_consent: 'accessLost', invalid_token: 'credentialsRefused', quota: 'accountRefused', refused: 'accountRefused', approval_needed: 'awaitsApproval',
}

function accountFrom(answer: z.infer<typeof tokensSchema>): ConnectedAccount {
  const tokens: z.infer<typeof storedTokensSchema> = {
    accessToken: answer.access_token,
    refreshToken: answer.refresh_token,
    expiresAt: Math.floor(Date.now() / 1000) + answer.expires_in,
  }
  const { name, email } = answer.account
  return { label: `${name} (${email})`, email, credentials: JSON.stringify(tokens) }
}

function readTokens(credentials: Credentials): z.infer<typeof storedTokensSchema> {
  return readCredentials(storedTokensSchema, credentials)
}
