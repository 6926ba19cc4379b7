import ICAL from 'ical.js'

/** A strict reading of a mail as it goes over the wire: everything that a reader's program may stumble over, in words. */

interface Part {
  type: string
  parameters: Record<string, string>
  content: string
  parts: Part[]
}

/** RFC 5322 §2.1.1, without the line end. */
const LONGEST_LINE = 998
const ONCE = ['from', 'to', 'subject', 'date', 'message-id', 'mime-version', 'content-type']

export function findMailFaults(raw: string, to: string): string[] {
  const faults: string[] = []
  const wrong = (isWrong: boolean, words: string) => isWrong && faults.push(words)
  wrong(/[^\r]\n|\r[^\n]/.test(raw), 'a line does not end with CRLF')
  wrong(raw.split('\r\n').some(line => line.length > LONGEST_LINE), 'a line is too long')
  // eslint-disable-next-line no-control-regex
  wrong(/[^\u0001-\u007f]/.test(raw), 'it holds more than ASCII, which not every server takes')

  const head = fieldsOf(raw.slice(0, raw.indexOf('\r\n\r\n')))
  for (const name of ONCE) wrong(head.filter(field => field.name === name).length !== 1, `${name} is not there exactly once`)
  wrong(head.some(({ name }) => name === 'bcc' || name === 'cc'), 'it goes to others as well')
  const value = (name: string) => head.find(field => field.name === name)?.value ?? ''
  const addresses = value('to').replace(/"(\\.|[^"\\])*"/g, '').match(/[^\s<>,;]+@[^\s<>,;]+/g) ?? []
  wrong(addresses.length !== 1 || addresses[0]?.toLowerCase() !== to.toLowerCase(), `it goes to ${addresses.join(' and ')}`)
  for (const { name, value: text } of head) {
    for (const word of text.match(/=\?[^\s]*\?=/g) ?? [])
      wrong(word.length > 75 || !/^=\?utf-8\?[bq]\?[^?\s]*\?=$/i.test(word), `${name} holds an encoded word that is none (RFC 2047): ${word}`)
  }

  const leaves = leavesOf(partOf(raw))
  const textOf = (type: string) => leaves.find(part => part.type === type)?.content
  const [plain, html] = [textOf('text/plain'), textOf('text/html')]
  wrong(leaves.some(({ content }) => content.includes('\ufffd')), 'a part is not UTF-8')
  wrong(plain === undefined || html === undefined, 'it is not there both as text and as HTML')
  wrong(leaves.findIndex(({ type }) => type === 'text/plain') > leaves.findIndex(({ type }) => type === 'text/html'), 'the plain text comes after the HTML')
  const shown = withoutTags(html ?? '')
  for (const word of wordsOf(plain ?? '')) wrong(!shown.includes(word), `the HTML lacks “${word}”`)
  for (const word of wordsOf(shown)) wrong(!(plain ?? '').includes(word), `the text lacks “${word}”`)
  for (const { parameters, content } of leaves.filter(({ type }) => type === 'text/calendar')) faults.push(...calendarFaults(content, parameters['method'] ?? ''))
  return [...new Set(faults)]
}

/** RFC 5546 and RFC 6047. */
function calendarFaults(text: string, method: string): string[] {
  const faults: string[] = []
  const wrong = (isWrong: boolean, words: string) => isWrong && faults.push(`calendar: ${words}`)
  wrong(text.split('\r\n').some(line => Buffer.byteLength(line) > 75), 'a line is longer than 75 octets')
  const calendar = new ICAL.Component(ICAL.parse(text))
  wrong(calendar.getFirstPropertyValue('method') !== method.toUpperCase(), 'its method is not that of its part')
  const events = calendar.getAllSubcomponents('vevent')
  wrong(events.length !== 1, 'it does not hold one event')
  for (const event of events) {
    for (const name of ['uid', 'dtstamp', 'dtstart', 'sequence', 'organizer'])
      wrong(event.getAllProperties(name).length !== 1, `${name} is not there exactly once`)
    wrong(event.getAllProperties('attendee').length === 0, 'nobody attends')
    wrong(method === 'REQUEST' && event.getFirstPropertyValue('status') === 'CANCELLED', 'a request is cancelled')
  }
  return faults
}

function fieldsOf(head: string): { name: string, value: string }[] {
  return head.replace(/\r\n[ \t]+/g, ' ').split('\r\n').map((line) => {
    const colon = line.indexOf(':')
    return { name: line.slice(0, colon).toLowerCase(), value: line.slice(colon + 1).trim() }
  })
}

function partOf(raw: string): Part {
  const end = raw.indexOf('\r\n\r\n')
  const head = fieldsOf(raw.slice(0, end))
  const body = raw.slice(end + 4)
  const [type = '', ...rest] = (head.find(({ name }) => name === 'content-type')?.value ?? 'text/plain').split(';')
  const parameters = Object.fromEntries(rest.map(item => /^\s*([\w-]+)="?([^"]*)"?\s*$/.exec(item)?.slice(1, 3) ?? ['', '']))
  const boundary = parameters['boundary']
  const encoding = head.find(({ name }) => name === 'content-transfer-encoding')?.value.toLowerCase() ?? '7bit'
  if (boundary === undefined) return { type: type.toLowerCase(), parameters, content: decode(body, encoding), parts: [] }
  const inner = `\r\n${body}`.split(`\r\n--${boundary}`).slice(1)
  if (inner.at(-1)?.startsWith('--') !== true) throw new Error(`The part ${boundary} does not end`)
  return { type: type.toLowerCase(), parameters, content: '', parts: inner.slice(0, -1).map(part => partOf(part.replace(/^\r\n/, ''))) }
}

const leavesOf = (part: Part): Part[] => (part.parts.length > 0 ? part.parts.flatMap(leavesOf) : [part])

function decode(body: string, encoding: string): string {
  if (encoding === 'base64') return Buffer.from(body, 'base64').toString('utf8')
  if (encoding !== 'quoted-printable') return body
  const bytes = body.replace(/=\r\n/g, '').replace(/=([0-9A-F]{2})/g, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)))
  return Buffer.from(bytes, 'latin1').toString('utf8')
}

const entities: Record<string, string> = { 'amp': '&', 'lt': '<', 'gt': '>', 'quot': '"', '#39': '\'' }

/** What somebody sees whose program shows no HTML but its words. */
function withoutTags(html: string): string {
  return html.replace(/<head>.*?<\/head>/s, '').replace(/<(p|div|br|\/p|\/div)[^>]*>/g, '\n').replace(/<[^>]*>/g, '')
    .replace(/&(#?\w+);/g, (_, name: string) => entities[name] ?? '?')
}

const wordsOf = (text: string) => text.split(/\s+/).map(word => word.replace(/[:>]$/, '').replace(/^>$/, '')).filter(Boolean)
