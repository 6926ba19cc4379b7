import sax from 'sax'

/** The XML of requests and answers (RFC 4918). */

/** What a request asks for: the name of its root, the properties it names, and the attributes and texts of what matters. */
export interface DavRequest {
  root: string
  /** Names of properties, without their namespaces. */
  props: string[]
  hrefs: string[]
  token: string | null
  limit: number | null
  range: { start: string, end: string } | null
}

/** Throws where the text is no XML. */
export function readRequest(text: string): DavRequest {
  const found: DavRequest = { root: '', props: [], hrefs: [], token: null, limit: null, range: null }
  if (text.trim() === '') return { ...found, root: 'propfind' }
  const path: string[] = []
  let words = ''
  const parser = sax.parser(true, { xmlns: true })
  parser.onopentag = ({ attributes, ...tag }) => {
    const name = 'local' in tag ? tag.local : ''
    if (path.length === 0) found.root = name
    if (path.at(-1) === 'prop') found.props.push(name)
    path.push(name)
    words = ''
    const attribute = (key: string) => String(Object.values(attributes).find(value => typeof value === 'object' && value.name === key)?.value ?? '')
    if (name === 'time-range') found.range = { start: attribute('start'), end: attribute('end') }
  }
  parser.ontext = (part) => {
    words += part
  }
  parser.onclosetag = () => {
    const name = path.pop()
    if (name === 'href') found.hrefs.push(words.trim())
    if (name === 'sync-token') found.token = words.trim()
    if (name === 'nresults') found.limit = Number(words)
    words = ''
  }
  parser.onerror = (error) => {
    throw error
  }
  parser.write(text).close()
  return found
}

export function escape(text: string): string {
  return text.replaceAll(/[&<>"]/g, sign => `&#${sign.charCodeAt(0)};`)
}

export interface DavResource {
  href: string
  /** XML by the name of the property. */
  props: Record<string, string>
}

const prefixes: Record<string, string> = {
  'calendar-home-set': 'C', 'calendar-user-address-set': 'C', 'supported-calendar-component-set': 'C', 'calendar-data': 'C',
  'calendar-timezone-id': 'C', 'getctag': 'S', 'calendar-color': 'A',
}

/** A property's element, under the prefix of its namespace. */
function element(name: string, content: string | null): string {
  const full = `${prefixes[name] ?? 'D'}:${name}`
  return content === null || content === '' ? `<${full}/>` : `<${full}>${content}</${full}>`
}

const OPEN = '<?xml version="1.0" encoding="utf-8"?>\n<D:multistatus xmlns:D="DAV:" xmlns:C="urn:ietf:params:xml:ns:caldav" '
  + 'xmlns:S="http://calendarserver.org/ns/" xmlns:A="http://apple.com/ns/ical/">'

/** What each resource has of the wanted properties, and which it has not. */
export function multistatus(resources: readonly DavResource[], wanted: readonly string[], gone: readonly string[] = [], more = ''): string {
  const rows = resources.map(({ href, props }) => {
    const has = wanted.filter(name => name in props)
    const lacks = wanted.filter(name => !(name in props))
    const part = (names: string[], status: string, content: (name: string) => string | null) => (names.length === 0 ? '' : `<D:propstat><D:prop>${names.map(name => element(name, content(name))).join('')}</D:prop><D:status>HTTP/1.1 ${status}</D:status></D:propstat>`)
    return `<D:response><D:href>${escape(href)}</D:href>${part(has, '200 OK', name => props[name] ?? null)}${part(lacks, '404 Not Found', () => null)}</D:response>`
  })
  const missing = gone.map(href => `<D:response><D:href>${escape(href)}</D:href><D:status>HTTP/1.1 404 Not Found</D:status></D:response>`)
  return `${OPEN}${rows.join('\n')}${missing.join('\n')}${more}</D:multistatus>`
}

/** A condition of the protocol that was not met (RFC 4918 §16), with what follows from it. */
export function conditionError(name: string, content = ''): string {
  return `<?xml version="1.0" encoding="utf-8"?>\n<D:error xmlns:D="DAV:" xmlns:C="urn:ietf:params:xml:ns:caldav"><${name}>${content}</${name}></D:error>`
}
