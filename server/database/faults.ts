import pg from 'pg'

/** What went wrong in the database, from whatever error reached the caller. */

export interface DatabaseFault {
  /** SQLSTATE, empty where no server answered. */
  code: string
  constraint: string
}

/** The SQLSTATE and constraint of a failed query, wherever in the chain of causes they stand. */
export function databaseFault(error: unknown): DatabaseFault | null {
  for (let cause = error; cause instanceof Error; cause = cause.cause) {
    if (cause instanceof pg.DatabaseError) return { code: cause.code ?? '', constraint: cause.constraint ?? '' }
  }
  return null
}

/** What a transaction was about to change has changed before it had its locks: the same again may go through. */
export class Overtaken extends Error {}

/** Deadlock and serialization failure: the same transaction again may go through. */
const RETRYABLE = new Set(['40P01', '40001'])

export function isRetryable(error: unknown): boolean {
  return error instanceof Overtaken || RETRYABLE.has(databaseFault(error)?.code ?? '')
}

/** What a constraint refuses (class 23): somebody else was quicker, or the value cannot stand where it is. */
export function isConstraintFault(error: unknown): boolean {
  return databaseFault(error)?.code.startsWith('23') ?? false
}

/** A value that the database cannot hold or read (class 22). */
export function isDataFault(error: unknown): boolean {
  return databaseFault(error)?.code.startsWith('22') ?? false
}

const NETWORK_CODES = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', 'ENOTFOUND', 'EHOSTUNREACH'])
/** Texts of the database client, which gives these errors no code. */
const CLIENT_TEXTS =
  /^(Connection terminated|timeout exceeded when trying to connect|Query read timeout|Client has encountered a connection error|Client was closed|Cannot use a pool after calling end)/

/** The database could not be reached, is shutting down or took too long: the same may go through in a moment. */
export function isUnavailable(error: unknown): boolean {
  for (let cause = error; cause instanceof Error; cause = cause.cause) {
    if (cause instanceof pg.DatabaseError) {
      const code = cause.code ?? ''
      // Connection exceptions, too many connections, operator intervention, lock and idle time-outs.
      return /^(08|53|57)/.test(code) || code === '55P03' || code === '25P03'
    }
    if ('code' in cause && typeof cause.code === 'string' && NETWORK_CODES.has(cause.code)) return true
    if (CLIENT_TEXTS.test(cause.message)) return true
  }
  return false
}

/** Runs a transaction again where it met a deadlock or was overtaken, a few times. */
export async function withRetries<Result>(
  work: () => Promise<Result>,
  retryOn: (error: unknown) => boolean = isRetryable,
): Promise<Result> {
  for (let attempt = 1; ; attempt++) {
    try {
      return await work()
    } catch (error) {
      if (!retryOn(error) || attempt === MOST_ATTEMPTS) throw error
    }
  }
}

const MOST_ATTEMPTS = 4

const PERSIST_SECONDS = 180
const PERSIST_PAUSE = 500

/**
 * Writes down what has already happened outside, so it must not get lost: while the database cannot be reached, this
 * tries again for some minutes.
 */
export async function persist<Result>(work: () => Promise<Result>): Promise<Result> {
  const end = Date.now() + PERSIST_SECONDS * 1000
  for (;;) {
    try {
      return await work()
    } catch (error) {
      if (!(isUnavailable(error) || isRetryable(error)) || Date.now() > end) throw error
      await new Promise(resolve => setTimeout(resolve, PERSIST_PAUSE))
    }
  }
}
