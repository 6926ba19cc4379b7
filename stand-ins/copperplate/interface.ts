import { defineEventHandler, type EventHandler, getHeader, type H3Event } from 'h3'
import { takeFault } from '../shared/faults'
import { overlaps, uidOf } from './objects'
import { type CopperplateStore, PAGE, type StoredAccount, type StoredCalendar, type StoredObject } from './store'
import { conditionError, type DavRequest, type DavResource, escape, multistatus, readRequest } from './xml'

/** CalDAV (RFC 4791) with collection synchronization (RFC 6578), as docs/stand-ins.md describes it. */

interface Answer {
  status: number
  body?: string
  type?: string
  headers?: Record<string, string>
}

const ROOT = '/dav/'
const MOST_BYTES = 25_000_000

/** Answers what lies under /dav/ and the well-known address; everything else is left to the pages. */
export function copperplateInterface(store: CopperplateStore): EventHandler {
  return defineEventHandler(async (event) => {
    const path = decodeURI((event.path.split('?')[0] ?? ''))
    if (path === '/.well-known/caldav') return send(event, { status: 301, headers: { location: ROOT } })
    if (!path.startsWith(ROOT)) return
    const fault = takeFault(store)
    const body = await readText(event)
    if (fault.kind === 'slow') await new Promise(resolve => setTimeout(resolve, fault.seconds * 1000))
    const answer = fault.kind === 'failing' ? { status: 503 }
      : fault.kind === 'refusing' ? { status: 403, body: conditionError('D:need-privileges') }
        : fault.kind === 'garbled' ? { status: 207, body: '<D:multistatus><D:respo' } : answerTo(event, path, body)
    note(event, fault.kind === 'losing' ? 0 : answer.status)
    if (fault.kind === 'losing') {
      event.node.req.socket.destroy()
      event._handled = true
      return
    }
    return send(event, answer)
  })

  function answerTo(event: H3Event, path: string, body: string): Answer {
    const account = signedIn(event)
    if (!account) return { status: 401, headers: { 'www-authenticate': 'Basic realm="Copperplate Calendar", charset="UTF-8"' } }
    if (event.method === 'OPTIONS') return { status: 200, headers: { dav: '1, 3, calendar-access', allow: 'OPTIONS, GET, PUT, DELETE, PROPFIND, REPORT' } }
    const found = resourceAt(account, path)
    if (!found) return { status: 404 }
    try {
      switch (String(event.method)) {
        case 'PROPFIND':
          return propfind(account, found, readRequest(body), getHeader(event, 'depth') ?? '0')
        case 'REPORT':
          return report(account, found, readRequest(body))
        case 'GET':
          return found.object ? { status: 200, body: found.object.text, type: 'text/calendar; charset=utf-8', headers: { etag: etagOf(found.object) } } : { status: 405 }
        case 'PUT':
          return put(account, found, event, body)
        case 'DELETE':
          return remove(found, event)
        default:
          return { status: 405 }
      }
    } catch (error) {
      return { status: 400, body: String(error), type: 'text/plain' }
    }
  }

  function signedIn(event: H3Event): StoredAccount | null {
    if (store.on.has('refuseAccess')) return null
    const [scheme = '', value = ''] = (getHeader(event, 'authorization') ?? '').split(' ')
    if (scheme.toLowerCase() === 'bearer') return store.account(store.userOfToken(value, Math.floor(Date.now() / 1000)) ?? '')
    const [user = '', ...password] = Buffer.from(value, 'base64').toString('utf8').split(':')
    const account = store.account(user)
    return account && account.password === password.join(':') ? account : null
  }

  function propfind(account: StoredAccount, found: Found, { props }: DavRequest, depth: string): Answer {
    const wanted = props.length > 0 ? props : ['resourcetype', 'displayname', 'getetag']
    const below = depth === '0' ? []
      : found.kind === 'home' ? account.calendars.map(calendar => calendarResource(account, calendar))
        : found.kind === 'calendar' ? Object.values(found.calendar.objects).map(object => objectResource(account, found.calendar, object)) : []
    return { status: 207, body: multistatus([resourceOf(account, found), ...below], wanted) }
  }

  function resourceOf(account: StoredAccount, found: Found): DavResource {
    const principal = `<D:href>${principalOf(account)}</D:href>`
    if (found.kind === 'calendar') return calendarResource(account, found.calendar)
    if (found.kind === 'object') return found.object ? objectResource(account, found.calendar, found.object) : { href: found.href, props: {} }
    const common = { 'current-user-principal': principal, 'resourcetype': '<D:collection/>', 'displayname': 'Copperplate Calendar' }
    if (found.kind !== 'principal') return { href: found.href, props: common }
    return {
      href: found.href,
      props: {
        ...common, 'resourcetype': '<D:principal/>', 'displayname': escape(account.name),
        'calendar-home-set': `<D:href>${homeOf(account)}</D:href>`,
        'calendar-user-address-set': `<D:href>mailto:${escape(account.email)}</D:href><D:href>${principalOf(account)}</D:href>`,
      },
    }
  }

  function calendarResource(account: StoredAccount, calendar: StoredCalendar): DavResource {
    const write = calendar.readOnly ? '' : '<D:privilege><D:write/></D:privilege><D:privilege><D:write-content/></D:privilege><D:privilege><D:bind/></D:privilege>'
    return {
      href: calendarHref(account, calendar),
      props: {
        'resourcetype': '<D:collection/><C:calendar/>',
        'displayname': escape(calendar.name),
        'calendar-color': escape(calendar.colour),
        'supported-calendar-component-set': '<C:comp name="VEVENT"/>',
        'current-user-privilege-set': `<D:privilege><D:read/></D:privilege>${write}`,
        // RFC 7809: a zone by its name.
        'calendar-timezone-id': escape(account.timeZone),
        'getctag': `${calendar.log.length}`,
        ...(hasSync() ? { 'sync-token': tokenOf(calendar), 'supported-report-set': '<D:supported-report><D:report><D:sync-collection/></D:report></D:supported-report>' } : {}),
      },
    }
  }

  function objectResource(account: StoredAccount, calendar: StoredCalendar, object: StoredObject, withText = false): DavResource {
    return {
      href: `${calendarHref(account, calendar)}${encodeURIComponent(object.name)}`,
      props: { getetag: escape(etagOf(object)), resourcetype: '', ...(withText ? { 'calendar-data': escape(object.text) } : {}) },
    }
  }

  function report(account: StoredAccount, found: Found, request: DavRequest): Answer {
    if (found.kind !== 'calendar') return { status: 403, body: conditionError('D:supported-report') }
    const { calendar } = found
    const resources = (objects: StoredObject[]) =>
      objects.map(object => objectResource(account, calendar, object, request.props.includes('calendar-data')))
    if (request.root === 'calendar-multiget') {
      const names = request.hrefs.map(href => [href, calendar.objects[decodeURIComponent(href.split('/').at(-1) ?? '')]] as const)
      return {
        status: 207,
        body: multistatus(
          resources(names.flatMap(([, object]) => object ?? [])), request.props, names.flatMap(([href, object]) => (object ? [] : [href])),
        ),
      }
    }
    if (request.root === 'calendar-query') {
      const { range } = request
      const [from, to] = [instant(range?.start, -8.64e15), instant(range?.end, 8.64e15)]
      const within = Object.values(calendar.objects).filter(({ text }) => !range || overlaps(text, from, to))
      return { status: 207, body: multistatus(resources(within), request.props) }
    }
    if (request.root === 'sync-collection' && hasSync()) return syncCollection(account, calendar, request)
    return { status: 403, body: conditionError('D:supported-report') }
  }

  function syncCollection(account: StoredAccount, calendar: StoredCalendar, { token, limit, props }: DavRequest): Answer {
    const since = token === '' || token === null ? 0 : placeOf(calendar, token)
    if (since === null || (since > 0 && store.on.has('refuseTokens'))) return { status: 403, body: conditionError('D:valid-sync-token') }
    const most = store.on.has('smallPages') ? PAGE : limit ?? Infinity
    const changed = new Set<string>()
    let place = since
    for (; place < calendar.log.length && changed.size < most; place++) changed.add(calendar.log[place] ?? '')
    const present = [...changed].flatMap(name => calendar.objects[name] ?? [])
    // From the beginning, what has gone since is no news.
    const gone = since === 0 ? [] : [...changed].filter(name => !calendar.objects[name])
    const base = calendarHref(account, calendar)
    const cut = place < calendar.log.length
      ? `<D:response><D:href>${base}</D:href><D:status>HTTP/1.1 507 Insufficient Storage</D:status></D:response>` : ''
    return {
      status: 207,
      body: multistatus(
        present.map(object => objectResource(account, calendar, object, props.includes('calendar-data'))),
        props, gone.map(name => `${base}${encodeURIComponent(name)}`), `${cut}<D:sync-token>${tokenOf(calendar, place)}</D:sync-token>`),
    }
  }

  function put(account: StoredAccount, found: Found, event: H3Event, body: string): Answer {
    if (found.kind !== 'object') return { status: 405 }
    if (found.calendar.readOnly) return { status: 403, body: conditionError('D:need-privileges') }
    const { calendar, object, name } = found
    const [ifMatch, ifNone] = [getHeader(event, 'if-match'), getHeader(event, 'if-none-match')]
    if ((ifNone === '*' && object) || (ifMatch && (!object || ifMatch !== object.etag))) return { status: 412 }
    let uid: string
    try {
      uid = uidOf(body)
    } catch {
      return { status: 403, body: conditionError('C:valid-calendar-data') }
    }
    const other = Object.values(calendar.objects).find(candidate => candidate.uid === uid && candidate.name !== name)
    if (other) return { status: 403, body: conditionError('C:no-uid-conflict', `<D:href>${calendarHref(account, calendar)}${encodeURIComponent(other.name)}</D:href>`) }
    const stored = store.put(calendar, name, body)
    return { status: object ? 204 : 201, headers: { etag: etagOf(stored) } }
  }

  function remove(found: Found, event: H3Event): Answer {
    if (found.kind !== 'object' || !found.object) return { status: 404 }
    if (found.calendar.readOnly) return { status: 403, body: conditionError('D:need-privileges') }
    const ifMatch = getHeader(event, 'if-match')
    if (ifMatch && ifMatch !== found.object.etag) return { status: 412 }
    store.delete(found.calendar, found.name)
    return { status: 204 }
  }

  function hasSync(): boolean {
    return !store.on.has('withoutSync') && !store.on.has('ctagOnly')
  }

  function etagOf(object: StoredObject): string {
    return store.on.has('wrongEtags') ? `"${Math.random().toString(36).slice(2)}"` : object.etag
  }

  function note(event: H3Event, status: number): void {
    store.calls.push({ at: new Date().toISOString(), call: `${event.method} ${event.path}`, status })
    if (store.calls.length > 500) store.calls.shift()
  }
}

