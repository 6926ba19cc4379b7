import type { H3Event } from 'h3'
import { setResponseHeader } from 'h3'
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible'
import type { Context } from '../context'
import { askerOf, Problem } from './problem'

/** Rate limits, counted in PostgreSQL so that they hold over any number of processes. */

type Limit = 'booking' | 'signIn' | 'token'

const MINUTE = 60

function limiterFor({ pool, settings }: Context, limit: Limit): RateLimiterPostgres {
  const [points, duration] = {
    booking: [settings.bookingsPerMinute, MINUTE],
    signIn: [settings.signInsPerQuarterHour, 15 * MINUTE],
    token: [settings.tokenGuessesPerMinute, MINUTE],
  }[limit] as [number, number]
  return new RateLimiterPostgres({ storeClient: pool, tableName: 'rate_limits', tableCreated: true, keyPrefix: limit, points, duration, clearExpiredByTimeout: false })
}

/** Counts one try of an asker (and of what is tried). Throws Problem 429 when there were too many. */
export async function countTry(event: H3Event, context: Context, limit: Limit, about = ''): Promise<void> {
  try {
    await limiterFor(context, limit).consume(`${askerOf(event)}${about && ` ${about}`}`)
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error
    const seconds = Math.max(1, Math.ceil(error.msBeforeNext / 1000))
    setResponseHeader(event, 'retry-after', seconds)
    throw new Problem(429, 'Too many tries', `Please wait ${seconds < 90 ? `${seconds} seconds` : `${Math.ceil(seconds / 60)} minutes`} and try again.`)
  }
}
