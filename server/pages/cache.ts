import { LRUCache } from 'lru-cache'
import type { Context } from '../context'
import { loadSnapshot, stampOf } from '../event-types'

/**
 * Rendered pages of clients, remembered in this process. A page is the same for everybody who reads it in one zone and
 * language until something it is made from changes, or until the minute is over (lead times move on). What differs between
 * two answers is the nonce of the content security policy, which is set anew each time.
 */

export interface StoredPage {
  html: string
  headers: Readonly<Record<string, string>>
  nonce: string
}

const MOST_CHARACTERS = 40_000_000

const pages = new LRUCache<string, StoredPage>({ maxSize: MOST_CHARACTERS, sizeCalculation: page => page.html.length })

export function findPage(key: string): StoredPage | undefined {
  return pages.get(key)
}

export function storePage(key: string, page: StoredPage): void {
  pages.set(key, page)
}

/** The page with another nonce, as text and as headers. */
export function withNonce({ html, headers, nonce }: StoredPage, fresh: string): StoredPage {
  const replace = (text: string) => text.replaceAll(nonce, fresh)
  return {
    html: replace(html),
    headers: Object.fromEntries(Object.entries(headers).map(([name, value]) => [name, replace(value)])),
    nonce: fresh,
  }
}

/** What a page is asked for with, as far as it changes what is rendered. */
export interface PageRequest {
  path: string
  workspace: string
  language: string
  zoneCookie: string
}

/** Under what a page is remembered, or null where it is not: of unknown or unconfirmed workspaces. One short query. */
export async function pageKey(
  { db, now }: Pick<Context, 'db' | 'now'>,
  { path, workspace, language, zoneCookie }: PageRequest,
): Promise<string | null> {
  const snapshot = await loadSnapshot(db, workspace)
  if (!snapshot?.workspace.confirmed) return null
  return JSON.stringify([path, language, zoneCookie, stampOf(snapshot, now())])
}
