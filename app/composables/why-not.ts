import type { Settings } from '~~/core/event-type/settings'
import type { Explanation, OpeningsQuery } from '~~/core/openings'
import type { Consequences } from '~~/core/openings/consequences'
import { neutralCase } from '~~/core/openings/neutral'
import { formatInstant, instantToSeconds, MINUTE } from '~~/core/time/civil'

const MOST_ASKED = 300
const FINEST = 5 * MINUTE

export interface Answered {
  explanation: Explanation
  query: OpeningsQuery
}

/** Asks why a place of the timetable has no start, and asks again whenever the settings change. */
export function useWhyNot(queryOf: (settings: Settings) => OpeningsQuery, compute: (name: string, query: OpeningsQuery, done: (answer: Consequences) => void) => void) {
  const answered = shallowRef<Answered | null>(null)

  /** Of all times in a place, the one that least speaks against is explained; of equals, the middle one. */
  function ask(settings: Settings, from: number, to: number): void {
    const step = Math.max(FINEST, Math.ceil((to - from) / MOST_ASKED / FINEST) * FINEST)
    const many = Math.max(1, Math.ceil((to - from) / step))
    const query = { ...queryOf(settings), explain: Array.from({ length: many }, (_, i) => formatInstant(from + i * step)) }
    compute('why', { ...query, to: query.from }, ({ explanations }) => {
      const middle = from + Math.floor(many / 2) * step
      const explanation = [...explanations].sort((a, b) => weight(a) - weight(b) || distance(a, middle) - distance(b, middle))[0]
      if (explanation) answered.value = { explanation, query: { ...query, explain: [explanation.at] } }
    })
  }

  function close(): void {
    answered.value = null
  }

  return { answered, ask, close }
}

/** A minute at which nothing starts tells less than the reasons at one where something could. */
function weight({ reasons }: Explanation): number {
  return reasons.length + (reasons.some(reason => reason.code === 'offGrid') ? 1000 : 0)
}

function distance(explanation: Explanation, instant: number): number {
  return Math.abs(instantToSeconds(explanation.at) - instant)
}

/** Hands a query out as a file that answers the same, with neutral names. */
export function saveCase(query: OpeningsQuery): void {
  const url = URL.createObjectURL(new Blob([`${JSON.stringify(neutralCase(query), null, 1)}\n`], { type: 'application/json' }))
  const link = Object.assign(document.createElement('a'), { href: url, download: 'openings-case.json' })
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), 10_000)
}
