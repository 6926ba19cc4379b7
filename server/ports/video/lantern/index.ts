import { z } from 'zod'
import { type AccountTokens, type ConnectedAccount, VideoFault, type VideoFaultKind, type VideoService } from '..'

/** Lantern Rooms over its HTTP interface (docs/stand-ins.md). */

export interface LanternSettings {
  url: string
  clientId: string
  clientSecret: string
  timeoutSeconds: number
}

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

export function lanternRooms(settings: LanternSettings): VideoService {
  return {
    name: 'Lantern Rooms',
    consentUrl: (redirectUri, state) =>
      `${settings.url}/consent?${new URLSearchParams({ client_id: settings.clientId, redirect_uri: redirectUri, state })}`,
    exchangeCode: async (code, redirectUri) =>
      accountFrom(await askTokens({ grant: 'code', code, redirect_uri: redirectUri })),
    isExpiring: (tokens, now) => tokens.expiresAt - now <= RENEW_BEFORE_SECONDS,
    renew: async tokens => accountFrom(await askTokens({ grant: 'refresh', refresh_token: tokens.refreshToken })).tokens,
    makeRoom: async (tokens, request) => {
      const room = read(roomSchema, await call('POST', '/api/rooms', tokens, {
        reference: request.reference,
        title: request.title,
        starts_at: new Date(request.start * 1000).toISOString(),
        ends_at: new Date(request.end * 1000).toISOString(),
        entry: request.entry,
      }))
      return { externalId: room.id, number: room.number, passcode: room.passcode, joinUrl: room.join_url, hostUrl: room.host_url }
    },
    withdrawRoom: async (tokens, { reference, externalId }) => {
      const { rooms } = read(roomListSchema, await call('GET', '/api/rooms', tokens))
      const ids = new Set([...rooms.filter(room => room.reference === reference).map(room => room.id), ...(externalId ? [externalId] : [])])
      for (const id of ids) await call('DELETE', `/api/rooms/${encodeURIComponent(id)}`, tokens, undefined, [404])
      return ids.size > 0
    },
  }

  async function askTokens(body: Record<string, string>) {
    return read(tokensSchema, await call('POST', '/api/tokens', null, {
      ...body,
      client_id: settings.clientId,
      client_secret: settings.clientSecret,
    }))
  }

  /** One call; statuses in `accepted` count as done. Throws VideoFault. */
  async function call(method: string, path: string, tokens: AccountTokens | null, body?: unknown, accepted: number[] = []): Promise<unknown> {
    let response: Response
    let text: string
    try {
      response = await fetch(settings.url + path, {
        method,
        headers: { 'content-type': 'application/json', ...(tokens ? { authorization: `Bearer ${tokens.accessToken}` } : {}) },
        redirect: 'error',
        signal: AbortSignal.timeout(settings.timeoutSeconds * 1000),
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      })
      text = await readText(response)
    } catch (error) {
      if (error instanceof VideoFault) throw error
      const timedOut = error instanceof DOMException && error.name === 'TimeoutError'
      throw new VideoFault(timedOut ? `did not answer for ${settings.timeoutSeconds} s` : 'could not be reached')
    }
    const value = parseJson(text)
    if (response.ok || accepted.includes(response.status)) return value
    const problem = problemSchema.safeParse(value)
    const { code, message } = problem.success ? problem.data.error : { code: '', message: 'no reason given' }
    if (code === 'unknown_client') throw new VideoFault('does not know this installation: the operator must correct LANTERN_CLIENT_ID and LANTERN_CLIENT_SECRET')
    throw new VideoFault(`answered ${response.status} (${message.slice(0, 200)})`, faultKinds[code] ?? 'other')
  }
}

/** What the service's own codes mean for the account. */
const faultKinds: Record<string, VideoFaultKind> = { no_consent: 'consentLost', invalid_token: 'tokenRefused' }

/** Throws VideoFault for an answer of another shape. */
function read<Schema extends z.ZodType>(schema: Schema, value: unknown): z.output<Schema> {
  const result = schema.safeParse(value)
  if (result.success) return result.data
  throw new VideoFault('gave an answer that cannot be read')
}

function accountFrom(answer: z.infer<typeof tokensSchema>): ConnectedAccount {
  return {
    label: `${answer.account.name} (${answer.account.email})`,
    tokens: {
      accessToken: answer.access_token,
      refreshToken: answer.refresh_token,
      expiresAt: Math.floor(Date.now() / 1000) + answer.expires_in,
    },
  }
}

const MOST_CHARACTERS = 2_000_000

/** The body as text. Throws VideoFault for one that is longer than any answer of the interface. */
async function readText(response: Response): Promise<string> {
  const decoder = new TextDecoder()
  let text = ''
  const reader = response.body?.getReader()
  for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
    text += decoder.decode(part.value, { stream: true })
    if (text.length > MOST_CHARACTERS) throw new VideoFault('gave an answer that is too long')
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
