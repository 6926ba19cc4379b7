import { z } from 'zod'
import type { Outside, OutsideAnswer } from '../../outside'
import { type AccountDetails, type CalendarAccess, CalendarFault, type CalendarObject, type CalendarWriting, type FoundCalendar, type ListedObject, type Listing } from '..'
import { hostOf, isSuccess, request } from '../requests'
import { type Element, all, escapeXml, find, type Multistatus, readMultistatus, readXml, type Resource, UnreadableXml } from './xml'

/** The client side of CalDAV (RFC 4791): what an account has, what has changed in it (RFC 6578), and its objects. */

/** Where an account's calendars lie, as discovery found it. */
export interface CalDavPlace {
  /** The collection that holds the calendars. */
  home: string
  /** The only place that credentials are sent to. */
  origin: string
}

const NAMESPACES = 'xmlns:D="DAV:" xmlns:C="urn:ietf:params:xml:ns:caldav" xmlns:S="http://calendarserver.org/ns/"'
const CALENDAR_PROPS = '<D:resourcetype/><D:displayname/><D:current-user-privilege-set/><D:sync-token/><S:getctag/>'
  + '<C:supported-calendar-component-set/><C:calendar-timezone/><C:calendar-timezone-id/>'

/** How servers say that they do not know sync-collection, or not this token. */
const withoutSync: ReadonlySet<number> = new Set([400, 403, 404, 405, 409, 410, 412, 415, 500, 501, 507])

/** Objects asked for at once. */
const BATCH = 100

const stateSchema = z.union([
  z.strictObject({ by: z.literal('token'), token: z.string(), mark: z.string().nullable() }),
  z.strictObject({ by: z.literal('etags'), mark: z.string().nullable() }),
])
type State = z.infer<typeof stateSchema>

/** The value of `authorization` as it is now; another one than one that was refused, where there can be another. Throws CalendarFault. */
export type Authorize = (refused: string | null) => Promise<string>

export interface Dav {
  /** Throws CalendarFault. */
  propfind: (address: string, props: string, depth: '0' | '1') => Promise<Multistatus & { url: string }>
  report: (address: string, body: string, isAccepted?: (status: number) => boolean) => Promise<OutsideAnswer>
  send: (
    address: string, method: string, headers: Record<string, string>, body?: string, isAccepted?: (status: number) => boolean,
  ) => Promise<OutsideAnswer>
}

export function davOf(outside: Outside, origin: string, authorize: Authorize): Dav {
  const send: Dav['send'] = async (address, method, headers, body, isAccepted = isSuccess) => {
    const attempt = (authorization: string, accepts: typeof isAccepted) => request(outside, address, {
      method, headers, ...(body === undefined ? {} : { body }), credentials: { origin, authorization },
    }, accepts)
    const authorization = await authorize(null)
    const answer = await attempt(authorization, status => isAccepted(status) || status === 401)
    if (answer.status !== 401) return answer
    const renewed = await authorize(authorization)
    return attempt(renewed, isAccepted)
  }
  const xml = { 'content-type': 'application/xml; charset=utf-8' }
  return {
    send,
    async propfind(address, props, depth) {
      const body = `<?xml version="1.0" encoding="utf-8"?><D:propfind ${NAMESPACES}><D:prop>${props}</D:prop></D:propfind>`
      const answer = await send(address, 'PROPFIND', { ...xml, depth }, body)
      return { ...parse(answer, address), url: answer.url }
    },
    report: (address, body, isAccepted) =>
      send(address, 'REPORT', { ...xml, depth: '1' }, `<?xml version="1.0" encoding="utf-8"?>${body}`, isAccepted),
  }
}

function parse(answer: OutsideAnswer, address: string): Multistatus {
  try {
    return readMultistatus(answer.text)
  } catch (error) {
    if (error instanceof UnreadableXml) throw new CalendarFault('unreadableAnswer', hostOf(address))
    throw error
  }
}

