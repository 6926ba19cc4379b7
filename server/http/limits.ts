import { createHash } from 'node:crypto'
import { getHeader, type H3Event, setResponseHeader } from 'h3'
import { RateLimiterMemory, RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible'
import type { Context } from '../context'
import { clientAddress, sourceOf } from '../networks'
import { problem } from './problem'

/**
 * Rate limits. Attempts to write or to guess are counted in PostgreSQL, so that they hold over any number of processes;
 * reads are counted in memory, which costs no write.
 */

type Limit = 'code' | 'booking' | 'signIn' | 'signInSource' | 'signUp' | 'token' | 'invitation' | 'connect' | 'testMail'

const MINUTE = 60
const QUARTER_HOUR = 15 * MINUTE
const HOUR = 60 * MINUTE
/** Mails to people who are not members yet. */
const INVITATIONS_PER_HOUR = 100
/** Calendar servers that a workspace has asked for. */
const CONNECTIONS_PER_HOUR = 200
/** Mails that somebody who words a message sends to themselves. */
const TEST_MAILS_PER_HOUR = 60
/** Wrong codes of the second factor for one account, from wherever: of a million, three fit at any time. */
const WRONG_CODES_PER_QUARTER_HOUR = 20
/** Accounts that one source may try in the time it may try one. */
const ACCOUNTS_PER_SOURCE = 3

function limiterFor({ pool, settings }: Context, limit: Limit): RateLimiterPostgres {
  const [points, duration] = ({
    booking: [settings.bookingsPerMinute, MINUTE],
    signIn: [settings.signInsPerQuarterHour, QUARTER_HOUR],
    signInSource: [settings.signInsPerQuarterHour * ACCOUNTS_PER_SOURCE, QUARTER_HOUR],
    signUp: [settings.signInsPerQuarterHour, QUARTER_HOUR],
    token: [settings.tokenGuessesPerMinute, MINUTE],
    invitation: [INVITATIONS_PER_HOUR, HOUR],
    connect: [CONNECTIONS_PER_HOUR, HOUR],
    testMail: [TEST_MAILS_PER_HOUR, HOUR],
    code: [WRONG_CODES_PER_QUARTER_HOUR, QUARTER_HOUR],
  } as const)[limit]
  return new RateLimiterPostgres({
    storeClient: pool,
    tableName: 'rate_limits',
    tableCreated: true,
    keyPrefix: limit,
    points,
    duration,
    clearExpiredByTimeout: false,
  })
}

/** Counts one attempt of a source (at something). Throws Problem 429 when there were too many. */
export async function enforceRateLimit(event: H3Event, context: Context, limit: Limit, about = ''): Promise<void> {
  await consume(event, () => limiterFor(context, limit).consume(hashKey(`${sourceKey(event, context)} ${about}`)))
}

/** Throws Problem 429 while there were too many wrong codes for an address; call it before a code is tried. */
export async function enforceCodeLimit(event: H3Event, context: Context, email: string): Promise<void> {
  const failures = await limiterFor(context, 'code').get(hashKey(email.toLowerCase()))
  const isOver = failures !== null && failures.consumedPoints >= WRONG_CODES_PER_QUARTER_HOUR
  await consume(event, () => (isOver ? Promise.reject(failures) : Promise.resolve()))
}

/** Only whoever has the right password brings codes, so no stranger can use these tries up. */
export async function countWrongCode(context: Context, email: string): Promise<void> {
  await limiterFor(context, 'code').penalty(hashKey(email.toLowerCase()))
}

async function consume(event: H3Event, count: () => Promise<unknown>): Promise<void> {
  try {
    await count()
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error
    const seconds = Math.max(1, Math.ceil(error.msBeforeNext / 1000))
    setResponseHeader(event, 'retry-after', seconds)
    throw problem('tooManyTries', 'wait', { seconds })
  }
}

/** Wrong passwords for one account, from wherever, after which each further one is slowed down. */
const FREE_FAILURES = 10
const LONGEST_DELAY_MS = 8000
const FIRST_DELAY_MS = 250

function accountLimiter({ pool }: Context): RateLimiterPostgres {
  return new RateLimiterPostgres({
    storeClient: pool,
    tableName: 'rate_limits',
    tableCreated: true,
    keyPrefix: 'account',
    points: 1_000_000,
    duration: QUARTER_HOUR,
    clearExpiredByTimeout: false,
  })
}

/** Slows guessing at one account down without ever locking its owner out: whoever has the right password only waits. */
export async function delaySignIn(context: Context, email: string): Promise<void> {
  const failures = (await accountLimiter(context).get(hashKey(email)))?.consumedPoints ?? 0
  if (failures <= FREE_FAILURES) return
  await new Promise(resolve => setTimeout(resolve, Math.min(LONGEST_DELAY_MS, FIRST_DELAY_MS * 2 ** (failures - FREE_FAILURES - 1))))
}

export async function countFailedSignIn(context: Context, email: string): Promise<void> {
  await accountLimiter(context).consume(hashKey(email))
}

export async function forgetFailedSignIns(context: Context, email: string): Promise<void> {
  await accountLimiter(context).delete(hashKey(email))
}

let reads: RateLimiterMemory | undefined

/** Counts one public read of a source, in this process. Throws Problem 429. */
export async function enforceReadLimit(event: H3Event, context: Context): Promise<void> {
  // What a page asks for while it is rendered in this process belongs to the request for the page.
  if (!event.node.req.socket?.remoteAddress) return
  reads ??= new RateLimiterMemory({ points: context.settings.readsPerMinute, duration: MINUTE })
  const limiter = reads
  await consume(event, () => limiter.consume(sourceKey(event, context)))
}

/** Who asks, as a hash: an address is personal data. */
function sourceKey(event: H3Event, { settings }: Context): string {
  const connection = event.node.req.socket?.remoteAddress
  const address = clientAddress(connection, getHeader(event, 'x-forwarded-for'), settings.trustedProxies) ?? connection
  return hashKey(address ? sourceOf(address) : 'unknown')
}

function hashKey(text: string): string {
  return createHash('sha256').update(text).digest('base64url').slice(0, 32)
}
