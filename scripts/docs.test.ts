import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { documentedTables } from './documented-tables'

it.each(documentedTables)('$file shows its table as the code has it (`npm run docs` writes it)', ({ file, table }) => {
  expect(readFileSync(file, 'utf8')).toContain(`<!-- table -->\n${table()}\n<!-- /table -->`)
})
