import { z } from 'zod'
import { type AccountTokens, type ConnectedAccount, VideoFault, type VideoService } from '..'

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

const roomSchema = z.object({
  id: z.string(),
  number: z.string(),
  passcode: z.string(),
  join_url: z.url(),
  host_url: z.url(),
})

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
    refresh: async (tokens, now) =>
      tokens.expiresAt - now > RENEW_BEFORE_SECONDS
        ? null
        : accountFrom(await askTokens({ grant: 'refresh', refresh_token: tokens.refreshToken })).tokens,
    makeRoom: async (tokens, request) => {
      const room = roomSchema.parse(await call('POST', '/api/rooms', tokens, {
        reference: request.reference,
        title: request.title,
        starts_at: new Date(request.start * 1000).toISOString(),
        ends_at: new Date(request.end * 1000).toISOString(),
        entry: request.entry,
      }))
      return { externalId: room.id, number: room.number, passcode: room.passcode, joinUrl: room.join_url, hostUrl: room.host_url }
    },
    withdrawRoom: async (tokens, externalId) => {
      await call('DELETE', `/api/rooms/${encodeURIComponent(externalId)}`, tokens, undefined, [404])
    },
  }

  async function askTokens(body: Record<string, string>) {
    return tokensSchema.parse(await call('POST', '/api/tokens', null, {
      ...body,
      client_id: settings.clientId,
      client_secret: settings.clientSecret,
    }))
  }

  /** One call; statuses in `fine` count as done. Throws VideoFault. */
  async function call(method: string, path: string, tokens: AccountTokens | null, body?: unknown, fine: number[] = []): Promise<unknown> {
    let response: Response
    let text: string
    try {
      response = await fetch(settings.url + path, {
        method,
        headers: { 'content-type': 'application/json', ...(tokens ? { authorization: `Bearer ${tokens.accessToken}` } : {}) },
        signal: AbortSignal.timeout(settings.timeoutSeconds * 1000),
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      })
      text = await response.text()
    } catch (error) {
      const timedOut = error instanceof DOMException && error.name === 'TimeoutError'
      throw new VideoFault(timedOut ? `did not answer for ${settings.timeoutSeconds} s` : 'could not be reached')
    }
    const value = readJson(text)
    if (response.ok || fine.includes(response.status)) return value
    const problem = problemSchema.safeParse(value)
    const words = problem.success ? problem.data.error.message : 'no reason given'
    throw new VideoFault(`answered ${response.status} (${words})`, response.status === 401)
  }
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

function readJson(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return null
  }
}
