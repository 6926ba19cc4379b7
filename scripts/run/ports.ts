import { createServer } from 'node:net'

/** Whether a loopback port can be listened on. */
export function isFree(port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const server = createServer()
    server.once('error', () => resolve(false))
    server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)))
  })
}

const MOST_TRIES = 200

/** The first free port from a preferred one on, leaving out those already given away. */
export async function freePort(preferred: number, given: Set<number>): Promise<number> {
  for (let port = preferred; port < preferred + MOST_TRIES; port++) {
    if (given.has(port) || !(await isFree(port))) continue
    given.add(port)
    return port
  }
  throw new Error(`No port from ${preferred} to ${preferred + MOST_TRIES} is free`)
}
