import { and, asc, eq } from 'drizzle-orm'
import type { Place } from '../../core/event-type/settings'
import { isConfirmed } from '../../core/booking/states'
import { placeWords } from '../../core/event-type/words'
import { type MessageFields, quoteContinuation, renderTitle, formatSessionTime } from '../../core/messages'
import { calendarText, type CalendarEntry } from '../../core/calendar/entry'
import { englishLocale, formatList } from '../../core/time/format'
import { type Context, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { answers, bookings, eventTypes, hosts, rooms, sessionHosts, sessions, workspaces } from '../database/schema'
import { bookingToken, openedKey } from '../secrets'

/** A booking with all that is said about it to anybody. */
export interface BookingDetails {
  workspace: typeof workspaces.$inferSelect
  eventType: typeof eventTypes.$inferSelect
  session: typeof sessions.$inferSelect
  booking: typeof bookings.$inferSelect
  hosts: (typeof hosts.$inferSelect)[]
  answers: (typeof answers.$inferSelect)[]
  room: typeof rooms.$inferSelect | null
}

export async function loadBookingDetails(db: Database, workspaceId: string, bookingId: string): Promise<BookingDetails | null> {
  const [found] = await db.select().from(bookings)
    .innerJoin(sessions, and(eq(sessions.workspaceId, bookings.workspaceId), eq(sessions.id, bookings.sessionId)))
    .innerJoin(eventTypes, and(eq(eventTypes.workspaceId, sessions.workspaceId), eq(eventTypes.id, sessions.eventTypeId)))
    .innerJoin(workspaces, eq(workspaces.id, bookings.workspaceId))
    .leftJoin(rooms, and(eq(rooms.workspaceId, sessions.workspaceId), eq(rooms.sessionId, sessions.id)))
    .where(and(eq(bookings.workspaceId, workspaceId), eq(bookings.id, bookingId)))
  if (!found) return null
  const sitting = await db.select({ host: hosts }).from(sessionHosts)
    .innerJoin(hosts, and(eq(hosts.workspaceId, sessionHosts.workspaceId), eq(hosts.id, sessionHosts.hostId)))
    .where(and(eq(sessionHosts.workspaceId, workspaceId), eq(sessionHosts.sessionId, found.sessions.id)))
    .orderBy(asc(hosts.name))
  const given = await db.select().from(answers)
    .where(and(eq(answers.workspaceId, workspaceId), eq(answers.bookingId, bookingId)))
    .orderBy(asc(answers.position))
  return {
    workspace: found.workspaces,
    eventType: found.event_types,
    session: found.sessions,
    booking: found.bookings,
    hosts: sitting.map(host => host.host),
    answers: given,
    room: found.rooms,
  }
}

/** Where a session is to take place, in words that clients may read before it is confirmed: no address, no number. */
export function formatPlaceLabel(place: Place): string {
  return place.label || placeWords[place.kind]
}

/** Where a session takes place, in words. Links are not part of it. */
export function formatPlace(place: Place, clientPhone: string | null): string {
  switch (place.kind) {
    case 'video':
      return 'By video'
    case 'address':
      return place.detail || place.label
    case 'phoneWeCall':
      return clientPhone ? `By phone: we call ${clientPhone}` : 'By phone: we call you'
    case 'phoneYouCall':
      return `By phone: you call ${place.detail}`
    default:
      return place.detail || place.label || placeWords[place.kind]
  }
}

export interface Reader {
  audience: 'client' | 'guest' | 'host'
  name: string
  timeZone: string
}

export function bookingPage(context: Pick<Context, 'settings'>, story: BookingDetails): string {
  const token = bookingToken(context.settings.secret, story.workspace.id, story.booking.tokenSeed)
  return `${context.settings.baseUrl}/bookings/${token}`
}

/** The client's page as their mails link to it: following this link shows that the address is theirs. */
function mailedPage(context: Pick<Context, 'settings'>, story: BookingDetails): string {
  return `${bookingPage(context, story)}?mail=${openedKey(context.settings.secret, story.workspace.id, story.booking.id)}`
}

/** The fields of a message for one reader. The link is given only where the room is ready and the booking confirmed. */
export function fieldsFor(context: Context, story: BookingDetails, reader: Reader): MessageFields {
  const { baseUrl } = context.settings
  const { booking, session, eventType, workspace, room } = story
  const [host] = story.hosts
  const shown = room?.state === 'ready' && booking.state === 'confirmed' ? room : null
  const hostZone = host?.timeZone ?? workspace.timeZone
  const isHost = reader.audience === 'host'
  return {
    workspace: { name: workspace.name },
    eventType: { name: eventType.settings.name, page: `${baseUrl}/${workspace.slug}/${eventType.slug}` },
    client: { name: reader.audience === 'guest' ? reader.name : booking.clientName, email: booking.clientEmail, phone: booking.clientPhone ?? '' },
    // A guest sees the booking but cannot change it, so the client's own page is not theirs.
    booking: { page: reader.audience === 'client' ? mailedPage(context, story) : '' },
    session: { page: `${baseUrl}/desk/sessions/${session.id}` },
    hosts: formatList(story.hosts.map(item => item.name)),
    reason: booking.cancelReason ?? '',
    place: isHost || isConfirmed(booking.state) ? formatPlace(session.place, booking.clientPhone) : formatPlaceLabel(session.place),
    room: {
      expected: session.place.kind === 'video',
      link: (isHost ? shown?.hostUrl : shown?.joinUrl) ?? '',
      number: shown?.number ?? '',
      passcode: shown?.passcode ?? '',
    },
    answers: reader.audience === 'guest' ? [] : story.answers.map(answer => ({ label: answer.label, words: answer.words })),
    when: {
      start: secondsOf(session.startsAt),
      end: secondsOf(session.endsAt),
      now: context.now(),
      readerZone: reader.timeZone,
      otherZone: isHost ? booking.timeZone : hostZone,
      locale: englishLocale(isHost ? undefined : booking.locale),
    },
  }
}

export type CalendarMethod = CalendarEntry['method']

/** The calendar entry as one reader gets it, and why its title is the preset, if it had to be. */
export function entryFor(context: Context, story: BookingDetails, reader: Reader, method: CalendarMethod): { text: string, titleFault: string | null } {
  const fields = fieldsFor(context, story, reader)
  const { booking, workspace } = story
  const lines = [
    formatSessionTime(fields.when.start, fields.when.end, fields.when.readerZone, fields.when.locale),
    ...(fields.room.link ? [`Link: ${fields.room.link}`, `Number: ${fields.room.number}`, `Passcode: ${fields.room.passcode}`] : []),
    ...fields.answers.map(answer => `${answer.label}: ${quoteContinuation(answer.words)}`),
    ...(fields.booking.page ? [`See or cancel: ${fields.booking.page}`] : []),
  ]
  const { title, fault } = renderTitle(story.eventType.settings.calendarTitle, { client: { name: booking.clientName }, eventType: { name: fields.eventType.name } })
  const text = calendarText({
    method,
    tentative: !isConfirmed(booking.state),
    uid: `${booking.id}@${new URL(context.settings.baseUrl).hostname}`,
    sequence: booking.sequence,
    stamp: context.now(),
    start: fields.when.start,
    end: fields.when.end,
    title,
    description: lines.join('\n'),
    location: fields.room.link || fields.place,
    url: fields.room.link || null,
    organizer: { name: workspace.name, email: context.settings.mailFrom },
    attendees: [
      { name: booking.clientName, email: booking.clientEmail, accepted: true },
      ...story.hosts.map(host => ({ name: host.name, email: host.email, accepted: true })),
    ],
  })
  return { text, titleFault: fault }
}
