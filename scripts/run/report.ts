/** Progress with times, for the long steps too. */

const STILL_SECONDS = 15

export function log(message: string): void {
  process.stdout.write(`[${new Date().toTimeString().slice(0, 8)}] ${message}\n`)
}

/** Runs a step, says how long it took, and says in between that it still goes on. */
export async function step<Result>(name: string, work: () => Promise<Result>): Promise<Result> {
  const startedAt = Date.now()
  const seconds = () => Math.round((Date.now() - startedAt) / 100) / 10
  log(`${name} …`)
  const timer = setInterval(() => log(`${name} … still at it after ${Math.round(seconds())} s`), STILL_SECONDS * 1000)
  try {
    const result = await work()
    log(`${name}: done in ${seconds()} s`)
    return result
  } finally {
    clearInterval(timer)
  }
}
