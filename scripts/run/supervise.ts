import type { Started } from './processes'
import { log } from './report'

/** Starts a program again whenever it ends by itself, and says so. */

const FIRST_PAUSE_MS = 500
const LONGEST_PAUSE_MS = 30_000
/** After running this long a program counts as sound again. */
const SOUND_MS = 60_000

export function supervise(first: Started, restart: () => Promise<Started>): Started {
  let current = first
  let stopping = false
  let pause = FIRST_PAUSE_MS

  function watch(): void {
    const since = Date.now()
    const onExit = (code: number | null, signal: NodeJS.Signals | null) => {
      if (stopping) return
      if (Date.now() - since > SOUND_MS) pause = FIRST_PAUSE_MS
      log(`${capital(current.name)} ended by itself (${signal ?? `exit code ${code}`}): starting it again`)
      setTimeout(() => void again(), pause)
      pause = Math.min(LONGEST_PAUSE_MS, pause * 2)
    }
    if (current.child.exitCode !== null || current.child.signalCode !== null) onExit(current.child.exitCode, current.child.signalCode)
    else current.child.once('exit', onExit)
  }

  async function again(): Promise<void> {
    if (stopping) return
    try {
      const started = await restart()
      if (stopping) {
        await started.stop()
        return
      }
      current = started
      log(`${capital(current.name)} runs again`)
      watch()
    } catch (error) {
      log(`It does not start: ${error instanceof Error ? error.message : String(error)}. Trying again in ${pause / 1000} s`)
      setTimeout(() => void again(), pause)
      pause = Math.min(LONGEST_PAUSE_MS, pause * 2)
    }
  }

  watch()
  return {
    name: first.name,
    get child() {
      return current.child
    },
    stop: async (signal) => {
      stopping = true
      await current.stop(signal)
    },
  }
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1)
}
