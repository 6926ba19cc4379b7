import { z } from 'zod'
import { querySchema } from './schema'

/** The case format as JSON Schema (2020-12). What JSON Schema cannot say (order, references, bounds of the whole) it leaves out. */
export function caseSchema(): Record<string, unknown> {
  const schema = z.toJSONSchema(querySchema, { io: 'input' })
  return JSON.parse(JSON.stringify({ title: 'A query of openings, version 1', ...schema }))
}
