/** Progress with times, for the long steps too. */

const STILL_SECONDS = 15

export function say(message: string): void {
  process.stdout.write(`[${new Date().toTimeString().slice(0, 8)}] ${message}\n`)
}

/** Runs a step, says how long it took, and says in between that it still goes on. */
export async function step<Result>(name: string, work: () => Promise<Result>): Promise<Result> {
  const begun = Date.now()
  const seconds = () => Math.round((Date.now() - begun) / 100) / 10
  say(`${name} …`)
  const timer = setInterval(() => say(`${name} … still at it after ${Math.round(seconds())} s`), STILL_SECONDS * 1000)
  try {
    const result = await work()
    say(`${name}: done in ${seconds()} s`)
    return result
  } finally {
    clearInterval(timer)
  }
}
