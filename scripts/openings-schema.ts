import { writeFileSync } from 'node:fs'
import { caseSchema } from '../core/openings/json-schema'

/** Writes the JSON Schema of the case format, which the docs ship, from the schema that checks cases. */
writeFileSync('docs/openings-case.schema.json', `${JSON.stringify(caseSchema(), null, 1)}\n`)
