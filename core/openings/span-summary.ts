import type { Explanation, Reason } from './explain'

/** What speaks against the times of a span, counted. */
export interface SpanSummary {
  /** How many times were looked at: those of the grid, or all where the grid has none in the span. */
  times: number
  offered: number
  /** Most frequent first; a host is named where the reason is one of theirs. */
  reasons: { code: Reason['code'], host: string | null, count: number }[]
  /** The times that were looked at, in order. */
  explanations: Explanation[]
}

/** Counts how often each reason applies over a span. A reason counts once for each time, whatever it says besides. */
export function summariseSpan(explanations: readonly Explanation[]): SpanSummary {
  const onGrid = explanations.filter(({ reasons }) => !reasons.some(reason => reason.code === 'offGrid'))
  const looked = onGrid.length > 0 ? onGrid : [...explanations]
  const counts = new Map<string, SpanSummary['reasons'][number]>()
  for (const { reasons } of looked) {
    const seen = new Set<string>()
    for (const reason of reasons) {
      const host = 'host' in reason ? reason.host : null
      const key = `${reason.code} ${host}`
      if (seen.has(key)) continue
      seen.add(key)
      const known = counts.get(key) ?? { code: reason.code, host, count: 0 }
      known.count++
      counts.set(key, known)
    }
  }
  // Where nothing starts in the whole span, the reasons beside that are the ones that tell.
  const all = [...counts.values()].sort((a, b) => b.count - a.count)
  const told = all.filter(reason => reason.code !== 'offGrid')
  return {
    times: looked.length,
    offered: looked.filter(explanation => explanation.offered).length,
    reasons: told.length > 0 ? told : all,
    explanations: looked,
  }
}
