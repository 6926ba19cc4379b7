import sax from 'sax'

/** The XML of WebDAV answers (RFC 4918) as plain trees: no entities but XML's own, no deep nesting. */

export interface Element {
  /** Without its namespace: what is asked for here has names of its own. */
  name: string
  /** Its `name` attribute, as CalDAV gives to components; empty without one. */
  label: string
  text: string
  children: Element[]
}

/** Thrown for text that is no XML, or more than an answer is. */
export class UnreadableXml extends Error {}

const MOST_DEPTH = 30
const MOST_ELEMENTS = 2_000_000

/** Throws UnreadableXml. */
export function readXml(text: string): Element {
  const top: Element = { name: '', label: '', text: '', children: [] }
  const path = [top]
  let elements = 0
  const parser = sax.parser(true, { xmlns: true, position: false })
  parser.ondoctype = () => {
    throw new UnreadableXml('A document type is not read')
  }
  parser.onopentag = (tag) => {
    if (path.length > MOST_DEPTH || ++elements > MOST_ELEMENTS) throw new UnreadableXml('It nests too deep')
    const { name } = tag.attributes
    const element = {
      name: 'local' in tag ? tag.local : tag.name, label: typeof name === 'object' ? name.value : name ?? '', text: '', children: [],
    }
    path.at(-1)?.children.push(element)
    path.push(element)
  }
  const add = (words: string) => {
    const open = path.at(-1)
    if (open) open.text += words
  }
  parser.ontext = add
  parser.oncdata = add
  parser.onclosetag = () => path.pop()
  parser.onerror = (error) => {
    throw new UnreadableXml(error.message)
  }
  parser.write(text).close()
  const [root] = top.children
  if (!root) throw new UnreadableXml('It is empty')
  return root
}

/** The first element of a name at the end of a path of names. */
export function find(element: Element | undefined, ...names: string[]): Element | undefined {
  return names.reduce<Element | undefined>((found, name) => found?.children.find(child => child.name === name), element)
}

export function all(element: Element | undefined, name: string): Element[] {
  return element?.children.filter(child => child.name === name) ?? []
}

/** One resource of a multistatus: its own status, or the properties that it has. */
export interface Resource {
  href: string
  status: number | null
  props: ReadonlyMap<string, Element>
}

export interface Multistatus {
  resources: Resource[]
  syncToken: string | null
}

/** Throws UnreadableXml. */
export function readMultistatus(text: string): Multistatus {
  const root = readXml(text)
  if (root.name !== 'multistatus') throw new UnreadableXml('It is no multistatus')
  return {
    resources: all(root, 'response').map(response => ({
      href: find(response, 'href')?.text.trim() ?? '',
      status: statusOf(response),
      props: new Map(all(response, 'propstat').filter(part => (statusOf(part) ?? 200) < 300)
        .flatMap(part => find(part, 'prop')?.children ?? []).map(prop => [prop.name, prop])),
    })),
    syncToken: find(root, 'sync-token')?.text.trim() || null,
  }
}

/** Of `HTTP/1.1 404 Not Found`. */
function statusOf(element: Element): number | null {
  const found = /\s(\d{3})\b/.exec(find(element, 'status')?.text ?? '')
  return found ? Number(found[1]) : null
}

export function escapeXml(text: string): string {
  return text.replaceAll(/[&<>"]/g, sign => `&#${sign.charCodeAt(0)};`)
}
