import { formatMoney } from '../payment/money'
import { formatList, zoneDifference } from '../time/format'
import { describeClockChange } from './clock-change'
import { formatSessionTime, hasField, largestFields, type MessageFields, templateFields } from './fields'
import { type Blocks, htmlMessage, type Message, type Part, partsOf } from './html'
import { blockNames, markValue, segmentsOf } from './marked-text'
import { type Audience, type Occasion, occasionTable } from './occasions'
import { fitPhoneText } from './phone-text'
import { phonePresets, presets, type Wording } from './presets'
import { quoteContinuation } from './quoting'
import { fieldNames, TemplateError, type TemplateFault, valueAt } from './template-faults'
import { createTemplateEngine } from './templates'
import type { WordedMessage } from './wording'

export { type AccountFields, renderAccountMessage } from './account'
export { fieldsFor, formatSessionTime, type MessageFields } from './fields'
export { type Audience, isOccasion, type Occasion, occasions, occasionTable } from './occasions'
export type { Message, Part, Piece } from './html'
export { presets, type Wording } from './presets'
export { quoteContinuation } from './quoting'
export { PRESET_TITLE, renderTitle, type RenderedTitle, titleFault } from './title'

const engine = createTemplateEngine('message', markValue)

/** A fault of a message's template, and where it stands. */
export interface MessageFault extends TemplateFault {
  part: 'subject' | 'text'
}

/** Which message is rendered. */
export type MessageKind = Pick<WordedMessage, 'occasion' | 'audience' | 'by'>

export interface RenderedMessage {
  message: Message
  /** The same as it is shown before it is sent, with what fields have given marked as such. */
  preview: { subject: Part[], text: Part[] }
  /** Why the preset stands in for the workspace's own wording, or null where it does not. */
  fault: MessageFault | null
}

/**
 * Renders a message for its reader: subject on one line, text, and HTML in which all of the text is text; of a phone text only the
 * text, as short as such texts are. A wording that fails gives way to the preset.
 */
export function renderMessage(kind: MessageKind, fields: MessageFields, own: Wording | null = null): RenderedMessage {
  const preset = kind.by === 'phone' ? phonePresets[kind.audience] : presets[kind.occasion][kind.audience]
  if (own === null) return { ...render(preset, kind, fields), fault: null }
  try {
    const rendered = render(own, kind, fields)
    const { message } = rendered
    const missing = kind.by === 'mail' && message.subject === '' ? 'subject' : message.text.trim() === '' ? 'text' : null
    if (missing === null) return { ...rendered, fault: null }
    throw new PartError(missing, new TemplateError({ code: 'templateEmpty', values: {} }))
  } catch (error) {
    if (!(error instanceof PartError)) throw error
    return { ...render(preset, kind, fields), fault: { part: error.part, ...error.found } }
  }
}

/** What the names of a message’s fields give, as text; blocks and lists are left out. */
export function templateValues(occasion: Occasion, audience: Audience, fields: MessageFields): Record<string, string> {
  const values = templateFields(fields)
  const blocks: readonly string[] = blockNames
  const names = fieldNames(values).filter(name => !blocks.includes(name) && hasField(occasion, audience, name))
  return Object.fromEntries(names.flatMap((name) => {
    const value = valueAt(values, name.split('.'))
    return typeof value === 'string' ? [[name, value]] : []
  }))
}

/** What is wrong with a wording in any of its branches; none where it can be sent to everybody. */
export function findMessageFaults(
  { occasion, audience, by }: MessageKind, wording: Wording, questionKeys: readonly string[],
): MessageFault[] {
  const sample = largestFields(occasion, audience, questionKeys)
  const parts = by === 'mail' ? ['subject', 'text'] as const : ['text'] as const
  return parts.flatMap((part): MessageFault[] => {
    if (wording[part].trim() === '') return [{ part, line: 1, fault: { code: 'templateEmpty', values: {} } }]
    return engine.findFaults(wording[part], sample).map(found => ({ part, ...found }))
  })
}

class PartError extends Error {
  readonly found: TemplateFault
  constructor(readonly part: 'subject' | 'text', { fault, line }: TemplateError) {
    super(fault.code)
    this.found = { fault, line }
  }
}

