import { randomBytes } from 'node:crypto'
import { getCookie, getHeader, type H3Event, setResponseHeader } from 'h3'
import { contextOf } from '../http/define'
import { isPreview } from '../http/public'
import { findPage, pageKey, type StoredPage, withNonce } from '../pages/cache'
import { gzipPage } from '../pages/compress'

/** First words of addresses that are no workspace's. */
const RESERVED = /^\/(?:_nuxt|desk|api|bookings|health|feeds|freebusy|embed|assets|problems|__)/
const PAGE = /^\/([a-z0-9-]{1,80})(?:\/[a-z0-9-]{1,80}){0,2}(?:\?.*)?$/

/** Answers clients' pages that were rendered before and are still true, without rendering them. */
export default defineEventHandler(async (event) => {
  const workspace = event.method === 'GET' && !RESERVED.test(event.path) ? PAGE.exec(event.path)?.[1] : undefined
  // What is rendered for a page of an error passes here a second time.
  if (workspace === undefined || import.meta.dev || getHeader(event, 'x-nuxt-error') || isPreview(event)) return
  const key = await pageKey(contextOf(event), {
    path: event.path, workspace, language: getHeader(event, 'accept-language') ?? '', zoneCookie: getCookie(event, 'zone') ?? '',
  }).catch(() => null)
  if (key === null) return
  const known = findPage(key)
  if (known) return answer(event, withNonce(known, randomBytes(16).toString('base64')))
  event.context.pageKey = key
})

async function answer(event: H3Event, { html, headers }: StoredPage): Promise<string | Buffer> {
  for (const [name, value] of Object.entries(headers)) setResponseHeader(event, name, value)
  const packed = await gzipPage(event, html)
  if (packed === null) return html
  setResponseHeader(event, 'content-encoding', 'gzip')
  setResponseHeader(event, 'vary', 'accept-encoding')
  return packed
}