type Found =
  | { kind: 'root' | 'principal' | 'home', href: string, object?: undefined }
  | { kind: 'calendar', calendar: StoredCalendar, object?: undefined }
  | { kind: 'object', calendar: StoredCalendar, name: string, href: string, object: StoredObject | undefined }

function resourceAt(account: StoredAccount, path: string): Found | null {
  if (path === ROOT) return { kind: 'root', href: ROOT }
  if (path === principalOf(account)) return { kind: 'principal', href: path }
  if (path === homeOf(account)) return { kind: 'home', href: path }
  const [slug = '', ...rest] = path.startsWith(homeOf(account)) ? path.slice(homeOf(account).length).split('/') : []
  const calendar = account.calendars.find(candidate => candidate.slug === slug)
  if (!calendar || rest.length !== 1) return null
  const [name = ''] = rest
  return name === '' ? { kind: 'calendar', calendar } : { kind: 'object', calendar, name, href: path, object: calendar.objects[name] }
}

function principalOf({ user }: StoredAccount): string {
  return `${ROOT}principals/${user}/`
}

function homeOf({ user }: StoredAccount): string {
  return `${ROOT}calendars/${user}/`
}

function calendarHref(account: StoredAccount, { slug }: StoredCalendar): string {
  return `${homeOf(account)}${slug}/`
}

