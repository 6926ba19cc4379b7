/** The error of a class that some work throws; another error, or none, fails the test. */
export function thrown<Thrown extends Error>(kind: abstract new (...given: never[]) => Thrown, work: () => unknown): Thrown {
  try {
    work()
  } catch (error) {
    if (error instanceof kind) return error
    throw error
  }
  throw new Error(`Expected a ${kind.name}, but nothing was thrown`)
}
