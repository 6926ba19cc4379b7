import { and, eq } from 'drizzle-orm'
import type { Fault } from '../../core/validation'
import { changeRefusal } from '../../core/booking/changes'
import { isConfirmed } from '../../core/booking/states'
import { formatAnswer } from '../../core/intake'
import { type MessageFields, occasionTable, renderMessage } from '../../core/messages'
import type { Occasion } from '../../core/messages/occasions'
import { type ClockFace, englishLocale, withClock } from '../../core/time/format'
import { clientEntry, type EntryOutcome, hostEntry } from '../calendars'
import { type Context, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { type changes, type deliveries, hosts, members } from '../database/schema'
import { type BookingDetails, formatPlace, formatPlaceLabel, loadAttendees, mailedBookingPage } from '../details'
import type { Mail } from '../ports/mail'

/** The mail of one delivery about a booking, from the booking as it stands. */

type Delivery = typeof deliveries.$inferSelect
type Host = BookingDetails['hosts'][number]

/** The change that a mail tells of; null for mails planned before changes were recorded. */
export type Cause = typeof changes.$inferSelect | null

/** Whether a mail of this occasion holds the room's link; null where no link is expected in it. */
export function linkState(details: BookingDetails, occasion: Occasion): boolean | null {
  return details.session.place.kind === 'video' && occasionTable[occasion].calendar === 'REQUEST' ? details.room?.state === 'ready' : null
}

export interface ComposedMail {
  mail: Mail
  /** Why the preset stands in for the event type's calendar title, if it does. */
  titleFault: Fault | null
}

export async function composeMail(
  context: Context, db: Database, details: BookingDetails, delivery: Delivery, occasion: Occasion, cause: Cause,
): Promise<ComposedMail> {
  const host = delivery.audience === 'host' ? await hostOf(db, details, delivery) : null
  const locale = host ? withClock(englishLocale(undefined), await clockOfHost(db, host)) : englishLocale(details.booking.locale)
  const message = renderMessage(occasion, host ? 'host' : 'client', messageFields(context, details, delivery, host, cause, locale))
  const entry = await entryOf(context, db, details, delivery, host, occasion, cause, locale)
  const [answering] = details.hosts
  return {
    mail: {
      messageId: delivery.messageId,
      from: { name: details.workspace.name, address: context.settings.mailFrom },
      to: { name: delivery.name, address: delivery.address },
      replyTo: host ? { name: details.booking.clientName, address: details.booking.clientEmail }
        : answering ? { name: answering.name, address: answering.email } : null,
      ...message,
      calendar: entry && { method: entry.method, content: entry.text },
    },
    titleFault: entry?.titleFault ?? null,
  }
}

/** The host whom a mail is for, be it one who has just handed the session over. */
async function hostOf(db: Database, { hosts: sitting }: BookingDetails, { workspaceId, hostId }: Delivery): Promise<Host | null> {
  const known = sitting.find(host => host.id === hostId)
  if (known || !hostId) return known ?? null
  const [host] = await db.select().from(hosts).where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.id, hostId)))
  return host ?? null
}

/** The clock that the member behind a host reads times on. */
async function clockOfHost(db: Database, { workspaceId, memberId }: BookingDetails['hosts'][number]): Promise<ClockFace | null> {
  if (memberId === null) return null
  const [member] = await db
    .select({ clock: members.clock })
    .from(members)
    .where(and(eq(members.workspaceId, workspaceId), eq(members.id, memberId)))
  return member?.clock ?? null
}

/** The calendar entry that goes with a mail; none where its reader never had one and gets none now. */
async function entryOf(
  context: Context,
  db: Database,
  details: BookingDetails,
  delivery: Delivery,
  host: Host | null,
  occasion: Occasion,
  cause: Cause,
  locale: string,
): Promise<EntryOutcome | null> {
  const method = occasionTable[occasion].calendar
  // What was never confirmed is in nobody's calendar, so there is nothing to take out of it.
  const wasConfirmed = cause === null || (occasion === 'handedAway' ? isConfirmed(details.booking.state) : cause.fromState === 'confirmed')
  if (method === null || (method === 'CANCEL' && !wasConfirmed)) return null
  if (!host) return clientEntry(context, details, method, { isGuest: delivery.audience === 'guest', mailed: true })
  const attendees = await loadAttendees(db, details.session.workspaceId, details.session.id)
  return hostEntry(context, details, { timeZone: host.timeZone, locale }, attendees, occasion === 'handedAway' ? 'CANCEL' : null)
}

/** The fields of a message for one reader. The link is given only where the room is ready and the booking confirmed. */
function messageFields(
  context: Context,
  details: BookingDetails,
  delivery: Delivery,
  reader: BookingDetails['hosts'][number] | null,
  cause: Cause,
  locale: string,
): MessageFields {
  const { baseUrl } = context.settings
  const { booking, session, eventType, workspace, room } = details
  const shown = room?.state === 'ready' && booking.state === 'confirmed' ? room : null
  const hostZone = details.hosts[0]?.timeZone ?? workspace.timeZone
  const isGuest = delivery.audience === 'guest'
  const [start, end] = [secondsOf(session.startsAt), secondsOf(session.endsAt)]
  return {
    workspace: { name: workspace.name },
    eventType: { name: eventType.settings.name, page: `${baseUrl}/${workspace.slug}/${eventType.slug}` },
    client: { name: isGuest ? delivery.name : booking.clientName, email: booking.clientEmail, phone: booking.clientPhone ?? '' },
    // A guest sees the booking but cannot change it, so the client's own page is not theirs.
    booking: {
      page: delivery.audience === 'client' ? mailedBookingPage(context, details) : '',
      canCancel: changeRefusal('cancelled', { state: booking.state, end }, context.now()) === null,
    },
    session: { page: `${baseUrl}/desk/sessions/${session.id}` },
    actor: cause?.actorName ?? booking.clientName,
    hostNames: details.hosts.map(host => host.name),
    reason: booking.cancelReason ?? '',
    place: reader || isConfirmed(booking.state) ? formatPlace(session.place, booking.clientPhone) : formatPlaceLabel(session.place),
    room: {
      expected: session.place.kind === 'video',
      link: (reader ? shown?.hostUrl ?? shown?.joinUrl : shown?.joinUrl) ?? '',
      number: shown?.number ?? '',
      passcode: shown?.passcode ?? '',
    },
    answers: isGuest ? [] : details.answers.map(formatAnswer),
    when: {
      start, end, now: context.now(),
      readerZone: reader?.timeZone ?? booking.timeZone,
      otherZone: reader ? booking.timeZone : hostZone,
      locale,
    },
  }
}
