import { type Outside, parseAddress } from '../../outside'
import { type AccountDetails, CalendarFault } from '..'
import { hostOf, isSuccess, request } from '../requests'
import { type Authorize, type CalDavPlace, calDavAccess, type Dav, davOf } from '.'
import { all, find, type Resource } from './xml'

/** From what a person types to their calendars (RFC 6764, RFC 5397, RFC 4791 §6.2.1, RFC 6638 §2.4.1). */

/** Where CalDAV answers, found without credentials: the only place that gets them. */
export interface CalDavStart {
  url: string
  host: string
  origin: string
}

const PRINCIPAL = '<?xml version="1.0" encoding="utf-8"?><D:propfind xmlns:D="DAV:"><D:prop><D:current-user-principal/></D:prop></D:propfind>'

/** Addresses, mail addresses and mail domains alike. Throws CalendarFault. */
export async function discover(outside: Outside, typed: string): Promise<CalDavStart> {
  let first: CalendarFault | null = null
  for (const address of candidates(typed)) {
    try {
      const { status, url } = await request(outside, address, {
        method: 'PROPFIND', body: PRINCIPAL, headers: { 'depth': '0', 'content-type': 'application/xml; charset=utf-8' },
      }, status => isSuccess(status) || status === 401)
      if (status === 207 || status === 401) return { url, host: new URL(url).host, origin: new URL(url).origin }
    } catch (error) {
      if (!(error instanceof CalendarFault)) throw error
      // What cannot be reached at all is not reached at another path either.
      if (error.fault.status === null) throw error
      first ??= error
    }
  }
  throw first && first.fault.code === 'serverError' ? first : new CalendarFault('notCalDav', hostOf(candidates(typed)[0] ?? typed))
}

/** What is typed with a path is taken at its word first. */
function candidates(typed: string): string[] {
  const text = typed.trim()
  const address = /^[a-z][a-z0-9+.-]*:\/\//i.test(text) ? text : `https://${text.split('@').at(-1) ?? ''}`
  let url: URL
  try {
    url = parseAddress(address)
  } catch {
    throw new CalendarFault('noAddress', text.slice(0, 100))
  }
  const wellKnown = `${url.origin}/.well-known/caldav`
  return url.pathname === '/' ? [wellKnown, url.href] : [url.href, wellKnown]
}

export interface FoundAccount extends AccountDetails {
  place: CalDavPlace
}

/** The account that credentials open. Throws CalendarFault. */
export async function openAccount(outside: Outside, start: CalDavStart, user: string | null, authorize: Authorize): Promise<FoundAccount> {
  const dav = davOf(outside, start.origin, authorize)
  const begun = await dav.propfind(start.url, '<D:current-user-principal/><C:calendar-home-set/><C:calendar-user-address-set/>', '0')
  const [resource] = begun.resources
  const principal = hrefOf(resource, 'current-user-principal', begun.url)
  const about = principal ? await principalAt(dav, principal) : resource
  const home = hrefOf(about, 'calendar-home-set', principal ?? begun.url)
  if (!about || !home) throw new CalendarFault('notCalDav', start.host)
  const mailAddresses = all(about.props.get('calendar-user-address-set'), 'href')
    .map(({ text }) => /^mailto:(.+)$/i.exec(text.trim())?.[1]?.toLowerCase() ?? '').filter(Boolean)
  const addresses = [...new Set([...mailAddresses, ...(user?.includes('@') ? [user.toLowerCase()] : [])])].slice(0, 20)
  const place = { home, origin: start.origin }
  const label = user === null ? `${start.host}${mailAddresses[0] ? `, as ${mailAddresses[0]}` : ''}` : `${start.host}, as ${user}`
  const details = await calDavAccess(outside, place, { label, addresses }, authorize).describe()
  if (details.calendars.length === 0) throw new CalendarFault('noCalendars', start.host)
  return { ...details, place }
}

async function principalAt(dav: Dav, address: string): Promise<Resource | undefined> {
  const { resources } = await dav.propfind(address, '<C:calendar-home-set/><C:calendar-user-address-set/>', '0')
  return resources[0]
}

function hrefOf(resource: Resource | undefined, name: string, base: string): string | null {
  const href = find(resource?.props.get(name), 'href')?.text.trim()
  return href ? new URL(href, base).href : null
}
