import type { Fault } from '../../core/validation'
import { calendarText, type CalendarEntry, type EntryFacts, objectText } from '../../core/calendar/entry'
import { isConfirmed } from '../../core/booking/states'
import { formatAnswer } from '../../core/intake'
import { formatSessionTime, quoteContinuation, renderTitle } from '../../core/messages'
import { englishLocale } from '../../core/time/format'
import { type Context, secondsOf } from '../context'
import { type BookingDetails, bookingPage, formatPlace, formatPlaceLabel, mailedBookingPage, type SessionBooking } from '../details'

/**
 * Calendar entries: one per booking for its client and guests, one per session for its hosts, each with a UID of its own
 * and a SEQUENCE that rises with every change of it.
 */

export interface EntryOutcome {
  method: CalendarEntry['method']
  text: string
  /** Why the preset stands in for the event type's calendar title, if it does. */
  titleFault: Fault | null
}

type Method = CalendarEntry['method']

/** What differs between the entries of one session. */
interface Part {
  tentative: boolean
  id: string
  sequence: number
  title: string
  lines: string[]
  link: string | null
  place: string
}

/** Who no longer takes part: a cancellation for them names them alone (RFC 5546 §3.2.5). */
type Leaving = { name: string, email: string } | null

const leavingAttendee = ({ name, email }: NonNullable<Leaving>) => ({ name, email, accepted: false })

/** The entry of a client or guest. `mailed` entries link to the page in the way that shows whose address it is. */
export function clientEntry(
  context: Context,
  details: BookingDetails,
  method: Method,
  reader: { isGuest: boolean, mailed: boolean, leaving?: Leaving },
): EntryOutcome {
  const { booking, session, answers, guests } = details
  const room = details.room?.state === 'ready' && booking.state === 'confirmed' ? details.room : null
  const page = reader.isGuest ? null : reader.mailed ? mailedBookingPage(context, details) : bookingPage(context, details)
  const { title, fault } = titleOf(details, booking.clientName)
  const attendees = reader.leaving ? [leavingAttendee(reader.leaving)] : [
    { name: booking.clientName, email: booking.clientEmail, accepted: true },
    ...guests.map(({ name, email }) => ({ name, email, accepted: false })),
    ...details.hosts.map(({ name, email }) => ({ name, email, accepted: true })),
  ]
  const text = entryText(context, details, method, attendees, {
    tentative: !isConfirmed(booking.state),
    id: booking.id,
    sequence: booking.sequence,
    title,
    lines: [
      formatSessionTime(secondsOf(session.startsAt), secondsOf(session.endsAt), booking.timeZone, englishLocale(booking.locale)),
      ...roomLines(room, room?.joinUrl ?? null),
      ...peopleLine(booking),
      ...(reader.isGuest ? [] : answers.map(answerLine)),
      ...(page ? [`See or cancel: ${page}`] : []),
    ],
    link: room?.joinUrl ?? null,
    place: isConfirmed(booking.state) ? formatPlace(session.place, booking.clientPhone) : formatPlaceLabel(session.place),
  })
  return { method, text, titleFault: fault }
}

/**
 * The entry of a session's hosts, as its confirmed bookings stand now: a request with whoever is expected, or a
 * cancellation where nobody is any more.
 */
export function hostEntry(
  context: Context,
  details: BookingDetails,
  host: Reader,
  expected: readonly SessionBooking[],
  /** Whoever no longer hosts it, for whom it is cancelled. */
  leaving: Leaving = null,
): EntryOutcome {
  const method = leaving || expected.length === 0 ? 'CANCEL' : 'REQUEST'
  const { fault, ...part } = hostPart(context, details, host, expected, false)
  const attendees = leaving ? [leavingAttendee(leaving)] : [
    ...details.hosts.map(({ name, email }) => ({ name, email, accepted: true })),
    ...expected.flatMap(({ booking, guests }) => [
      { name: booking.clientName, email: booking.clientEmail, accepted: true },
      ...guests.map(({ name, email }) => ({ name, email, accepted: false })),
    ]),
  ]
  return { method, text: entryText(context, details, method, attendees, part), titleFault: fault }
}

