import { Worker } from 'node:worker_threads'
import { z } from 'zod'
import { CalendarFault } from '../calendar'
import { type ReadObject, readObjects, type ReadRequest } from './read'

/** Reads calendar objects somewhere. Throws CalendarFault where that takes too much. */
export interface CalendarReader {
  read: (request: ReadRequest) => Promise<ReadObject[]>
  close: () => Promise<void>
}

/** In this thread: for scripts, and for tests of what is done with it. */
export const directReader: CalendarReader = {
  read: request => Promise.resolve(readObjects(request)),
  close: () => Promise.resolve(),
}

const READ_SECONDS = 60
const HEAP_MEGABYTES = 512
/** A thread that nobody needs any more ends. */
const IDLE_SECONDS = 60

interface Waiting {
  resolve: (objects: ReadObject[]) => void
  reject: (error: Error) => void
  timer: NodeJS.Timeout
}

const messageSchema = z.union([
  z.object({ id: z.number(), objects: z.custom<ReadObject[]>(Array.isArray) }),
  z.object({ id: z.number(), error: z.string() }),
])

/** One request after the other in a thread of its own, which is started when it is needed. `code` is the text of its program. */
export function threadReader(code: string): CalendarReader {
  let thread: Worker | null = null
  let idle: NodeJS.Timeout | undefined
  let next = 0
  const waiting = new Map<number, Waiting>()

  function start(): Worker {
    const started = new Worker(code, { eval: true, resourceLimits: { maxOldGenerationSizeMb: HEAP_MEGABYTES } })
    started.on('message', (message: unknown) => {
      const parsed = messageSchema.parse(message)
      finish(parsed.id, found => ('error' in parsed ? found.reject(new Error(parsed.error)) : found.resolve(parsed.objects)))
    })
    // Whatever it was at is given up: it has run out of memory, or of time.
    const lost = () => {
      if (thread !== started) return
      thread = null
      for (const id of [...waiting.keys()]) finish(id, found => found.reject(new CalendarFault('tooMuch', '')))
    }
    started.on('error', lost).on('exit', lost)
    started.unref()
    return started
  }

  function finish(id: number, settle: (found: Waiting) => void): void {
    const found = waiting.get(id)
    if (!found) return
    waiting.delete(id)
    clearTimeout(found.timer)
    settle(found)
    clearTimeout(idle)
    if (waiting.size === 0) idle = setTimeout(() => waiting.size === 0 && void stop(), IDLE_SECONDS * 1000).unref()
  }

  async function stop(): Promise<void> {
    const ended = thread
    thread = null
    await ended?.terminate()
  }

  return {
    read: request => new Promise((resolve, reject) => {
      const id = next++
      thread ??= start()
      const timer = setTimeout(() => {
        const slow = thread
        thread = null
        void slow?.terminate()
        for (const other of [...waiting.keys()]) finish(other, found => found.reject(new CalendarFault('tooMuch', '')))
      }, READ_SECONDS * 1000)
      waiting.set(id, { resolve, reject, timer })
      thread.postMessage({ id, request })
    }),
    close: stop,
  }
}
