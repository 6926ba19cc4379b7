import { readFileSync, writeFileSync } from 'node:fs'
import { documentedTables } from './documented-tables'

/** Writes the tables of the documentation between their marks, as the code has them. */

for (const { file, table } of documentedTables) {
  const [before, , after] = readFileSync(file, 'utf8').split(/(?<=<!-- table -->\n)|(?=<!-- \/table -->)/)
  writeFileSync(file, `${before}${table()}\n${after}`)
}
