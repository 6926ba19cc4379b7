import { promisify } from 'node:util'
import { constants, gzip } from 'node:zlib'
import { getHeader, type H3Event } from 'h3'

const compress = promisify(gzip)
const LEAST_BYTES = 1024

/** A page as the reader's browser takes it: gzipped, or null where it is to be sent as it is. */
export async function gzipPage(event: H3Event, html: string): Promise<Buffer | null> {
  if (html.length < LEAST_BYTES || !(getHeader(event, 'accept-encoding') ?? '').includes('gzip')) return null
  return compress(html, { level: constants.Z_BEST_SPEED })
}
