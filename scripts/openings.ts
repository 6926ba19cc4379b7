import { formatInputFault } from '../core/catalogue/input'
import { readFileSync } from 'node:fs'
import { CaseError, answerQuery, readQuery } from '../core/openings'

/** Answers one openings query from a file (or from standard input for "-"). */

const source = process.argv[2]
if (!source) {
  process.stderr.write('Usage: npm run -s openings -- CASE.json   (or - for standard input)\n')
  process.exit(2)
}

try {
  const text = readFileSync(source === '-' ? 0 : source, 'utf8')
  process.stdout.write(`${JSON.stringify(answerQuery(readQuery(text)), null, 1)}\n`)
} catch (error) {
  if (error instanceof CaseError) process.stderr.write(`${error.fault.path}: ${formatInputFault(error.fault)}\n`)
  else process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`)
  process.exitCode = 2
}
