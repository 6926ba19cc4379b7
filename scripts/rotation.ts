import { readFileSync } from 'node:fs'
import { ledgerSchema, replayAssignment, replayLedger } from '../core/rotation/ledger'

/**
 * Decides stored assignments once more: `npm run -s rotation -- LEDGER.json` (or `-` for standard input). A ledger is what
 * `/api/desk/sessions/{id}/assignments` and `/api/desk/rotation/{id}/ledger` answer. Exit status 1 where a stored decision is
 * not what the rule gives, 2 where the file is no ledger.
 */

const file = process.argv[2] ?? '-'
const parsed = ledgerSchema.safeParse(readJson(file))
if (!parsed.success) {
  const [issue] = parsed.error.issues
  process.stderr.write(`$.${issue?.path.join('.') ?? ''}: this is not a ledger\n`)
  process.exit(2)
}
const { entries } = parsed.data
for (const entry of entries) {
  const time = new Date(entry.at * 1000).toISOString()
  if (entry.kind === 'returned') {
    process.stdout.write(`${time} ${entry.host} gives the turn of ${entry.returns} back\n`)
    continue
  }
  const { host, code, turns } = replayAssignment(entry)
  const owed = turns.map(turn => `${turn.host} ${(turn.credit + turn.change + (turn.host === host && turn.change !== 0 ? 1 : 0)).toFixed(4)}`)
  process.stdout.write(`${time} ${host} (${code}), owed: ${owed.join(', ')}\n`)
}
const { pools, faults } = replayLedger(entries)
for (const [pool, hosts] of pools) {
  const credits = [...hosts].map(([host, { credit }]) => `${host} ${credit.toFixed(4)}`)
  process.stdout.write(`pool ${pool}: ${credits.join(', ')}\n`)
}
for (const { entry, what, stored, replayed } of faults) {
  process.stdout.write(`${entry}: the stored ${what} is ${stored}, the rule gives ${replayed}\n`)
}
process.exit(faults.length > 0 ? 1 : 0)

function readJson(path: string): unknown {
  try {
    return JSON.parse(readFileSync(path === '-' ? 0 : path, 'utf8'))
  } catch {
    return undefined
  }
}
