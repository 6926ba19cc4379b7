import { saveFile } from '~/composables/save-file'
import type { Consequences } from '~~/core/event-type/consequences'
import type { Definition } from '~~/core/event-type/definition'
import { type EngineQuery, type Explanation, toCase } from '~~/core/openings'
import { neutralCase } from '~~/core/openings/neutral'
import { formatInstant, instantToSeconds, MINUTE } from '~~/core/time/civil'

const MOST_ASKED = 300
const FINEST = 5 * MINUTE

/** Asks for explanations of instants under a definition. */
type Explain = (definition: Definition, explain: string[], done: (answer: Consequences) => void) => void

/** Asks why a place of the timetable has no start, and asks again whenever the definition changes. */
export function useWhyNot(explain: Explain) {
  const answered = shallowRef<Explanation | null>(null)

  /** Of all times in a place, the one that least speaks against is explained; of equals, the middle one. */
  function ask(definition: Definition, from: number, to: number): void {
    const step = Math.max(FINEST, Math.ceil((to - from) / MOST_ASKED / FINEST) * FINEST)
    const many = Math.max(1, Math.ceil((to - from) / step))
    explain(definition, Array.from({ length: many }, (_, i) => formatInstant(from + i * step)), ({ explanations }) => {
      const middle = from + Math.floor(many / 2) * step
      answered.value = [...explanations].sort((a, b) => weight(a) - weight(b) || distance(a, middle) - distance(b, middle))[0] ?? null
    })
  }

  function askAgain(definition: Definition): void {
    const at = answered.value && instantToSeconds(answered.value.at)
    if (at !== null) ask(definition, at, at)
  }

  function close(): void {
    answered.value = null
  }

  return { answered, ask, askAgain, close }
}

/** A minute at which nothing starts tells less than the reasons at one where something could. */
function weight({ reasons }: Explanation): number {
  return reasons.length + (reasons.some(reason => reason.code === 'offGrid') ? 1000 : 0)
}

function distance(explanation: Explanation, instant: number): number {
  return Math.abs(instantToSeconds(explanation.at) - instant)
}

/** Hands a query out as a file that answers the same, with neutral names. */
export function saveCase(query: EngineQuery): void {
  saveFile('openings-case.json', 'application/json', `${JSON.stringify(neutralCase(toCase(query)), null, 1)}\n`)
}
