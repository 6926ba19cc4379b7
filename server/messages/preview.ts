import { randomUUID } from 'node:crypto'
import { and, asc, desc, eq, isNull, sql } from 'drizzle-orm'
import { formatInputFault } from '../../core/catalogue/input'
import { findMessageFaults, type Message, type MessageFields, occasionTable, renderMessage, templateValues } from '../../core/messages'
import { countParts } from '../../core/messages/phone-text'
import { LONG_NAME, presetOf, RIGHT_TO_LEFT_NAME, type Variation, type WordedMessage } from '../../core/messages/wording'
import { englishLocale, withClock, zoneDifference } from '../../core/time/format'
import type { SignedIn } from '../../core/views/desk'
import type { MessagePreview, PreviewRequest } from '../../core/views/messages'
import { type Context, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { bookings, hosts, sessions, workspaces } from '../database/schema'
import { type BookingDetails, loadBookingDetails } from '../details'
import type { EventType } from '../event-types'
import { SendFault } from '../ports/send-fault'
import { messageFields } from './fields'
import { findEventType, questionKeys } from './wordings'

/** A message as it is being worded, with a real booking or with one that is hard to lay out. */

interface Rendered extends Pick<MessagePreview, 'client' | 'values' | 'faults' | 'subject' | 'text'> {
  message: Message
}

type Asking = Pick<SignedIn, 'workspaceId' | 'memberId' | 'name' | 'email' | 'confirmed' | 'clock'>

/** Null where there is no such message. */
export async function previewWording(
  context: Context, member: Asking, message: WordedMessage, request: PreviewRequest,
): Promise<MessagePreview | null> {
  const rendered = await renderRequest(context, member, message, request)
  if (!rendered) return null
  const { message: { text: plain }, ...preview } = rendered
  return { ...preview, plain, size: message.by === 'phone' ? sizeOf(plain) : null }
}

/** The address of the client's page, which nobody else sees, is as long as it will be. */
function sizeOf(plain: string): { characters: number, parts: number } {
  const sent = plain.replace(/\/bookings\/…/g, `/bookings/${'x'.repeat(82)}`).replace(/\/reminders\/…/g, `/reminders/${'x'.repeat(64)}`)
  return { characters: sent.length, parts: countParts(sent) }
}

export type TestOutcome = { kind: 'notFound' } | { kind: 'noNumber' } | { kind: 'faulty' } | { kind: 'unconfirmed' } | { kind: 'notSent' } | { kind: 'sent', to: string }

/** Sends a wording to whoever is at work on it. */
export async function sendTest(context: Context, member: Asking, message: WordedMessage, request: PreviewRequest): Promise<TestOutcome> {
  if (!member.confirmed) return { kind: 'unconfirmed' }
  const rendered = await renderRequest(context, member, message, request)
  if (!rendered) return { kind: 'notFound' }
  if (rendered.faults.length > 0) return { kind: 'faulty' }
  const { subject, text, html } = rendered.message
  const number = message.by === 'phone' ? await numberOf(context.db, member) : null
  if (message.by === 'phone' && number === null) return { kind: 'noNumber' }
  try {
    if (number !== null) {
      await context.phoneTexts?.send({ id: randomUUID(), to: number, text })
      return context.phoneTexts ? { kind: 'sent', to: number } : { kind: 'notSent' }
    }
    await context.mail.send({
      messageId: `<${randomUUID()}@${new URL(context.settings.baseUrl).hostname}>`,
      from: { name: await workspaceName(context.db, member.workspaceId), address: context.settings.mailFrom },
      to: { name: member.name, address: member.email }, replyTo: null, subject: `Test: ${subject}`, text, html, calendar: null,
    })
    return { kind: 'sent', to: member.email }
  } catch (error) {
    if (error instanceof SendFault) return { kind: 'notSent' }
    throw error
  }
}

/** Where a member is texted: the number of their profile as a host. */
async function numberOf(db: Database, { workspaceId, memberId }: Asking): Promise<string | null> {
  const [host] = await db.select({ phone: hosts.phone }).from(hosts)
    .where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.memberId, memberId)))
  return host?.phone ?? null
}

async function renderRequest(
  context: Context, member: Asking, message: WordedMessage, { eventType: eventTypeId, wording, booking, variation }: PreviewRequest,
): Promise<Rendered | null> {
  const { workspaceId } = member
  const eventType = await findEventType(context.db, workspaceId, eventTypeId)
  if (eventType === undefined || !presetOf(message, eventTypeId !== null)) return null
  const { occasion, audience } = message
  const details = await findExample(context, workspaceId, eventTypeId, booking)
  const real = details ? fieldsOf(context, member, message, details)
    : madeUpFields(context, await workspaceName(context.db, workspaceId), eventType)
  const fields = variation ? vary(real, variation) : real
  const found = findMessageFaults(message, wording, questionKeys(eventType))
  const { message: rendered, preview, fault } = renderMessage(message, fields, found.length > 0 ? null : wording)
  // What is sound may come out empty.
  const faults = [...found, ...fault ? [fault] : []]
  return {
    client: details?.booking.clientName ?? null,
    values: templateValues(occasion, audience, fields),
    faults: faults.map(item => ({ part: item.part, line: item.line, message: formatInputFault(item.fault) })),
    ...preview,
    message: rendered,
  }
}

async function workspaceName(db: Database, workspaceId: string): Promise<string> {
  const [workspace] = await db.select({ name: workspaces.name }).from(workspaces).where(eq(workspaces.id, workspaceId))
  return workspace?.name ?? ''
}

/** The bookings that messages are shown with: those to come, the nearest first, and then those of the past. */
const MOST_EXAMPLES = 20

