import type { InputFault } from '../validation'
import { faultOf } from '../validation'
import { fromCase } from './engine-query'
import { type OpeningsQuery, querySchema } from './schema'
import { sizeFault } from './query-size'

/** A query that does not fit the format. The path of its fault is a JSON path. */
export class CaseError extends Error {
  constructor(readonly fault: InputFault) {
    super(`${fault.path} ${fault.code}`)
    this.name = 'CaseError'
  }
}

/** Checks a value against the format. Throws CaseError. */
export function parseQuery(value: unknown): OpeningsQuery {
  const result = querySchema.safeParse(value)
  const issue = result.error?.issues[0]
  if (issue) {
    const path = issue.code === 'unrecognized_keys' ? [...issue.path, issue.keys[0] ?? ''] : issue.path
    throw new CaseError({ ...faultOf(issue, value), path: jsonPath(path) })
  }
  const query = result.data as OpeningsQuery
  const fault = sizeFault(fromCase(query))
  if (fault) throw new CaseError({ ...fault, path: jsonPath([fault.path]) })
  return query
}

/** Reads a query from JSON text. Throws CaseError, with path `$` for text that is not JSON. */
export function readQuery(text: string): OpeningsQuery {
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch {
    throw new CaseError({ path: '$', code: 'notJson', values: {} })
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
