import { z } from 'zod'
import { type ConnectedAccount, type Credentials, VideoFault, type VideoFaultKind, type VideoService } from '..'

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

const webAddress = z.url({ protocol: /^https?$/ }).max(2000)

const roomSchema = z.object({
  id: z.string(),
  number: z.string().max(100),
  passcode: z.string().max(100),
  join_url: webAddress,
  host_url: webAddress,
})

const roomListSchema = z.object({ rooms: z.array(z.object({ id: z.string(), reference: z.string() })) })

const problemSchema = z.object({ error: z.object({ code: z.string(), message: z.string() }) })

/** Tokens are renewed when less than this is left of them. */
const RENEW_BEFORE_SECONDS = 120

/** Null where the service has no address in the environment. */
export function createLanternRooms(environment: LanternEnvironment, timeoutSeconds: number): VideoService | null {
  const url = environment.LANTERN_URL?.replace(/\/$/, '')
  return url === undefined ? null : lanternRooms(url, environment, timeoutSeconds)
}

function lanternRooms(url: string, environment: LanternEnvironment, timeoutSeconds: number): VideoService {
  return {
    name: 'Lantern Rooms',
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
    makeRoom: async (credentials, request, mostSeconds) => {
      const room = read(
        roomSchema,
        await call('POST', '/api/rooms', credentials, {
          reference: request.reference,
          title: request.title,
          starts_at: new Date(request.start * 1000).toISOString(),
          ends_at: new Date(request.end * 1000).toISOString(),
          entry: request.entry,
        }, [], mostSeconds),
      )
      return { externalId: room.id, number: room.number, passcode: room.passcode, joinUrl: room.join_url, hostUrl: room.host_url }
    },
    withdrawRoom: async (credentials, { reference, externalId }) => {
      const { rooms } = read(roomListSchema, await call('GET', '/api/rooms', credentials))
      const ids = new Set([...rooms.filter(room => room.reference === reference).map(room => room.id), ...(externalId ? [externalId] : [])])
      for (const id of ids) await call('DELETE', `/api/rooms/${encodeURIComponent(id)}`, credentials, undefined, [404])
      return ids.size > 0
    },
  }

  async function askTokens(body: Record<string, string>) {
    return read(tokensSchema, await call('POST', '/api/tokens', null, {
      ...body,
      client_id: environment.LANTERN_CLIENT_ID,
      client_secret: environment.LANTERN_CLIENT_SECRET,
    }))
  }

  /** One call; statuses in `accepted` count as done. Throws VideoFault. */
  async function call(
    method: string,
    path: string,
    credentials: Credentials | null,
    body?: unknown,
    accepted: number[] = [],
    mostSeconds = timeoutSeconds,
  ): Promise<unknown> {
    const seconds = Math.min(timeoutSeconds, mostSeconds)
    let response: Response
    let text: string
    try {
      response = await fetch(url + path, {
        method,
        headers: {
          'content-type': 'application/json',
          ...(credentials ? { authorization: `Bearer ${readTokens(credentials).accessToken}` } : {}),
        },
        redirect: 'error',
        signal: AbortSignal.timeout(seconds * 1000),
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      })
      text = await readText(response)
    } catch (error) {
      if (error instanceof VideoFault) throw error
      const timedOut = error instanceof DOMException && error.name === 'TimeoutError'
      throw new VideoFault(timedOut ? { code: 'timeout', seconds: Math.round(seconds) } : { code: 'unreachable' })
    }
    const value = parseJson(text)
    if (response.ok || accepted.includes(response.status)) return value
    const problem = problemSchema.safeParse(value)
    const { code, message } = problem.success ? problem.data.error : { code: '', message: '' }
    if (code === 'unknown_client')
      throw new VideoFault({ code: 'unknownInstallation', settings: ['LANTERN_CLIENT_ID', 'LANTERN_CLIENT_SECRET'] })
    throw new VideoFault({ code: 'answered', status: response.status, reason: message.slice(0, 200) }, faultKinds[code] ?? 'other')
  }
}

/** What the service's own codes mean for the account. */
const faultKinds: Record<string, VideoFaultKind> = { no_consent: 'accessLost', invalid_token: 'credentialsRefused' }

/** Throws VideoFault for an answer of another shape. */
function read<Schema extends z.ZodType>(schema: Schema, value: unknown): z.output<Schema> {
  const result = schema.safeParse(value)
  if (result.success) return result.data
  throw new VideoFault({ code: 'unreadable' })
}

function accountFrom(answer: z.infer<typeof tokensSchema>): ConnectedAccount {
  const tokens: z.infer<typeof storedTokensSchema> = {
    accessToken: answer.access_token,
    refreshToken: answer.refresh_token,
    expiresAt: Math.floor(Date.now() / 1000) + answer.expires_in,
  }
  return { label: `${answer.account.name} (${answer.account.email})`, credentials: JSON.stringify(tokens) }
}

/** Throws VideoFault for credentials that are not ours. */
function readTokens(credentials: Credentials): z.infer<typeof storedTokensSchema> {
  const result = storedTokensSchema.safeParse(parseJson(credentials))
  if (result.success) return result.data
  throw new VideoFault({ code: 'unreadable' }, 'accessLost')
}

const MOST_CHARACTERS = 2_000_000

/** The body as text. Throws VideoFault for one that is longer than any answer of the interface. */
async function readText(response: Response): Promise<string> {
  const decoder = new TextDecoder()
  let text = ''
  const reader = response.body?.getReader()
  for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
    text += decoder.decode(part.value, { stream: true })
    if (text.length > MOST_CHARACTERS) throw new VideoFault({ code: 'tooLong' })
  }
  return text
}

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return null
  }
}
