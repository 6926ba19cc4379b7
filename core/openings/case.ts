import type { z } from 'zod'
import { fromCase } from './engine-query'
import { type OpeningsQuery, querySchema } from './schema'
import { sizeFault } from './query-size'

/** A query that does not fit the format; `path` is the JSON path of the first fault. */
export class CaseError extends Error {
  constructor(readonly path: string, message: string) {
    super(message)
    this.name = 'CaseError'
  }
}

/** Checks a value against the format. Throws CaseError. */
export function parseQuery(value: unknown): OpeningsQuery {
  const result = querySchema.safeParse(value)
  const issue = result.error?.issues[0]
  if (issue?.code === 'unrecognized_keys')
    throw new CaseError(jsonPath([...issue.path, issue.keys[0] ?? '']), 'No such member belongs here')
  if (issue) throw new CaseError(jsonPath(issue.path), isMissing(value, issue.path) ? 'This member is missing' : sentence(issue))
  const query = result.data as OpeningsQuery
  const fault = sizeFault(fromCase(query))
  if (fault) throw new CaseError(jsonPath(fault.path), fault.message)
  return query
}

/** Reads a query from JSON text. Throws CaseError, with path `$` for text that is not JSON. */
export function readQuery(text: string): OpeningsQuery {
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch {
    throw new CaseError('$', 'The text is not JSON')
  }
  return parseQuery(value)
}

const plainName = /^[A-Za-z_]\w*$/

/** A JSON path (RFC 9535): `$.hosts[0].plans`; members with unusual names are quoted. */
export function jsonPath(path: readonly PropertyKey[]): string {
  return path.reduce<string>((text, step) => {
    if (typeof step === 'number') return `${text}[${step}]`
    return plainName.test(String(step)) ? `${text}.${String(step)}` : `${text}[${JSON.stringify(String(step))}]`
  }, '$')
}

function isMissing(value: unknown, path: readonly PropertyKey[]): boolean {
  let at = value
  for (const step of path) {
    if (typeof at !== 'object' || at === null) return false
    if (!Object.hasOwn(at, step)) return true
    at = Reflect.get(at, step)
  }
  return false
}

/** The schema's own messages are sentences already; what Zod says by itself of objects is not. */
function sentence(issue: z.core.$ZodIssue): string {
  return issue.code === 'invalid_type' && issue.expected === 'object' ? 'Expected an object' : issue.message
}
