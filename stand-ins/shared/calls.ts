import { defineEventHandler, type H3Event, readRawBody, type Router, setResponseStatus } from 'h3'
import type { z } from 'zod'
import { type Fault, noFault, takeFault } from './faults'

/** The calls of a video service's interface: each meets the active fault, is counted, and answers refusals. */

export class Refusal extends Error {
  constructor(readonly status: number, readonly code: string, message: string) {
    super(message)
  }
}

export interface CallLog {
  fault: Fault
  /** Since the start, newest last, for the page that shows them. */
  readonly calls: { at: string, call: string, status: number }[]
  /** Lets those go on that wait until a fault is set again. */
  readonly held: (() => void)[]
  /** Calls under way, and the most there ever were at once. */
  under: number
  most: number
}

export function newCallLog(): CallLog {
  return { fault: noFault, calls: [], held: [], under: 0, most: 0 }
}

export interface CallRules {
  name: string
  log: CallLog
  /** More calls at once are refused. */
  atOnce: number
  refusalBody: (code: string, message: string) => unknown
}

/** What a test asks about the calls: those that are held, those answered, and the most that there were at once. */
export function addCallPage(router: Router, log: CallLog): void {
  router.get('/calls.json', defineEventHandler(() => ({ held: log.held.length, most: log.most, calls: log.calls })))
}

/** Work that makes or drops rooms behaves as the fault says: `doubling` and `forgetting` are its own to follow. */
export type Handler = (event: H3Event, fault: Fault) => Promise<unknown>

export function defineCall({ name, log, atOnce, refusalBody }: CallRules, handler: Handler) {
  return defineEventHandler(async (event) => {
    // A fault for a number of calls waits for one that changes something: who only looks does not use it up.
    const fault = event.method === 'GET' && log.fault.left !== null ? noFault : takeFault(log)
    log.under += 1
    log.most = Math.max(log.most, log.under)
    try {
      if (log.under > atOnce) throw new Refusal(429, 'busy', `no more than ${atOnce} calls at once`)
      if (fault.kind === 'silent') {
        await closed(event)
        return
      }
      // What was asked is known from the start, and done in the end even if nobody waits for the answer any more.
      if ((fault.kind === 'slow' || fault.kind === 'holding') && event.method !== 'GET') await readRawBody(event)
      if (fault.kind === 'slow') await new Promise(resolve => setTimeout(resolve, fault.seconds * 1000))
      if (fault.kind === 'holding') await new Promise<void>(resolve => log.held.push(resolve))
      if (fault.kind === 'failing') throw new Refusal(503, 'unavailable', `${name} is down for a moment`)
      if (fault.kind === 'refusing') throw new Refusal(403, 'refused', 'this account may not do that')
      if (fault.kind === 'garbled') return { rooms: 'perhaps', id: 7, join_url: 'javascript:alert(1)' }
      const answer = await handler(event, fault)
      if (fault.kind === 'losing') {
        note(event, 0)
        event.node.req.socket.destroy()
        return
      }
      note(event, event.node.res.statusCode)
      return answer
    } catch (error) {
      const refusal = error instanceof Refusal ? error : new Refusal(500, 'broken', String(error))
      setResponseStatus(event, refusal.status)
      note(event, refusal.status)
      return refusalBody(refusal.code, refusal.message)
    } finally {
      log.under -= 1
    }
  })

  function note(event: H3Event, status: number): void {
    log.calls.push({ at: new Date().toISOString(), call: `${event.method} ${event.path}`, status })
    if (log.calls.length > 200) log.calls.shift()
  }
}

/** Until whoever asked gives up. */
function closed(event: H3Event): Promise<void> {
  event._handled = true
  return new Promise(resolve => event.node.req.socket.once('close', () => resolve()))
}

/** Throws Refusal for input of another shape. */
export function parse<Schema extends z.ZodType>(schema: Schema, value: unknown): z.output<Schema> {
  const result = schema.safeParse(value)
  if (result.success) return result.data
  const issue = result.error.issues[0]
  throw new Refusal(422, 'invalid', `${issue?.path.join('.') ?? 'body'}: ${issue?.message ?? 'does not fit'}`)
}
