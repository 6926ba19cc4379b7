import { z } from 'zod'

/** What each host of a pool had of its sessions over a period, what they were due by weight, and why the two differ. */

const count = z.int()

export const shareReasonSchema = z.discriminatedUnion('code', [
  z.strictObject({ code: z.literal('withinOne') }),
  /** Days in the period on which the host was away, by exceptions of their hours. */
  z.strictObject({ code: z.literal('away'), days: count }),
  /** Sessions at whose time the host was not free: nothing is owed for them. */
  z.strictObject({ code: z.literal('notAble'), sessions: count }),
  z.strictObject({ code: z.literal('chosen'), sessions: count }),
  /** What came because others were not free. */
  z.strictObject({ code: z.literal('othersNotAble') }),
  z.strictObject({ code: z.literal('othersChosen'), sessions: count }),
  z.strictObject({ code: z.literal('handedTo'), sessions: count }),
  z.strictObject({ code: z.literal('handedAway'), sessions: count }),
  /** Owed, or ahead, by rotation itself: it evens out as sessions come. */
  z.strictObject({ code: z.literal('evensOut') }),
])
export type ShareReason = z.infer<typeof shareReasonSchema>

export interface HostCounts {
  weight: number
  /** Sessions the host has, or had. */
  had: number
  /** Sessions at whose time the host was able. */
  able: number
  /** Of those had: picked by clients or members, and taken over from others. */
  chosen: number
  handedTo: number
  /** Sessions that the host had and that went to others. */
  handedAway: number
  awayDays: number
}

export interface Share {
  /** Sessions due by weight; null where the list decides. */
  target: number | null
  reasons: ShareReason[]
}

/** Each host's share of a pool's sessions, in the order of the hosts. */
export function sharesOf(hosts: readonly HostCounts[], inOrder: boolean): Share[] {
  const total = hosts.reduce((sum, host) => sum + host.had, 0)
  const weights = hosts.reduce((sum, host) => sum + host.weight, 0)
  const all = { total, chosen: hosts.reduce((sum, host) => sum + host.chosen, 0) }
  return hosts.map((host) => {
    if (inOrder) return { target: null, reasons: [] }
    const target = total * host.weight / weights
    return { target, reasons: Math.abs(host.had - target) < 1 ? [{ code: 'withinOne' }] : reasonsOf(host, all, host.had > target, hosts) }
  })
}

/** What can have led to more, or to fewer, sessions than were due. */
function reasonsOf(host: HostCounts, all: { total: number, chosen: number }, isMore: boolean, hosts: readonly HostCounts[]): ShareReason[] {
  const isOtherAway = hosts.some(other => other !== host && other.able < all.total)
  const found: ShareReason[] = isMore
    ? [
        { code: 'chosen', sessions: host.chosen },
        { code: 'handedTo', sessions: host.handedTo },
        ...(isOtherAway ? [{ code: 'othersNotAble' as const }] : []),
      ]
    : [
        { code: 'away', days: host.awayDays },
        { code: 'notAble', sessions: all.total - host.able },
        { code: 'othersChosen', sessions: all.chosen - host.chosen },
        { code: 'handedAway', sessions: host.handedAway },
      ]
  const applying = found.filter(reason => ('days' in reason ? reason.days : 'sessions' in reason ? reason.sessions : 1) > 0)
  return applying.length > 0 ? applying : [{ code: 'evensOut' }]
}
