/**
 * Work of one kind in this process, one after the other: bookings of one event type would only overtake each other. Other
 * processes are not kept out, which is the database's task.
 */
const tails = new Map<string, Promise<unknown>>()

export async function inTurn<Result>(key: string, work: () => Promise<Result>): Promise<Result> {
  const before = tails.get(key) ?? Promise.resolve()
  const own = before.then(work, work)
  const tail = own.catch(() => undefined)
  tails.set(key, tail)
  try {
    return await own
  } finally {
    if (tails.get(key) === tail) tails.delete(key)
  }
}
