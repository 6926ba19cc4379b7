import { createHash } from 'node:crypto'
import { defineEventHandler, getRequestIP, getRouterParam, type H3Event, readRawBody, setResponseHeader, setResponseStatus } from 'h3'
import type { z } from 'zod'
import type { FieldError } from '../../core/intake'
import type { Context } from '../context'

/** The HTTP side of use cases: problem documents (RFC 9457), bodies checked by Zod, one wrapper for every call. */

export class Problem extends Error {
  constructor(readonly status: number, readonly title: string, readonly detail: string, readonly more: Record<string, unknown> = {}) {
    super(detail)
    this.name = 'Problem'
  }
}

export const notFound = (what = 'There is nothing at this address.') => new Problem(404, 'Not found', what)

export function invalid(status: 400 | 422, errors: FieldError[]): Problem {
  return new Problem(status, 'Something does not fit', errors.map(error => error.message).join('. '), { errors })
}

/** Wraps a call: gives it the context, and turns what it throws into a problem document. */
export function defineCall<Answer>(handler: (event: H3Event, context: Context) => Promise<Answer>) {
  return defineEventHandler(async (event) => {
    try {
      return await handler(event, contextOf(event))
    } catch (error) {
      return answerProblem(event, error)
    }
  })
}

export function contextOf(event: H3Event): Context {
  if (!event.context.app) throw new Problem(503, 'Not ready', 'The application is still starting.')
  return event.context.app
}

export function answerProblem(event: H3Event, error: unknown): Record<string, unknown> {
  const problem = error instanceof Problem ? error : new Problem(500, 'Something failed here', 'It is not your doing, and nothing was changed. Please try again.')
  if (!(error instanceof Problem)) console.error(`${event.method} ${event.path.split('?')[0]} failed:`, error)
  setResponseStatus(event, problem.status)
  setResponseHeader(event, 'content-type', 'application/problem+json; charset=utf-8')
  setResponseHeader(event, 'cache-control', 'no-store')
  return { type: 'about:blank', title: problem.title, status: problem.status, detail: problem.detail, ...problem.more }
}

const MOST_BYTES = 256 * 1024

/** Reads a JSON body and checks it. Throws Problem 400 naming each field at fault, 413 for one that is too large. */
export async function readBodyOf<Schema extends z.ZodType>(event: H3Event, schema: Schema): Promise<z.output<Schema>> {
  if (Number(event.node.req.headers['content-length'] ?? 0) > MOST_BYTES) {
    throw new Problem(413, 'Too large', `A body may have at most ${MOST_BYTES / 1024} kB.`)
  }
  const text = await readRawBody(event)
  if (text && text.length > MOST_BYTES) throw new Problem(413, 'Too large', `A body may have at most ${MOST_BYTES / 1024} kB.`)
  let value: unknown
  try {
    value = JSON.parse(text ?? '')
  } catch {
    throw invalid(400, [{ path: '', message: 'The body is not JSON' }])
  }
  return check(schema, value)
}

/** Checks any value from outside. Throws Problem 400. */
export function check<Schema extends z.ZodType>(schema: Schema, value: unknown, at = ''): z.output<Schema> {
  const unfit = unfitTexts(value).map(path => ({ path: pathOf(at, path), message: 'There is a character in it that cannot be kept' }))
  if (unfit.length > 0) throw invalid(400, unfit)
  const result = schema.safeParse(value)
  if (result.success) return result.data
  throw invalid(400, result.error.issues.flatMap((issue) => {
    if (issue.code === 'unrecognized_keys') return issue.keys.map(key => ({ path: pathOf(at, [...issue.path, key]), message: 'There is no such field' }))
    return [{ path: pathOf(at, issue.path), message: issue.message }]
  }))
}

/** Zero bytes and halves of characters, which no database keeps. */
const isFit = (text: string) => !text.includes('\0') && text.isWellFormed()

/** Where a value holds text that is not fit, as a value or as a name. */
function unfitTexts(value: unknown, path: PropertyKey[] = []): PropertyKey[][] {
  if (typeof value === 'string') return isFit(value) ? [] : [path]
  if (value === null || typeof value !== 'object') return []
  return Object.entries(value).flatMap(([name, one]) => (isFit(name) ? unfitTexts(one, [...path, name]) : [path]))
}

function pathOf(prefix: string, path: readonly PropertyKey[]): string {
  return [...(prefix ? [prefix] : []), ...path].map(String).join('.')
}

export function param(event: H3Event, name: string): string {
  const text = getRouterParam(event, name, { decode: true }) ?? ''
  if (!isFit(text)) throw notFound()
  return text
}

/** An id from an address; anything that is no id leads nowhere. */
export function idParam(event: H3Event, name: string): string {
  const id = param(event, name)
  if (!/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(id)) throw notFound()
  return id
}

/** Who asks, for rate limits: kept as a hash, since an address is personal data. */
export function askerOf(event: H3Event): string {
  return createHash('sha256').update(getRequestIP(event) ?? 'unknown').digest('base64url').slice(0, 22)
}
