import { saveFile } from '~/composables/save-file'
import type { Consequences } from '~~/core/event-type/consequences'
import type { Definition } from '~~/core/event-type/definition'
import { type EngineQuery, toCase } from '~~/core/openings/engine-query'
import type { Explanation } from '~~/core/openings/explain'
import { type SpanSummary, summariseSpan } from '~~/core/openings/span-summary'
import { neutralCase } from '~~/core/openings/neutral'
import { formatInstant, MINUTE } from '~~/core/time/civil'

const MOST_ASKED = 300
const FINEST = 5 * MINUTE

/** Asks for explanations of instants under a definition. */
type Explain = (definition: Definition, explain: string[], done: (answer: Consequences) => void) => void

/** What was asked about: one time, or a span of them. */
export type Asked = { kind: 'time', explanation: Explanation } | { kind: 'span', from: number, to: number, summary: SpanSummary }

/** Asks why a place of the timetable has no start, and asks again whenever the definition changes. */
export function useWhyNot(explain: Explain) {
  const answered = shallowRef<Asked | null>(null)
  let last: { from: number, to: number } | null = null

  /** Of a span, all times that something could start at are explained, and summarised. */
  function ask(definition: Definition, from: number, to: number): void {
    last = { from, to }
    const step = Math.max(FINEST, Math.ceil((to - from) / MOST_ASKED / FINEST) * FINEST)
    const many = Math.max(1, Math.ceil((to - from) / step))
    explain(definition, Array.from({ length: many }, (_, i) => formatInstant(from + i * step)), ({ explanations }) => {
      const [only] = explanations
      if (many > 1) answered.value = { kind: 'span', from, to, summary: summariseSpan(explanations) }
      else answered.value = only ? { kind: 'time', explanation: only } : null
    })
  }

  function askAgain(definition: Definition): void {
    if (answered.value && last) ask(definition, last.from, last.to)
  }

  function close(): void {
    answered.value = null
  }

  return { answered, ask, askAgain, close }
}

/** Hands a query out as a file that answers the same, with neutral names. */
export function saveCase(query: EngineQuery): void {
  saveFile('openings-case.json', 'application/json', `${JSON.stringify(neutralCase(toCase(query)), null, 1)}\n`)
}