async function findExample(
  context: Context, workspaceId: string, eventTypeId: string | null, index: number,
): Promise<BookingDetails | null> {
  const now = new Date(context.now() * 1000).toISOString()
  const found = await context.db.select({ id: bookings.id }).from(bookings)
    .innerJoin(sessions, and(eq(sessions.workspaceId, bookings.workspaceId), eq(sessions.id, bookings.sessionId)))
    .where(and(
      eq(bookings.workspaceId, workspaceId), eventTypeId === null ? undefined : eq(sessions.eventTypeId, eventTypeId),
      isNull(bookings.cancelReason),
    ))
    .orderBy(
      desc(sql`${sessions.startsAt} > ${now}::timestamptz`), desc(sql`${bookings.state} = 'confirmed'`),
      asc(sql`abs(extract(epoch from ${sessions.startsAt} - ${now}::timestamptz))`), asc(bookings.id),
    )
    .limit(MOST_EXAMPLES)
  const example = found[index % Math.max(1, found.length)]
  return example ? loadBookingDetails(context.db, workspaceId, example.id) : null
}

const DAY = 24 * 3600

/** The booking as it would be when the message is sent. Nobody but the client has the address of its page, so that is not shown. */
function fieldsOf(context: Context, member: Asking, { occasion, audience }: WordedMessage, found: BookingDetails): MessageFields {
  const [state = 'confirmed'] = occasionTable[occasion].states
  const details = { ...found, booking: { ...found.booking, state } }
  const [host] = details.hosts
  const start = secondsOf(details.session.startsAt)
  const span = secondsOf(details.session.endsAt) - start
  const other = { start: start - 2 * DAY, end: start - 2 * DAY + span }
  const guest = { name: 'Ines Quental', email: 'ines@quental.example' }
  const locale = audience === 'host' ? withClock(englishLocale(undefined), member.clock) : englishLocale(details.booking.locale)
  const { baseUrl } = context.settings
  const pages = {
    booking: `${baseUrl}/bookings/…`,
    reminders: occasion === 'before' || occasion === 'own' ? `${baseUrl}/bookings/reminders/…` : '',
    list: occasion === 'bookingsList' ? `${baseUrl}/bookings/all/…` : '',
  }
  const fields = messageFields(
    context, details, { audience, name: details.booking.clientName, address: details.booking.clientEmail }, occasion,
    audience === 'host' ? { timeZone: host?.timeZone ?? details.workspace.timeZone, clock: member.clock, isHost: true } : null,
    {
      kind: 'booked', actorKind: 'client', actorName: host?.name ?? member.name, move: { from: other, to: other, hasOtherHosts: false }, guests: { added: [guest], removed: [] },
    },
    { locale, pages },
  )
  return {
    ...fields,
    booking: { ...fields.booking, canMove: true, canCancel: true, heldUntil: occasion === 'awaitingApproval' ? context.now() + DAY : null },
  }
}

/** For a workspace, or an event type, that nobody has booked yet. */
function madeUpFields({ settings: { baseUrl }, now }: Context, workspace: string, eventType: EventType | null): MessageFields {
  const start = Math.ceil(now() / DAY) * DAY + 2 * DAY + 10 * 3600
  const zone = eventType?.settings.timeZone ?? 'UTC'
  return {
    workspace: { name: workspace, colour: '#54305C' },
    eventType: { name: eventType?.settings.name ?? 'First meeting', page: `${baseUrl}/…` },
    client: { name: 'Ines Quental', email: 'ines@quental.example', phone: '' },
    booking: { client: 'Ines Quental', people: 1, page: `${baseUrl}/bookings/…`, canMove: true, canCancel: true, isRequest: false, heldUntil: null },
    actor: 'Ines Quental', byTeam: false,
    session: { page: `${baseUrl}/desk/sessions/…` },
    hostNames: eventType ? [...new Set(eventType.chairs.flatMap(chair => chair.hosts.slice(0, 1).map(host => host.name)))] : [],
    hasOtherHosts: false,
    remindersPage: `${baseUrl}/bookings/reminders/…`, listPage: `${baseUrl}/bookings/all/…`,
    guests: { all: [], added: [], removed: [] },
    payment: eventType?.settings.price
      ? { amount: eventType.settings.price, standing: 'paid', refunded: eventType.settings.price, isLate: false, until: now() + 900 } : null,
    reason: '', place: 'Video', placeNote: '',
    room: { expected: true, link: 'https://rooms.example/r/example', number: '223 212 415', passcode: '750375', underMainUser: false },
    answers: [],
    when: { start, end: start + (eventType?.settings.durations[0] ?? 30) * 60, now: now(), readerZone: zone, otherZone: zone, locale: 'en-GB', other: null },
  }
}

/** Zones of which one surely differs from where people are. */
const FAR_ZONES = ['Australia/Adelaide', 'America/St_Johns', 'Asia/Kathmandu']

function vary(fields: MessageFields, variation: Variation): MessageFields {
  const { when, room } = fields
  switch (variation) {
    case 'noLink': return { ...fields, room: { ...room, link: '', number: '', passcode: '' } }
    case 'longName': return named(fields, LONG_NAME)
    case 'rightToLeft': return named(fields, RIGHT_TO_LEFT_NAME)
    case 'otherZone': {
      const far = FAR_ZONES.find(zone => [when.readerZone, when.otherZone].every(near => zoneDifference(zone, near, when.start) !== 0))
      return { ...fields, when: { ...when, readerZone: far ?? when.readerZone } }
    }
  }
}

const named = (fields: MessageFields, name: string): MessageFields =>
  ({ ...fields, client: { ...fields.client, name }, booking: { ...fields.booking, client: name } })
