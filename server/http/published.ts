import { getHeader, type H3Event, setResponseHeader, setResponseStatus } from 'h3'
import type { Published } from '../calendars'
import type { Context } from '../context'
import { enforceRateLimit } from './limits'
import { notFound, param } from './problem'

/**
 * Answers with what stands at a secret address, `{token}.{ending}`, or that it is still what the reader has. Wrong tokens are
 * counted against whoever tries them. Throws Problem 404 or 429.
 */
export async function answerPublished(
  event: H3Event, context: Context, ending: string, read: (context: Context, token: string) => Promise<Published | null>,
): Promise<string> {
  const name = param(event, 'name')
  const found = name.endsWith(ending) ? await read(context, name.slice(0, -ending.length)) : null
  if (!found) {
    await enforceRateLimit(event, context, 'token')
    throw notFound()
  }
  setResponseHeader(event, 'content-type', 'text/calendar; charset=utf-8')
  setResponseHeader(event, 'cache-control', 'private, no-cache')
  setResponseHeader(event, 'etag', found.etag)
  const known = (getHeader(event, 'if-none-match') ?? '').split(',').map(tag => tag.trim().replace(/^W\//, ''))
  if (!known.includes(found.etag)) return found.text
  setResponseStatus(event, 304)
  return ''
}