export function calDavAccess(
  outside: Outside, { home, origin }: CalDavPlace, { label, addresses }: Pick<AccountDetails, 'label' | 'addresses'>, authorize: Authorize,
): CalendarAccess {
  const dav = davOf(outside, origin, authorize)

  async function describe() {
    const { resources } = await dav.propfind(home, CALENDAR_PROPS, '1')
    return { label, addresses: [...addresses], calendars: resources.flatMap(resource => calendarOf(resource, home) ?? []) }
  }

  function isUnchanged(calendar: FoundCalendar, state: string | null): boolean {
    return calendar.mark !== null && readState(state)?.mark === calendar.mark
  }

  async function changesSince(calendar: FoundCalendar, text: string | null, plain = false): Promise<Listing | null> {
    if (plain) return listEtags(calendar)
    if (isUnchanged(calendar, text)) return null
    const state = readState(text)
    const byToken = await syncCollection(calendar, state?.by === 'token' ? state.token : null)
    return byToken ?? listEtags(calendar)
  }

  /** Null where the server does not know how. */
  async function syncCollection(calendar: FoundCalendar, token: string | null): Promise<Listing | null> {
    const body = `<D:sync-collection ${NAMESPACES}><D:sync-token>${escapeXml(token ?? '')}</D:sync-token><D:sync-level>1</D:sync-level>`
      + '<D:prop><D:getetag/></D:prop></D:sync-collection>'
    const answer = await dav.report(calendar.href, body, status => isSuccess(status) || withoutSync.has(status))
    if (!isSuccess(answer.status)) {
      // A token that the server no longer takes: from the beginning.
      if (token !== null) return syncCollection(calendar, null)
      return null
    }
    const { resources, syncToken } = parse(answer, calendar.href)
    if (syncToken === null) return null
    const here = hrefOf(calendar.href, calendar.href)
    const members = resources.filter(({ href }) => hrefOf(href, calendar.href) !== here)
    const isCut = resources.some(({ href, status }) => status === 507 && hrefOf(href, calendar.href) === here)
    const hasMore = isCut && syncToken !== token
    return {
      isWhole: token === null,
      objects: members.flatMap(resource => listed(resource, calendar.href)),
      removed: members.filter(({ status }) => status === 404 || status === 410).map(({ href }) => hrefOf(href, calendar.href)),
      state: writeState({ by: 'token', token: syncToken, mark: hasMore ? null : calendar.mark }),
      hasMore,
    }
  }

  async function listEtags(calendar: FoundCalendar): Promise<Listing> {
    const { resources } = await dav.propfind(calendar.href, '<D:getetag/><D:resourcetype/>', '1')
    return {
      isWhole: true, removed: [], hasMore: false,
      objects: resources.filter(({ props }) => !find(props.get('resourcetype'), 'collection')).flatMap(resource => listed(resource, calendar.href)),
      state: writeState({ by: 'etags', mark: calendar.mark }),
    }
  }

  async function load(calendar: Pick<FoundCalendar, 'href'>, hrefs: readonly string[]): Promise<CalendarObject[]> {
    const found: CalendarObject[] = []
    for (let at = 0; at < hrefs.length; at += BATCH) {
      const wanted = hrefs.slice(at, at + BATCH).map(href => `<D:href>${escapeXml(href)}</D:href>`).join('')
      const props = '<D:prop><D:getetag/><C:calendar-data/></D:prop>'
      const answer = await dav.report(calendar.href, `<C:calendar-multiget ${NAMESPACES}>${props}${wanted}</C:calendar-multiget>`)
      for (const { href, props } of parse(answer, calendar.href).resources) {
        const data = props.get('calendar-data')
        if (data) found.push({ href: hrefOf(href, calendar.href), etag: props.get('getetag')?.text.trim() ?? '', text: data.text })
      }
    }
    return found
  }

  async function listWithin(calendar: Pick<FoundCalendar, 'href'>, from: number, to: number): Promise<ListedObject[]> {
    const range = `<C:time-range start="${formatUtc(from)}" end="${formatUtc(to)}"/>`
    const filter = `<C:comp-filter name="VCALENDAR"><C:comp-filter name="VEVENT">${range}</C:comp-filter></C:comp-filter>`
    const answer = await dav.report(
      calendar.href, `<C:calendar-query ${NAMESPACES}><D:prop><D:getetag/></D:prop><C:filter>${filter}</C:filter></C:calendar-query>`)
    return parse(answer, calendar.href).resources.flatMap(resource => listed(resource, calendar.href))
  }

  const put: CalendarWriting['put'] = async (calendar, href, text, etag) => {
    const address = new URL(href, calendar.href).href
    const condition: Record<string, string> = etag === null ? { 'if-none-match': '*' } : ifMatch(etag)
    const headers = { 'content-type': 'text/calendar; charset=utf-8', ...condition }
    const answer = await dav.send(address, 'PUT', headers, text, status => isDone(status) || [403, 404, 409, 412].includes(status))
    if (isDone(answer.status)) return { kind: 'written', etag: answer.headers.get('etag') }
    if (answer.status === 412 || answer.status === 404) return { kind: 'stale' }
    const conflict = conflictingHref(answer.text)
    if (conflict === null) throw new CalendarFault('refused', hostOf(address), answer.status)
    return { kind: 'conflict', href: hrefOf(conflict, calendar.href) }
  }

  const remove: CalendarWriting['remove'] = async (calendar, href, etag) => {
    const address = new URL(href, calendar.href).href
    const { status } = await dav.send(address, 'DELETE', ifMatch(etag), undefined, status => isDone(status) || [404, 410, 412].includes(status))
    return isDone(status) ? 'removed' : status === 412 ? 'stale' : 'gone'
  }

  return { describe, isUnchanged, changesSince, load, listWithin, writing: { put, remove } }
}

