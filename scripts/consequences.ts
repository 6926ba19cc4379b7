import { readFileSync, writeFileSync } from 'node:fs'
import { consequencesTable } from './consequences-table'

/** Writes the table of consequences into docs/consequences.md, between its marks. */

const FILE = 'docs/consequences.md'
const [before, , after] = readFileSync(FILE, 'utf8').split(/(?<=<!-- table -->\n)|(?=<!-- \/table -->)/)
writeFileSync(FILE, `${before}${consequencesTable()}\n${after}`)
