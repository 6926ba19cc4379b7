import { Liquid } from 'liquidjs'
import { sayDay, sayTime, sayZone } from '../time/say'
import { sayClockChange } from './clock-change'
import { type Audience, type Occasion, wordings } from './occasions'

export { type Audience, type Occasion, occasions } from './occasions'

/** What a message can speak of. All of it is plain text from people or from settings; links are absolute. */
export interface MessageFields {
  workspace: { name: string }
  eventType: { name: string, page: string }
  client: { name: string, email: string, phone: string }
  booking: { page: string }
  session: { page: string }
  hosts: string
  reason: string
  place: string
  room: { expected: boolean, link: string, number: string, passcode: string }
  answers: { label: string, words: string }[]
  when: { start: number, end: number, now: number, readerZone: string, otherZone: string, locale: string }
}

export interface Message {
  subject: string
  text: string
  html: string
}

/**
 * `strictVariables` makes a misspelt field an error rather than a hole in somebody's mail; `memoryLimit` (characters and
 * elements) ends a loop that would hold up everybody.
 */
const liquid = new Liquid({ strictVariables: true, strictFilters: true, ownPropertyOnly: true, memoryLimit: 1e5 })

/** Renders a message for its reader: subject on one line, text, and HTML in which all of the text is text. */
export function renderMessage(occasion: Occasion, audience: Audience, fields: MessageFields): Message {
  const wording = wordings[occasion][audience]
  const { start, readerZone, locale } = fields.when
  const scope = {
    ...fields,
    when: { short: `${sayDay(start, readerZone, locale)} ${sayTime(start, readerZone, locale)}` },
  }
  const render = (template: string) => String(liquid.parseAndRenderSync(template, scope))
  const subject = render(wording.subject).replace(/\s+/g, ' ').trim()
  const opening = render(wording.opening)
  const closing = render(wording.closing)
  const facts = factsOf(occasion, audience, fields)
  return {
    subject,
    text: [opening, facts.map(([name, value]) => `${name}: ${value}`).join('\n'), closing].filter(Boolean).join('\n\n').concat('\n'),
    html: htmlPage(subject, paragraphs(opening, false), factTable(facts), paragraphs(closing, true)),
  }
}

/** Title of the calendar entry from its Liquid. */
export function renderTitle(template: string, fields: { client: { name: string }, eventType: { name: string } }): string {
  return String(liquid.parseAndRenderSync(template, fields)).replace(/\s+/g, ' ').trim()
}

/** What is wrong with a title's Liquid, in words, or null. */
export function titleFault(template: string): string | null {
  try {
    renderTitle(template, { client: { name: 'x' }, eventType: { name: 'x' } })
    return null
  } catch (error) {
    const message = error instanceof Error ? error.message : ''
    const [, what, name] = /^undefined (variable|filter): ([\w.]+)/.exec(message) ?? []
    if (/limit exceeded/.test(message)) return 'It makes too much of itself'
    if (what === 'variable') return `There is no field “${name}”: write {{ client.name }} or {{ eventType.name }}`
    return what === 'filter' ? `There is no filter “${name}”` : 'It cannot be read: write a field as {{ client.name }}'
  }
}

/** The moment in the reader's zone, and in the other one where they differ: "Sunday 28 March 2027, 15:20 to 15:40 Kolkata time". */
export function sayWhen(start: number, end: number, zone: string, locale: string): string {
  return `${sayDay(start, zone, locale)}, ${sayTime(start, zone, locale)} to ${sayTime(end, zone, locale)} ${sayZone(zone)} time`
}

function factsOf(occasion: Occasion, audience: Audience, fields: MessageFields): [string, string][] {
  const { start, end, now, readerZone, otherZone, locale } = fields.when
  const facts: [string, string][] = [['When', sayWhen(start, end, readerZone, locale)]]
  if (otherZone !== readerZone) facts.push([audience === 'client' ? 'For your host' : 'For the client', sayWhen(start, end, otherZone, locale)])
  const change = sayClockChange([readerZone, otherZone], now, start, locale)
  if (change && occasion !== 'cancelled' && occasion !== 'declined') facts.push(['Clock change', change])
  facts.push(['Where', fields.place])
  if (fields.room.link) {
    facts.push(['Link', fields.room.link], ['Number', fields.room.number], ['Passcode', fields.room.passcode])
  }
  if (audience === 'host') {
    facts.push(['Client', fields.client.name], ['E-mail', fields.client.email])
    if (fields.client.phone) facts.push(['Phone', fields.client.phone])
  }
  if (occasion === 'booked' || occasion === 'awaitingApproval') {
    for (const answer of fields.answers) facts.push([answer.label, answer.words])
  }
  return facts.filter(([, value]) => value !== '')
}

const style = {
  body: 'margin:0;padding:24px;background:#FBF8F3;color:#241C27;font-family:Arial,Helvetica,sans-serif;font-size:16px;line-height:1.5',
  card: 'max-width:560px;margin:0 auto;background:#FFFFFF;border:1px solid #E5DDD0;border-left:3px solid #E0A526;border-radius:6px;padding:24px',
  name: 'padding:6px 16px 6px 0;color:#6B5F6E;vertical-align:top;white-space:nowrap',
  value: 'padding:6px 0;vertical-align:top;white-space:pre-line;word-break:break-word',
}

function htmlPage(title: string, ...parts: string[]): string {
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${escape(title)}</title></head>`
    + `<body style="${style.body}"><div style="${style.card}">${parts.join('')}</div></body></html>`
}

function factTable(facts: readonly [string, string][]): string {
  const rows = facts.map(([name, value]) =>
    `<tr><td style="${style.name}" dir="auto">${escape(name)}</td><td style="${style.value}" dir="auto">${name === 'Link' ? anchor(value) : escape(value)}</td></tr>`)
  return `<table role="presentation" style="border-collapse:collapse;margin:0 0 16px">${rows.join('')}</table>`
}

/** Paragraphs of plain text; the closing is our own text, so an address at the end of one of its paragraphs becomes a link. */
function paragraphs(text: string, withLinks: boolean): string {
  return text.split(/\n{2,}/).map((paragraph) => {
    const match = withLinks && /^(.*: )(https?:\/\/[^\s<>"']+)$/s.exec(paragraph)
    const inner = match && match[1] && match[2] ? `${escape(match[1])}<br>${anchor(match[2])}` : escape(paragraph)
    return `<p dir="auto" style="margin:0 0 16px">${inner.replaceAll('\n', '<br>')}</p>`
  }).join('')
}

function anchor(url: string): string {
  return `<a href="${escape(url)}" style="color:#54305C">${escape(url)}</a>`
}

const entities: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', '\'': '&#39;' }

function escape(text: string): string {
  return text.replace(/[&<>"']/g, character => entities[character] ?? character)
}
