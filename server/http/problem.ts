import { getRouterParam, type H3Event, setResponseHeader, setResponseStatus } from 'h3'
import type { z } from 'zod'
import type { ChangeRefusal } from '../../core/booking/refusals'
import { formatInputFault } from '../../core/catalogue/input'
import { formatProblem, type ProblemReason, type ProblemReasonValues } from '../../core/catalogue/problems'
import { type InputCode, type InputFault, type InputFaultValues, inputFaults, joinPath } from '../../core/validation'
import { isConstraintFault, isDataFault, isRetryable, isUnavailable } from '../database/faults'
import { QueryTooLarge, TooManyOpenings } from '../event-types'
import { logFault } from '../log'
import { type ProblemCode, problemAddress, problems } from './problems'

/** Problem documents (RFC 9457), and values from outside checked by Zod. */

export class Problem extends Error {
  constructor(
    readonly code: ProblemCode,
    readonly detail: string,
    readonly more: Record<string, unknown> = {},
  ) {
    super(code)
    this.name = 'Problem'
  }

  get status(): number {
    return problems[this.code].status
  }
}

/** A problem whose sentence stands in the catalogue; its reason and values go with it. */
export function problem<Reason extends ProblemReason>(
  code: ProblemCode, reason: Reason, values: ProblemReasonValues[Reason], more: Record<string, unknown> = {},
): Problem {
  return new Problem(code, formatProblem(reason, values), { reason, values, ...more })
}

export const notFound = (reason: 'nothingHere' | 'noSuchCall' | 'linkUnknown' | 'hostsNothing' = 'nothingHere') =>
  problem('notFound', reason, {})

export function invalid(status: 400 | 422, faults: readonly InputFault[]): Problem {
  const errors = faults.map(fault => ({ ...fault, message: formatInputFault(fault) }))
  return new Problem(status === 400 ? 'malformed' : 'invalid', errors.map(error => error.message).join('. '), { errors })
}

/** What a client may no longer change by themselves. */
export const tooLate = (refusal: ChangeRefusal) =>
  problem('tooLate', refusal === 'pastDeadline' ? 'pastDeadline' : refusal === 'hasBegun' ? 'hasBegun' : 'sessionOver', {})

/** Refuses one value: `throw refuse(422, 'ids', 'unknownEventType', {})`. */
export function refuse<Code extends InputCode>(status: 400 | 422, path: string, code: Code, values: InputFaultValues[Code]): Problem {
  return invalid(status, [{ path, code, values }])
}

const RETRY_SECONDS = 5

/** What an error means for whoever asked. Only what nobody foresaw is a 500. */
function problemFrom(error: unknown): Problem {
  if (error instanceof Problem) return error
  if (error instanceof TooManyOpenings)
    return refuse(400, 'to', 'tooManyOpenings', { most: error.most })
  if (error instanceof QueryTooLarge) return invalid(400, [error.fault])
  if (isUnavailable(error) || isRetryable(error))
    return problem('notAvailable', 'databaseAway', {})
  if (isConstraintFault(error))
    return problem('changedMeanwhile', 'changedAtOnce', {})
  if (isDataFault(error)) return refuse(400, '', 'unstorable', {})
  return problem('unexpected', 'unexpected', {})
}

const MOST_BYTES_READ_ANYWAY = 64 * 1024 * 1024
const LINGER_MS = 3000

/**
 * Reads the rest of a body that was refused and throws it away, for a moment: who is cut off while still sending sees a
 * broken connection instead of the answer. False where it has no known end, or too far a one.
 */
function readsOn({ node: { req } }: H3Event): boolean {
  if (Number(req.headers['content-length'] ?? Infinity) > MOST_BYTES_READ_ANYWAY) return false
  setTimeout(() => req.complete || req.socket.destroy(), LINGER_MS).unref()
  return true
}

export function answerProblem(event: H3Event, error: unknown): Record<string, unknown> {
  const found = problemFrom(error)
  if (!(error instanceof Problem)) logFault(`${event.method} ${event.context.matchedRoute?.path ?? ''}`, error)
  if (found.status === 503) setResponseHeader(event, 'retry-after', RETRY_SECONDS)
  if (found.status === 408 || (found.status === 413 && !readsOn(event))) setResponseHeader(event, 'connection', 'close')
  setResponseStatus(event, found.status)
  setResponseHeader(event, 'content-type', 'application/problem+json; charset=utf-8')
  setResponseHeader(event, 'cache-control', 'no-store')
  const { code, detail, more } = found
  const { status, title } = problems[code]
  return { type: problemAddress(code), title, status, detail, ...more }
}

/** Checks any value from outside. Throws Problem 400. */
export function check<Schema extends z.ZodType>(schema: Schema, value: unknown, at = ''): z.output<Schema> {
  const unstorable = findUnstorableText(value).map(path => ({ path: joinPath(at, path), code: 'unstorable' as const, values: {} }))
  if (unstorable.length > 0) throw invalid(400, unstorable)
  const result = schema.safeParse(value)
  if (result.success) return result.data
  throw invalid(400, inputFaults(result.error, value, at))
}

/** Zero bytes and halves of characters, which no database keeps. */
const isStorable = (text: string) => !text.includes('\0') && text.isWellFormed()

/** Where a value holds text that cannot be stored, as a value or as a name. */
function findUnstorableText(value: unknown, path: PropertyKey[] = []): PropertyKey[][] {
  if (typeof value === 'string') return isStorable(value) ? [] : [path]
  if (value === null || typeof value !== 'object') return []
  return Object.entries(value).flatMap(([name, member]) => (isStorable(name) ? findUnstorableText(member, [...path, name]) : [path]))
}

export function param(event: H3Event, name: string): string {
  const text = getRouterParam(event, name, { decode: true }) ?? ''
  if (!isStorable(text)) throw notFound()
  return text
}

/** An id from an address; anything that is no id leads nowhere. */
export function idParam(event: H3Event, name: string): string {
  const id = param(event, name)
  if (!/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(id)) throw notFound()
  return id
}
