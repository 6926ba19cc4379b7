import { z } from 'zod'
import type { PhoneText, PhoneTextPort } from '..'
import { SendFault } from '../../send-fault'

/** Any service that takes texts over HTTP as docs/messages.md describes, or a small program that speaks to another one. */

export interface PhoneTextService {
  url: string
  token: string
  /** What the reader sees as the sender. */
  sender: string
}

const refusalSchema = z.object({ code: z.string().optional(), message: z.string().optional() })
const MOST_CHARACTERS = 10_000

export function httpPhoneTexts({ url, token, sender }: PhoneTextService, timeoutSeconds: number): PhoneTextPort {
  return {
    send: async ({ id, to, text }: PhoneText) => {
      let response: Response
      try {
        response = await fetch(url, {
          method: 'POST',
          headers: { 'content-type': 'application/json', 'authorization': `Bearer ${token}`, 'idempotency-key': id },
          redirect: 'error',
          signal: AbortSignal.timeout(timeoutSeconds * 1000),
          body: JSON.stringify({ from: sender, to, text }),
        })
      } catch (error) {
        throw faultOf(error, timeoutSeconds)
      }
      if (response.ok) return
      const { code, message = '' } = refusalSchema.safeParse(await readJson(response)).data ?? {}
      const reply = [...message].filter(character => character >= ' ').join('').trim().slice(0, 200) || `HTTP ${response.status}`
      // What a service refuses for good (RFC 9110 §15.5) is not asked again; it may only be busy, or not know us for a while.
      const isFinal = response.status === 400 || response.status === 422
      throw new SendFault(code === 'unknownNumber' ? { code: 'numberUnknown', reply } : { code: 'textService', reply }, isFinal ? 'rejected' : 'refused')
    },
  }
}

/** A connection that never came about has carried nothing; of any other that broke off nobody knows. */
function faultOf(error: unknown, timeoutSeconds: number): SendFault {
  const cause = error instanceof Error ? error.cause : null
  const code = typeof cause === 'object' && cause !== null && 'code' in cause ? cause.code : null
  if (code === 'ECONNREFUSED' || code === 'ENOTFOUND' || code === 'EHOSTUNREACH' || code === 'UND_ERR_CONNECT_TIMEOUT')
    return new SendFault({ code: 'unreachable' }, 'refused')
  const isLate = error instanceof DOMException && error.name === 'TimeoutError'
  return new SendFault(isLate ? { code: 'timeout', seconds: timeoutSeconds } : { code: 'brokeOff' }, 'unknown')
}

async function readJson(response: Response): Promise<unknown> {
  try {
    return JSON.parse((await response.text()).slice(0, MOST_CHARACTERS))
  } catch {
    return null
  }
}
