import type { Answers, WorkerContext, Question, ToWorker } from '~/workers/consequences.worker'

/**
 * Questions to a web worker. While it works, only the newest question of each name waits; what was asked in between is
 * never computed.
 */
export function useConsequences() {
  let worker: Worker | null = null
  let count = 0
  let known: WorkerContext | null = null
  const waiting = new Map<string, { question: Question, done: (answer: never) => void }>()
  let running: { id: number, done: (answer: never) => void } | null = null

  const send = (message: ToWorker) => worker?.postMessage(message)

  function next(): void {
    if (running || !worker || !known) return
    const [name, asked] = waiting.entries().next().value ?? []
    if (name === undefined || !asked) return
    waiting.delete(name)
    running = { id: ++count, done: asked.done }
    send({ id: running.id, question: asked.question })
  }

  onMounted(() => {
    worker = new Worker(new URL('../workers/consequences.worker.ts', import.meta.url), { type: 'module' })
    worker.onmessage = ({ data }: MessageEvent<{ id: number, answer: never }>) => {
      if (running?.id === data.id) running.done(data.answer)
      running = null
      next()
    }
    if (known) send({ context: known })
    next()
  })
  onBeforeUnmount(() => worker?.terminate())

  /** What is known around the event type, without proxies; it is copied to the worker once. */
  function know(context: WorkerContext): void {
    known = context
    send({ context })
    next()
  }

  /** Asks under a name; a newer question under the same name takes the place of one that still waits. */
  function compute<Kind extends Question['kind']>(
    name: string,
    question: Extract<Question, { kind: Kind }>,
    done: (answer: Answers[Kind]) => void,
  ): void {
    waiting.set(name, { question: plain(question), done })
    next()
  }

  return { know, compute }
}

/** A copy without the proxies of the page's state, which cannot cross to a worker. */
function plain<Value>(value: Value): Value {
  return JSON.parse(JSON.stringify(value)) as Value
}
