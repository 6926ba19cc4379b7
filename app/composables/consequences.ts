import type { OpeningsQuery } from '~~/core/openings'
import type { Consequences } from '~~/core/openings/consequences'
import type { ConsequencesAnswer, ConsequencesRequest } from '~/workers/consequences.worker'

/**
 * Openings computed in a web worker. While it works, only the newest question waits; what was asked in between is
 * never computed.
 */
export function useConsequences() {
  let worker: Worker | null = null
  let count = 0
  const waiting = new Map<string, { query: OpeningsQuery, done: (answer: Consequences) => void }>()
  let running: { id: number, done: (answer: Consequences) => void } | null = null

  function next(): void {
    if (running || !worker) return
    const [name, question] = waiting.entries().next().value ?? []
    if (name === undefined || !question) return
    waiting.delete(name)
    running = { id: ++count, done: question.done }
    const request: ConsequencesRequest = { id: running.id, query: question.query }
    worker.postMessage(request)
  }

  onMounted(() => {
    worker = new Worker(new URL('../workers/consequences.worker.ts', import.meta.url), { type: 'module' })
    worker.onmessage = ({ data }: MessageEvent<ConsequencesAnswer>) => {
      if (running?.id === data.id) running.done(data)
      running = null
      next()
    }
    next()
  })
  onBeforeUnmount(() => worker?.terminate())

  /** Asks under a name; a newer question under the same name takes the place of one that still waits. */
  function compute(name: string, query: OpeningsQuery, done: (answer: Consequences) => void): void {
    waiting.set(name, { query, done })
    next()
  }

  return { compute }
}
