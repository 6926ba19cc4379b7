import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { consequencesTable } from './consequences-table'

it('the documentation shows the table of consequences as the code has it (`npm run docs` writes it)', () => {
  expect(readFileSync('docs/consequences.md', 'utf8')).toContain(`<!-- table -->\n${consequencesTable()}\n<!-- /table -->`)
})
