import type { AnswerText } from '../intake'
import { formatDay, formatList, formatTime, formatZone, zoneDifference } from '../time/format'
import { describeClockChange } from './clock-change'
import { htmlMessage, type Message } from './html'
import { type Audience, type Occasion, occasionTable } from './occasions'
import { presets } from './presets'
import { quoteContinuation } from './quoting'
import { createTemplateEngine } from './templates'
import { withHosts } from './with-hosts'

export { type AccountFields, renderAccountMessage } from './account'
export { type Audience, isOccasion, type Occasion, occasions, occasionTable } from './occasions'
export type { Message } from './html'
export { quoteContinuation } from './quoting'
export { PRESET_TITLE, renderTitle, type RenderedTitle, titleFault } from './title'

/** What a message can speak of. All of it is plain text from people or from settings; links are absolute. */
export interface MessageFields {
  workspace: { name: string }
  eventType: { name: string, page: string }
  client: { name: string, email: string, phone: string }
  /** `client`: who has booked, whoever reads it. */
  booking: { client: string, page: string, canMove: boolean, canCancel: boolean, isRequest: boolean, heldUntil: number | null }
  /** Who made the change that the message is about. */
  actor: string
  session: { page: string }
  hostNames: readonly string[]
  /** Whether other people host it than before a move. */
  hasOtherHosts: boolean
  /** Where the reader of a reminder ends reminders. */
  remindersPage: string
  /** Where a client finds all their bookings, in the mail that gives the link. */
  listPage: string
  /** Who comes along with the client, and who does so or no longer does since the change. */
  guests: { all: readonly string[], added: readonly string[], removed: readonly string[] }
  reason: string
  place: string
  /** What whoever has booked should know about the place. */
  placeNote: string
  room: {
    expected: boolean
    link: string
    number: string
    passcode: string
    /** Whether it is under the main user of the workspace's account, not under its host. */
    underMainUser: boolean
  }
  answers: AnswerText[]
  when: {
    start: number
    end: number
    now: number
    readerZone: string
    otherZone: string
    locale: string
    /** Of a move: the time before it, or to which a client went. */
    other: { start: number, end: number } | null
  }
}

const engine = createTemplateEngine('message')

/** Renders a message for its reader: subject on one line, text, and HTML in which all of the text is text. */
export function renderMessage(occasion: Occasion, audience: Audience, fields: MessageFields): Message {
  const wording = presets[occasion][audience]
  const { start, readerZone, locale, other } = fields.when
  const scope = {
    ...fields,
    session: { ...fields.session, title: withHosts(fields.eventType.name, fields.hostNames) },
    hosts: formatList(fields.hostNames),
    booking: { ...fields.booking, heldUntil: heldUntil(fields) },
    guests: { added: formatList(fields.guests.added), removed: formatList(fields.guests.removed) },
    when: {
      short: `${formatDay(start, readerZone, locale)} ${formatTime(start, readerZone, locale)}`,
      other: other ? formatSessionTime(other.start, other.end, readerZone, locale) : '',
    },
  }
  const render = (template: string) => engine.render(template, scope)
  const subject = render(wording.subject).replace(/\s+/g, ' ').trim()
  const opening = render(wording.opening)
  const closing = render(wording.closing)
  const facts = factsOf(occasion, audience, fields)
  return {
    subject,
    text: [opening, facts.map(([name, value]) => `${name}: ${quoteContinuation(value)}`).join('\n'), closing]
      .filter(Boolean)
      .join('\n\n')
      .concat('\n'),
    html: htmlMessage(subject, opening, facts, closing),
  }
}

/** Until when a request waits, where that is before its start; empty otherwise. */
function heldUntil({ booking, when: { start, readerZone, locale } }: MessageFields): string {
  const until = booking.heldUntil
  if (until === null || until >= start) return ''
  return `${formatDay(until, readerZone, locale)}, ${formatTime(until, readerZone, locale)} ${formatZone(readerZone)} time`
}

/** The moment in the reader's zone, and in the other one where they differ: "Sunday 28 March 2027, 15:20 to 15:40 Kolkata time". */
export function formatSessionTime(start: number, end: number, zone: string, locale: string): string {
  return `${formatDay(start, zone, locale)}, ${formatTime(start, zone, locale)} to ${formatTime(end, zone, locale)} ${formatZone(zone)} time`
}

function factsOf(occasion: Occasion, audience: Audience, fields: MessageFields): [string, string][] {
  if (occasionTable[occasion].isGeneral) return []
  const { start, end, now, readerZone, otherZone, locale } = fields.when
  const facts: [string, string][] = [['When', formatSessionTime(start, end, readerZone, locale)]]
  // Two zones with the same clock need not be told apart.
  if (zoneDifference(otherZone, readerZone, start) !== 0)
    facts.push([audience === 'client' ? 'For your host' : 'For the client', formatSessionTime(start, end, otherZone, locale)])
  const change = describeClockChange([readerZone, otherZone], now, start, locale)
  if (change && occasionTable[occasion].lasts !== 'dayOrStart') facts.push(['Clock change', change])
  facts.push(['Where', fields.place], ['Please note', fields.placeNote])
  if (fields.room.link) {
    facts.push(['Link', fields.room.link], ['Number', fields.room.number], ['Passcode', fields.room.passcode])
  }
  if (fields.room.underMainUser && audience === 'host') facts.push(['Room', 'Under the main user of the workspace’s video account, as you are no user there'])
  if (fields.reason) facts.push(['Reason given', fields.reason])
  if (audience === 'host') {
    facts.push(['Client', fields.client.name], ['E-mail', fields.client.email])
    if (fields.client.phone) facts.push(['Phone', fields.client.phone])
  }
  if (fields.guests.all.length > 0) facts.push(['Guests', formatList(fields.guests.all)])
  if (occasionTable[occasion].withAnswers) {
    for (const answer of fields.answers) facts.push([answer.label, answer.text])
  }
  return facts.filter(([, value]) => value !== '')
}