function render(wording: Wording, { occasion, audience, by }: MessageKind, fields: MessageFields): Omit<RenderedMessage, 'fault'> {
  const named = templateFields(fields)
  const marked = (part: 'subject' | 'text') => {
    try {
      return engine.render(wording[part], withAnswers(named, wording[part]))
    } catch (error) {
      throw error instanceof TemplateError ? new PartError(part, error) : error
    }
  }
  const noBlocks: Blocks = { facts: [], manage: null }
  const blocks: Blocks = { facts: factsOf(occasion, audience, fields), manage: manageOf(audience, fields) }
  const [heading, body] = [by === 'mail' ? marked('subject').replace(/\s+/g, ' ').trim() : '', marked('text')]
  if (by === 'phone')
    return { message: { subject: '', text: fitPhoneText(plainText(body, blocks)), html: '' }, preview: { subject: [], text: partsOf(body, blocks, linksOf(fields)) } }
  const subject = plainText(heading, noBlocks).trim()
  const parts = partsOf(body, blocks, linksOf(fields))
  return {
    message: { subject, text: plainText(body, blocks), html: htmlMessage(subject, parts, fields.workspace.colour) },
    preview: { subject: partsOf(heading, noBlocks, []), text: parts },
  }
}

/** The keys of the questions whose answers a wording names. */
export function answersNamedIn({ subject, text }: Wording): string[] {
  return [...new Set([subject, text].flatMap(template => engine.fieldsOf(template)).flatMap(([group, key]) => (group === 'answers' && key ? [key] : [])))]
}

/** The fields, and nothing for every answer that a template names and that was not given. */
function withAnswers(fields: ReturnType<typeof templateFields>, template: string): ReturnType<typeof templateFields> {
  const named = engine.fieldsOf(template).filter(([group]) => group === 'answers').map(([, key = '']) => [key, ''])
  return named.length === 0 ? fields : { ...fields, answers: { ...Object.fromEntries(named), ...Object(fields.answers) } }
}

function plainText(marked: string, { facts, manage }: Blocks): string {
  const block = {
    details: facts.map(([name, value]) => `${name}: ${quoteContinuation(value)}`).join('\n'),
    manage: manage ? `${manage.words}: ${manage.link}` : '',
  }
  const parts = segmentsOf(marked).map(segment => (segment.kind === 'block' ? `\n\n${block[segment.name]}\n\n` : segment.text))
  return parts.join('').replace(/[^\S\n]+$/gm, '').replace(/\n{2,}[^\S\n]*/g, '\n\n').trim().concat('\n')
}

/** Where a client changes their booking; guests have no page of their own, and what can no longer be done is not offered. */
function manageOf(audience: Audience, { booking }: MessageFields): Blocks['manage'] {
  if (audience !== 'client' || booking.page === '') return null
  if (booking.isRequest) return { words: booking.canCancel ? 'See or withdraw your request' : 'See your request', link: booking.page }
  const verbs = ['see', ...booking.canMove ? ['move'] : [], ...booking.canCancel ? ['cancel'] : []]
  const listed = verbs.length > 1 ? `${verbs.slice(0, -1).join(', ')} or ${verbs.at(-1)}` : 'see'
  return { words: `${listed.replace('s', 'S')} this booking, or add it to your calendar`, link: booking.page }
}

/** Addresses that lead to ourselves or into the room. */
function linksOf({ booking, session, eventType, room, remindersPage, listPage }: MessageFields): string[] {
  return [booking.page, session.page, eventType.page, room.link, remindersPage, listPage].filter(Boolean)
}

/** A receipt, where something was paid. */
function paymentFacts({ amount, standing, refunded }: NonNullable<MessageFields['payment']>, locale: string): [string, string][] {
  const paid = formatMoney(amount, locale)
  switch (standing) {
    case 'due': return [['To pay', paid]]
    case 'atSession': return [['To pay at the session', paid]]
    case 'ended': return []
    default: return [['Paid', paid], ['Paid back', refunded.amount > 0 ? formatMoney(refunded, locale) : '']]
  }
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
  if (fields.payment) facts.push(...paymentFacts(fields.payment, locale))
  if (fields.booking.people > 1) facts.push(['People', String(fields.booking.people)])
  if (fields.guests.all.length > 0) facts.push(['Guests', formatList(fields.guests.all)])
  if (occasionTable[occasion].withAnswers) {
    for (const answer of fields.answers) facts.push([answer.label, answer.text])
  }
  return facts.filter(([, value]) => value !== '')
}
