import { isDeepStrictEqual } from 'node:util'
import { z } from 'zod'
import { ServiceFault, type ServiceFaultKind } from '.'

/** Calls to the JSON interface of a service. */

export interface ServiceInterface {
  url: string
  timeoutSeconds: number
  /** The service's own code and words for a refusal. */
  readRefusal: (body: unknown) => { code: string, message: string }
  /** What the service's own codes mean for the account; others may go through later. */
  faultKinds: Readonly<Record<string, ServiceFaultKind>>
}

export interface ServiceRequest {
  method: string
  path: string
  headers?: Record<string, string>
  body?: unknown
  /** Statuses that count as done. */
  accepted?: readonly number[]
  mostSeconds?: number | undefined
}

/** One call. Throws ServiceFault. */
export async function callService(
  service: ServiceInterface, { method, path, headers = {}, body, accepted = [], mostSeconds = service.timeoutSeconds }: ServiceRequest,
): Promise<unknown> {
  const seconds = Math.min(service.timeoutSeconds, mostSeconds)
  let response: Response
  let text: string
  try {
    response = await fetch(service.url + path, {
      method,
      headers: { 'content-type': 'application/json', ...headers },
      redirect: 'error',
      signal: AbortSignal.timeout(seconds * 1000),
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    })
    text = await readText(response)
  } catch (error) {
    if (error instanceof ServiceFault) throw error
    const timedOut = error instanceof DOMException && error.name === 'TimeoutError'
    throw new ServiceFault(timedOut ? { code: 'timeout', seconds: Math.round(seconds) } : { code: 'unreachable' })
  }
  const value = parseJson(text)
  if (response.ok || accepted.includes(response.status)) return value
  const { code, message } = service.readRefusal(value)
  throw new ServiceFault({ code: 'answered', status: response.status, reason: message.slice(0, 200) }, service.faultKinds[code] ?? 'other')
}

/** The values that are not what they should be. */
export function differences(wanted: Readonly<Record<string, unknown>>, found: unknown): Record<string, unknown> {
  const known = z.record(z.string(), z.unknown()).safeParse(found).data ?? {}
  return Object.fromEntries(Object.entries(wanted).filter(([key, value]) => !isDeepStrictEqual(value, known[key])))
}

/** Throws ServiceFault for an answer of another shape. */
export function read<Schema extends z.ZodType>(schema: Schema, value: unknown): z.output<Schema> {
  const result = schema.safeParse(value)
  if (result.success) return result.data
  throw new ServiceFault({ code: 'unreadable' })
}

/** Throws ServiceFault for credentials that are not ours. */
export function readCredentials<Schema extends z.ZodType>(schema: Schema, credentials: string): z.output<Schema> {
  const result = schema.safeParse(parseJson(credentials))
  if (result.success) return result.data
  throw new ServiceFault({ code: 'unreadable' }, 'accessLost')
}

export const webAddress = z.url({ protocol: /^https?$/ }).max(2000)

const MOST_CHARACTERS = 4_000_000

/** The body as text. Throws ServiceFault for one that is longer than any answer of the interface. */
async function readText(response: Response): Promise<string> {
  const decoder = new TextDecoder()
  let text = ''
  const reader = response.body?.getReader()
  for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
    text += decoder.decode(part.value, { stream: true })
    if (text.length > MOST_CHARACTERS) throw new ServiceFault({ code: 'tooLong' })
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