/** A session as it stands in a host's own feed: to nobody's invitation, and stamped when its newest booking was made. */
export function feedEntry(context: Context, bookings: readonly [BookingDetails, ...BookingDetails[]], host: Reader): EntryFacts {
  const [details] = bookings
  const expected = bookings.filter(({ booking }) => isConfirmed(booking.state))
  const { fault: _fault, ...part } = hostPart(context, details, host, expected.length > 0 ? expected : bookings, expected.length === 0)
  const stamp = Math.max(...bookings.map(({ booking }) => secondsOf(booking.createdAt)))
  return factsOf(context, details, part, stamp)
}

/** A session as it stands in the calendar that its host has chosen for it. */
export function sessionEntryText(
  context: Context, bookings: readonly [BookingDetails, ...BookingDetails[]], host: { timeZone: string },
): string {
  return objectText(feedEntry(context, bookings, { timeZone: host.timeZone, locale: englishLocale(undefined), isHost: true }))
}

/** Whom an entry is for. Who only observes opens the room as a guest. */
interface Reader {
  timeZone: string
  locale: string
  isHost: boolean
}

function hostPart(
  context: Context, details: BookingDetails, host: Reader, expected: readonly SessionBooking[], tentative: boolean,
): Part & { fault: Fault | null } {
  const { session, eventType } = details
  const [only] = expected.length <= 1 ? expected : []
  const room = details.room?.state === 'ready' && expected.length > 0 && !tentative ? details.room : null
  const { title, fault } =
    session.seats > 1
      ? { title: `${eventType.settings.name} (${expected.reduce((sum, { booking }) => sum + booking.people, 0)} of ${session.seats} seats)`, fault: null }
      : titleOf(details, (only ?? details).booking.clientName)
  const link = (host.isHost ? room?.hostUrl : room?.joinUrl) ?? null
  return {
    tentative,
    id: session.id,
    sequence: session.sequence,
    title,
    lines: [
      formatSessionTime(secondsOf(session.startsAt), secondsOf(session.endsAt), host.timeZone, host.locale),
      ...roomLines(room, link),
      ...expected.flatMap(clientLines),
      `The session: ${context.settings.baseUrl}/desk/sessions/${session.id}`,
    ],
    link,
    place: formatPlace(session.place, (only ?? details).booking.clientPhone),
    fault,
  }
}

function entryText(
  context: Context, details: BookingDetails, method: Method, attendees: CalendarEntry['attendees'], part: Part,
): string {
  return calendarText({
    ...factsOf(context, details, part, context.now()),
    method,
    attendees,
    organizer: { name: details.workspace.name, email: context.settings.mailFrom },
  })
}

function factsOf(
  context: Context, { session }: BookingDetails, { id, lines, link, place, tentative, sequence, title }: Part, stamp: number,
): EntryFacts {
  return {
    tentative, sequence, title, stamp,
    uid: `${id}@${new URL(context.settings.baseUrl).hostname}`,
    start: secondsOf(session.startsAt),
    end: secondsOf(session.endsAt),
    description: lines.join('\n'),
    location: link ?? place,
    url: link,
  }
}

function titleOf({ eventType }: BookingDetails, clientName: string): { title: string, fault: Fault | null } {
  return renderTitle(eventType.settings.calendarTitle, { client: { name: clientName }, eventType: { name: eventType.settings.name } })
}

function roomLines(room: BookingDetails['room'], link: string | null): string[] {
  const facts: [string, string | null][] = [['Link', link], ['Number', room?.number ?? null], ['Passcode', room?.passcode ?? null]]
  return facts.flatMap(([name, value]) => (value ? [`${name}: ${value}`] : []))
}

function answerLine(answer: SessionBooking['answers'][number]): string {
  const { label, text } = formatAnswer(answer)
  return `${label}: ${quoteContinuation(text)}`
}

const peopleLine = ({ people }: Pick<BookingDetails['booking'], 'people'>) => (people > 1 ? [`People: ${people}`] : [])

function clientLines({ booking, answers }: SessionBooking): string[] {
  return [
    `Client: ${[booking.clientName, booking.clientEmail, booking.clientPhone].filter(Boolean).join(', ')}`,
    ...peopleLine(booking),
    ...answers.map(answerLine),
  ]
}
