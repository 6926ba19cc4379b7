import { type ChildProcess, spawn, type SpawnOptions } from 'node:child_process'
import { closeSync, openSync, readFileSync } from 'node:fs'

/** Child processes that end with the script that started them. */

const STOP_SECONDS = 8

export interface Started {
  name: string
  child: ChildProcess
  stop: (signal?: NodeJS.Signals) => Promise<void>
}

/**
 * Starts a process in a group of its own, so that Ctrl-C reaches only the script, which then ends its children in order.
 * With `ipc`, the child notices when the script is gone, even if it was killed.
 */
export function startProcess(
  name: string,
  command: string,
  args: string[],
  options: SpawnOptions & { logFile: string, ipc?: boolean },
): Started {
  const { logFile, ipc, ...rest } = options
  const log = openSync(logFile, 'a')
  const child = spawn(command, args, { ...rest, detached: true, stdio: ['ignore', log, log, ...(ipc ? ['ipc' as const] : [])] })
  closeSync(log)
  const ended = new Promise<void>(resolve => child.once('exit', () => resolve()))
  return {
    name,
    child,
    stop: async (signal = 'SIGTERM') => {
      if (child.exitCode !== null || child.signalCode !== null) return
      child.kill(signal)
      const timer = setTimeout(() => child.kill('SIGKILL'), STOP_SECONDS * 1000)
      await ended
      clearTimeout(timer)
    },
  }
}

export function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0)
    return true
  } catch (error) {
    return error instanceof Error && 'code' in error && error.code === 'EPERM'
  }
}

/** The command line of a process, empty where there is none: a number alone may by now belong to another program. */
export function commandOf(pid: number): string {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8')
  } catch {
    return ''
  }
}

/** Waits until a condition holds. Rejects with the sentence after a time. */
export async function until(condition: () => Promise<boolean> | boolean, seconds: number, otherwise: string): Promise<void> {
  const end = Date.now() + seconds * 1000
  while (!(await condition())) {
    if (Date.now() > end) throw new Error(otherwise)
    await new Promise(resolve => setTimeout(resolve, 50))
  }
}

export async function answers(url: string): Promise<boolean> {
  try {
    return (await fetch(url, { signal: AbortSignal.timeout(2000) })).ok
  } catch {
    return false
  }
}
