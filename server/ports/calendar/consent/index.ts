import * as oauth from 'oauth4webapi'
import type { Outside } from '../../outside'
import { OutsideFault } from '../../outside'
import { CalendarFault } from '..'
import { hostOf } from '../requests'
import type { CalendarServer } from '../servers'

/** Connecting by consent: OAuth 2.0 with an authorization code and PKCE (RFC 6749, RFC 7636), and tokens that are renewed. */

export interface Tokens {
  accessToken: string
  /** Null where the server gives none: then the consent ends with the access token. */
  refreshToken: string | null
  /** Seconds since the epoch. */
  expiresAt: number
}

/** For servers that say nothing. */
const USUAL_SECONDS = 3600

export const makeVerifier = oauth.generateRandomCodeVerifier

export async function consentUrl(server: CalendarServer, redirectUri: string, state: string, verifier: string): Promise<string> {
  const url = new URL(server.authorizeUrl)
  const parameters = {
    response_type: 'code', client_id: server.clientId, redirect_uri: redirectUri, state, code_challenge_method: 'S256',
    code_challenge: await oauth.calculatePKCECodeChallenge(verifier), ...(server.scope ? { scope: server.scope } : {}),
  }
  for (const [name, value] of Object.entries(parameters)) url.searchParams.set(name, value)
  return url.href
}

/** Throws CalendarFault. */
export function exchangeCode(
  outside: Outside, server: CalendarServer, { code, verifier, redirectUri }: { code: string, verifier: string, redirectUri: string },
  now: number,
): Promise<Tokens> {
  return asking(server, now, async (as, client, auth) => {
    // The state has been checked by whoever sealed it.
    const parameters = oauth.validateAuthResponse(as, client, new URLSearchParams({ code }), oauth.expectNoState)
    const answer = await oauth.authorizationCodeGrantRequest(as, client, auth, parameters, redirectUri, verifier, options(outside, server))
    return oauth.processAuthorizationCodeResponse(as, client, answer)
  })
}

/** Throws CalendarFault. */
export async function renewTokens(outside: Outside, server: CalendarServer, refreshToken: string, now: number): Promise<Tokens> {
  const renewed = await asking(server, now, async (as, client, auth) => {
    const answer = await oauth.refreshTokenGrantRequest(as, client, auth, refreshToken, options(outside, server))
    return oauth.processRefreshTokenResponse(as, client, answer)
  })
  // A server need not give a new one (RFC 6749 §6).
  return { ...renewed, refreshToken: renewed.refreshToken ?? refreshToken }
}

async function asking(
  server: CalendarServer, now: number,
  work: (as: oauth.AuthorizationServer, client: oauth.Client, auth: oauth.ClientAuth) => Promise<oauth.TokenEndpointResponse>,
): Promise<Tokens> {
  const as = { issuer: new URL(server.address).origin, authorization_endpoint: server.authorizeUrl, token_endpoint: server.tokenUrl }
  try {
    const found = await work(as, { client_id: server.clientId }, oauth.ClientSecretPost(server.clientSecret))
    return {
      accessToken: found.access_token, refreshToken: found.refresh_token ?? null, expiresAt: now + (found.expires_in ?? USUAL_SECONDS),
    }
  } catch (error) {
    const host = hostOf(server.tokenUrl)
    if (error instanceof OutsideFault) throw new CalendarFault(error.code, host)
    // A refusal is for good; whatever else went wrong may go right the next time.
    if (error instanceof oauth.ResponseBodyError) throw new CalendarFault('consentLost', host, error.status)
    if (error instanceof oauth.OperationProcessingError) throw new CalendarFault('unreadableAnswer', host)
    throw error
  }
}

/** Requests go the way of all that people name. */
function options(outside: Outside, server: CalendarServer) {
  const request = async (url: string, given: { method: string, headers: Record<string, string>, body?: unknown }): Promise<Response> => {
    const { method, headers, body } = given
    const { status, headers: found, text } = await outside.fetch(url, { method, headers, body: String(body ?? '') })
    return new Response(text, { status, headers: { 'content-type': found.get('content-type') ?? 'application/json' } })
  }
  return { [oauth.customFetch]: request, [oauth.allowInsecureRequests]: server.tokenUrl.startsWith('http:') }
}