function tokenOf({ slug, log }: StoredCalendar, place = log.length): string {
  return `urn:copperplate:sync:${slug}:${place}`
}

function placeOf(calendar: StoredCalendar, token: string): number | null {
  const place = Number(token.split(':').at(-1))
  return token === tokenOf(calendar, place) && place >= 0 && place <= calendar.log.length ? place : null
}

function instant(text: string | undefined, preset: number): Date {
  const found = /^(\d{4})(\d\d)(\d\d)T(\d\d)(\d\d)(\d\d)Z$/.exec(text ?? '')
  return found ? new Date(`${found[1]}-${found[2]}-${found[3]}T${found[4]}:${found[5]}:${found[6]}Z`) : new Date(preset)
}

/** The framework reads bodies of the methods of plain HTTP only. */
async function readText(event: H3Event): Promise<string> {
  const parts: Buffer[] = []
  let bytes = 0
  for await (const part of event.node.req) {
    const chunk = Buffer.from(part)
    bytes += chunk.byteLength
    if (bytes > MOST_BYTES) break
    parts.push(chunk)
  }
  return Buffer.concat(parts).toString('utf8')
}

function send(event: H3Event, { status, body = '', type = 'application/xml; charset=utf-8', headers = {} }: Answer): void {
  event.node.res.writeHead(status, { ...(body ? { 'content-type': type } : {}), 'content-length': Buffer.byteLength(body), ...headers })
  event.node.res.end(body)
  event._handled = true
}