/** Whether a change was made; one that answers for parts of it (207, RFC 4918 §9.6.1) was not, as a whole. */
function isDone(status: number): boolean {
  return isSuccess(status) && status !== 207
}

/** The object that has a UID already (RFC 4791 §5.3.2.1); null where something else was refused. */
function conflictingHref(text: string): string | null {
  try {
    return find(readXml(text), 'no-uid-conflict', 'href')?.text.trim() ?? null
  } catch (error) {
    if (error instanceof UnreadableXml) return null
    throw error
  }
}

/** A weak etag matches nothing (RFC 9110 §13.1.1): there the last one to write wins. */
function ifMatch(etag: string | null): Record<string, string> {
  return etag === null || etag === '' || etag.startsWith('W/') ? {} : { 'if-match': etag }
}

/** A resource that is an object. */
function listed({ href, status, props }: Resource, base: string): ListedObject[] {
  const etag = props.get('getetag')?.text.trim()
  return etag === undefined || (status !== null && status >= 300) ? [] : [{ href: hrefOf(href, base), etag, text: null }]
}

/** The path: servers name the same resource with their origin and without. */
function hrefOf(href: string, base: string): string {
  return new URL(href, base).pathname
}

/** A calendar that holds events; null for whatever else lies in a home. */
function calendarOf({ href, props }: Resource, home: string): FoundCalendar | null {
  const types = props.get('resourcetype')
  if (!find(types, 'calendar') || !find(types, 'collection')) return null
  const components = all(props.get('supported-calendar-component-set'), 'comp')
  if (components.length > 0 && !components.some(({ label }) => label.toUpperCase() === 'VEVENT')) return null
  const address = new URL(href, home)
  const text = (name: string) => props.get(name)?.text.trim() || null
  return {
    href: address.href,
    name: (text('displayname') ?? decodeURIComponent(address.pathname.split('/').filter(Boolean).at(-1) ?? 'Calendar')).slice(0, 200),
    writable: isWritable(props.get('current-user-privilege-set')),
    timeZone: text('calendar-timezone-id') ?? text('calendar-timezone'),
    mark: text('sync-token') ?? text('getctag'),
  }
}

const writing = new Set(['all', 'write', 'write-content', 'bind'])

/** A server that says nothing of privileges (RFC 3744) lets its own users write. */
function isWritable(privileges: Element | undefined): boolean {
  if (!privileges) return true
  return all(privileges, 'privilege').some(privilege => privilege.children.some(({ name }) => writing.has(name)))
}

function readState(text: string | null): State | null {
  if (text === null) return null
  const parsed = stateSchema.safeParse(JSON.parse(text))
  return parsed.success ? parsed.data : null
}

function writeState(state: State): string {
  return JSON.stringify(state)
}

function formatUtc(seconds: number): string {
  return new Date(seconds * 1000).toISOString().replaceAll(/[-:]|\.\d+/g, '')
}
