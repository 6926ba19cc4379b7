import { z } from 'zod'
import { type Assignment, assignmentCodes, type Turn } from '.'
import { assign } from './chairs'

/**
 * The ledger of a rotation: every assignment as it was decided and every turn that was given back, in their order. From it
 * credits can be computed anew, and each decision be checked.
 */

const turnSchema = z.strictObject({
  host: z.string(), weight: z.number(), credit: z.number(), assignedAt: z.number().nullable(), change: z.number(),
})

export const entryKinds = ['booked', 'handedOver', 'moved', 'returned', 'retaken'] as const

export const ledgerEntrySchema = z.strictObject({
  id: z.string(),
  /** What the rotation is remembered under: a group, or a chair of its own. */
  pool: z.string(),
  session: z.string(),
  chair: z.string(),
  /**
   * `returned`: the host’s turn was given back, because the session was cancelled or missed, or went to somebody else;
   * `retaken`: it counts after all.
   */
  kind: z.enum(entryKinds),
  policy: z.enum(['fairShare', 'order', 'client']),
  host: z.string(),
  code: z.enum(assignmentCodes),
  /** Seconds since the epoch. */
  at: z.number(),
  /** The assignment that is given back. */
  returns: z.string().nullable(),
  turns: z.array(turnSchema),
})
export type LedgerEntry = z.infer<typeof ledgerEntrySchema>

export const ledgerSchema = z.strictObject({ version: z.literal(1), entries: z.array(ledgerEntrySchema) })

/** Decides a stored assignment once more, from what was stored with it. */
export function replayAssignment({ policy, code, host, turns }: Pick<LedgerEntry, 'policy' | 'code' | 'host' | 'turns'>): Assignment {
  const pool = turns.map(({ change: _change, ...entry }) => entry)
  return assign(policy, pool, new Set(pool.map(entry => entry.host)), code === 'chosen' ? host : undefined)
}

/** What taking an assignment again changes: what it gained and cost when it was decided, over what there is now. */
export function turnsRetaken(assignment: Pick<LedgerEntry, 'turns'>, stateOf: (host: string) => State): Turn[] {
  return assignment.turns.map(({ host, weight, change }) => ({ host, weight, ...stateOf(host), change }))
}

interface State {
  credit: number
  assignedAt: number | null
}

/** What giving an assignment back changes: all that it gained and cost, for everybody who was able, so that the sum stays. */
export function turnsGivenBack(assignment: Pick<LedgerEntry, 'turns'>, stateOf: (host: string) => State): Turn[] {
  return assignment.turns.map(({ host, weight, change }) => ({ host, weight, ...stateOf(host), change: -change || 0 }))
}

/** When the host of an assignment that is given back had their last turn: as before, unless they had another since. */
export function lastTurnAfterReturn({ host, at, turns }: Pick<LedgerEntry, 'host' | 'at' | 'turns'>, current: number | null): number | null {
  return current === at ? turns.find(turn => turn.host === host)?.assignedAt ?? null : current
}

export interface ReplayFault {
  entry: string
  /** What does not agree: where a credit began, who was chosen, or what it changed. */
  what: 'credit' | 'host' | 'change'
  stored: string
  replayed: string
}

export interface Replay {
  /** What each host is owed at the end, by pool. */
  pools: Map<string, Map<string, State>>
  faults: ReplayFault[]
}

const SMALL = 1e-6
const differs = (a: number, b: number) => Math.abs(a - b) > SMALL

/**
 * Plays a ledger from its beginning: decides each assignment anew and compares it with what was stored. A host whom it does
 * not know yet begins as they were stored first.
 */
export function replayLedger(entries: readonly LedgerEntry[]): Replay {
  const pools = new Map<string, Map<string, State>>()
  const assignments = new Map(entries.map(entry => [entry.id, entry]))
  /** The last assignment of each seat that was given back. */
  const givenBack = new Map<string, LedgerEntry>()
  const seatOf = ({ session, chair }: LedgerEntry) => `${session} ${chair}`
  const faults: ReplayFault[] = []
  for (const entry of entries) {
    const pool = pools.get(entry.pool) ?? new Map<string, State>()
    pools.set(entry.pool, pool)
    const stateOf = (host: string): State => pool.get(host) ?? { credit: 0, assignedAt: null }
    for (const { host, credit, assignedAt } of entry.turns) {
      if (!pool.has(host)) pool.set(host, { credit, assignedAt })
      else if (differs(stateOf(host).credit, credit)) faults.push(faultOf(entry, 'credit', credit, stateOf(host).credit))
    }
    const returned = entry.returns === null ? undefined : assignments.get(entry.returns)
    const { host, turns } = entry.kind === 'returned' ? { host: entry.host, turns: returned ? turnsGivenBack(returned, stateOf) : entry.turns }
      : entry.kind === 'retaken' ? { host: entry.host, turns: turnsRetaken(givenBack.get(seatOf(entry)) ?? entry, stateOf) }
        : replayAssignment(entry)
    if (returned) givenBack.set(seatOf(entry), returned)
    if (host !== entry.host) faults.push(faultOf(entry, 'host', entry.host, host))
    for (const { host: name, change } of turns) {
      const stored = entry.turns.find(turn => turn.host === name)?.change ?? 0
      if (differs(change, stored)) faults.push(faultOf(entry, 'change', stored, change))
      pool.set(name, { ...stateOf(name), credit: stateOf(name).credit + stored })
    }
    const { assignedAt } = stateOf(entry.host)
    const last = entry.kind !== 'returned' ? entry.at : returned ? lastTurnAfterReturn(returned, assignedAt) : assignedAt
    pool.set(entry.host, { ...stateOf(entry.host), assignedAt: last })
  }
  return { pools, faults }
}

function faultOf({ id }: LedgerEntry, what: ReplayFault['what'], stored: number | string, replayed: number | string): ReplayFault {
  return { entry: id, what, stored: String(stored), replayed: String(replayed) }
}
