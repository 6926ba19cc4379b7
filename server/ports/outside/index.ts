import ipaddr from 'ipaddr.js'
import { Agent, fetch, type Response } from 'undici'
import { checkedLookup, isPublic, PrivateAddress, type Resolve, resolveName } from './addresses'

/**
 * The one way to what people name by its address: their calendars and feeds. Only public addresses are connected to, or hosts
 * that the operator allows; time, size and redirects are bounded.
 */

export interface OutsideRequest {
  method?: string
  headers?: Readonly<Record<string, string>>
  body?: string
  /** The value of `authorization`, sent to one origin only, wherever redirects lead. */
  credentials?: { origin: string, authorization: string } | null
  /** For the whole of it. */
  timeoutMs?: number
}

export interface OutsideAnswer {
  status: number
  headers: { get: (name: string) => string | null }
  text: string
  /** Where redirects have led. */
  url: string
}

export const outsideCodes = [
  'noAddress', 'notAllowed', 'unknownHost', 'unreachable', 'timedOut', 'certificate', 'noEncryption', 'tooLarge', 'manyRedirects', 'insecureRedirect',
] as const
export type OutsideCode = (typeof outsideCodes)[number]

/** Why nothing, or not all of it, was fetched. */
export class OutsideFault extends Error {
  constructor(readonly code: OutsideCode, readonly host: string) {
    super(`${code}: ${host}`)
  }
}

const CONNECT_MS = 10_000
const WHOLE_MS = 60_000
const MOST_BYTES = 20_000_000
const MOST_REDIRECTS = 5

export interface OutsideSettings {
  /** `host:port` of servers that may be anywhere. */
  allowedHosts: ReadonlySet<string>
  /** How names are resolved, and which addresses are fit to be connected to: for tests. */
  resolve?: Resolve
  isFit?: (address: string) => boolean
  /** An authority beside the usual ones: for tests. */
  authority?: string
}

export interface Outside {
  /** Throws OutsideFault. An answer with any status is an answer. */
  fetch: (address: string, request?: OutsideRequest) => Promise<OutsideAnswer>
  close: () => Promise<void>
}

export function makeOutside({ allowedHosts, resolve = resolveName, isFit = isPublic, authority }: OutsideSettings): Outside {
  const bounds = { headersTimeout: WHOLE_MS, bodyTimeout: WHOLE_MS, connections: 20 }
  const guarded = new Agent({ ...bounds, connect: { timeout: CONNECT_MS, lookup: checkedLookup(resolve, isFit) } })
  const open = new Agent({ ...bounds, connect: { timeout: CONNECT_MS, ...(authority === undefined ? {} : { ca: authority }) } })

  async function fetchOnce(url: URL, { method = 'GET', headers, body, credentials }: OutsideRequest, signal: AbortSignal): Promise<Response> {
    const isAllowed = allowedHosts.has(hostOf(url))
    const literal = url.hostname.replace(/^\[|\]$/g, '')
    if (!isAllowed && ipaddr.isValid(literal) && !isFit(literal)) throw new OutsideFault('notAllowed', url.host)
    try {
      return await fetch(url, {
        method, body: body ?? null, redirect: 'manual', signal, dispatcher: isAllowed ? open : guarded,
        headers: {
          'user-agent': 'Temporia', ...headers, ...(credentials?.origin === url.origin ? { authorization: credentials.authorization } : {}),
        },
      })
    } catch (error) {
      throw faultOf(error, url.host)
    }
  }

  return {
    async fetch(address, request = {}) {
      const signal = AbortSignal.timeout(request.timeoutMs ?? WHOLE_MS)
      let url = parseAddress(address)
      for (let redirects = 0; ; redirects++) {
        const response = await fetchOnce(url, request, signal)
        const location = response.status >= 300 && response.status < 400 ? response.headers.get('location') : null
        if (location === null) {
          const text = await readText(response, url.host)
          return { status: response.status, headers: response.headers, text, url: url.href }
        }
        await response.body?.cancel()
        const next = parseAddress(location, url)
        if (url.protocol === 'https:' && next.protocol !== 'https:') throw new OutsideFault('insecureRedirect', next.host)
        if (redirects === MOST_REDIRECTS) throw new OutsideFault('manyRedirects', next.host)
        url = next
      }
    },
    close: async () => {
      await Promise.all([guarded.close(), open.close()])
    },
  }
}

/** `host:port`, the port of the scheme where the address names none. */
function hostOf({ hostname, port, protocol }: URL): string {
  return `${hostname}:${port || (protocol === 'https:' ? 443 : 80)}`
}

/** What people write: `webcal:` is another word for https. A user and password within an address are never sent. */
export function parseAddress(text: string, base?: URL): URL {
  const address = text.trim().replace(/^webcals?:/i, 'https:')
  if (!URL.canParse(address, base)) throw new OutsideFault('noAddress', text.slice(0, 100))
  const url = new URL(address, base)
  if (url.protocol !== 'https:' && url.protocol !== 'http:') throw new OutsideFault('noAddress', text.slice(0, 100))
  url.username = ''
  url.password = ''
  url.hash = ''
  return url
}

async function readText(response: Response, host: string): Promise<string> {
  const decoder = new TextDecoder()
  const parts: string[] = []
  let bytes = 0
  try {
    for await (const part of response.body ?? []) {
      const chunk: Uint8Array = part
      bytes += chunk.byteLength
      // What is packed counts unpacked.
      if (bytes > MOST_BYTES) throw new OutsideFault('tooLarge', host)
      parts.push(decoder.decode(chunk, { stream: true }))
    }
  } catch (error) {
    throw error instanceof OutsideFault ? error : faultOf(error, host)
  }
  return parts.join('') + decoder.decode()
}

const certificateCodes = /CERT|TLS|SSL|UNABLE_TO_(?:VERIFY|GET_ISSUER)/

/** The cause within what undici throws. */
function faultOf(error: unknown, host: string): OutsideFault {
  const chain: Error[] = []
  let at = error
  while (at instanceof Error && chain.length < 5) {
    chain.push(at)
    at = at.cause ?? (at instanceof AggregateError ? at.errors[0] : undefined)
  }
  const codes = chain.map(link => ('code' in link ? String(link.code) : ''))
  const has = (pattern: RegExp) => codes.some(code => pattern.test(code))
  if (chain.some(link => link instanceof PrivateAddress)) return new OutsideFault('notAllowed', host)
  if (chain.some(link => link.name === 'TimeoutError') || has(/TIMEOUT|ETIMEDOUT/)) return new OutsideFault('timedOut', host)
  if (has(/WRONG_VERSION_NUMBER|PACKET_LENGTH_TOO_LONG|EPROTO/)) return new OutsideFault('noEncryption', host)
  if (has(/^ENOTFOUND$|^EAI_/)) return new OutsideFault('unknownHost', host)
  return new OutsideFault(has(certificateCodes) ? 'certificate' : 'unreachable', host)
}
