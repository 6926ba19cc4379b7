import { and, eq, isNotNull } from 'drizzle-orm'
import type { Fault } from '../../core/validation'
import { isConfirmed } from '../../core/booking/states'
import { type MessageFault, occasionTable, renderMessage } from '../../core/messages'
import type { Occasion } from '../../core/messages/occasions'
import { englishLocale, withClock } from '../../core/time/format'
import { clientEntry, type EntryOutcome, hostEntry } from '../calendars'
import { hasReceivingCalendar } from '../calendar-sync'
import { type Context, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { type changes, type deliveries, hosts, members } from '../database/schema'
import { type BookingDetails, loadAttendees, mailedBookingPage, memberPhone } from '../details'
import type { Mail } from '../ports/mail'
import type { PhoneText } from '../ports/phone-text'
import { listToken, reminderToken } from '../secrets'
import { messageFields, type TeamReader } from './fields'
import { loadWording } from './wordings'

/** What is sent by one delivery about a booking, from the booking as it stands. */

type Delivery = typeof deliveries.$inferSelect

/** The change that a mail tells of; null for mails planned before changes were recorded. */
export type Cause = typeof changes.$inferSelect | null

/** Whether a mail of this occasion holds the room's link; null where no link is expected in it. */
export function linkState(details: BookingDetails, occasion: Occasion): boolean | null {
  return details.session.place.kind === 'video' && occasionTable[occasion].calendar === 'REQUEST' ? details.room?.state === 'ready' : null
}

export type Content = { channel: 'mail', mail: Mail } | { channel: 'phone', text: PhoneText }

export interface ComposedMessage {
  content: Content
  /** Why the preset stands in for the event type's calendar title, if it does. */
  titleFault: Fault | null
  /** Why the preset stands in for the words of the workspace or the event type, if it does. */
  wordingFault: MessageFault | null
}

export async function composeMessage(
  context: Context, db: Database, details: BookingDetails, delivery: Delivery,
  { occasion, isUnasked, cause, reader }: { occasion: Occasion, isUnasked: boolean, cause: Cause, reader: TeamReader | null },
): Promise<ComposedMessage> {
  const locale = reader ? withClock(englishLocale(undefined), reader.clock) : englishLocale(details.booking.locale)
  const pages = {
    booking: mailedBookingPage(context, details),
    reminders: isUnasked && !reader ? stopPage(context, delivery) : '',
    list: occasion === 'bookingsList' ? listPage(context, delivery) : '',
  }
  const audience = reader ? 'host' : 'client'
  const fields = messageFields(context, details, delivery, occasion, reader, cause, { locale, pages })
  const kind = { occasion, audience, by: delivery.channel, ownId: delivery.ownId } as const
  const own = await loadWording(db, delivery.workspaceId, details.session.eventTypeId, kind)
  const { message, fault } = renderMessage(kind, fields, own)
  if (kind.by === 'phone')
    return { content: { channel: 'phone', text: { id: delivery.id, to: delivery.address, text: message.text } }, titleFault: null, wordingFault: fault }
  const entry = await entryOf(context, db, details, delivery, reader, occasion, cause, locale)
  const [answering] = details.hosts
  return {
    content: {
      channel: 'mail',
      mail: {
        messageId: delivery.messageId,
        from: { name: details.workspace.name, address: context.settings.mailFrom },
        to: { name: delivery.name, address: delivery.address },
        replyTo: reader ? { name: details.booking.clientName, address: details.booking.clientEmail }
          : answering ? { name: answering.name, address: answering.email } : null,
        ...message,
        unsubscribe: pages.reminders || null,
        calendar: entry && { method: entry.method, content: entry.text },
      },
    },
    titleFault: entry?.titleFault ?? null,
    wordingFault: fault,
  }
}

/** Where the reader of a reminder ends reminders. */
function stopPage({ settings }: Context, delivery: Delivery): string {
  return `${settings.baseUrl}/bookings/reminders/${reminderToken(settings.secret, delivery)}`
}

const LIST_LASTS = 24 * 3600

function listPage({ settings }: Context, { workspaceId, bookingId, createdAt }: Delivery): string {
  return `${settings.baseUrl}/bookings/all/${listToken(settings.secret, { workspaceId, id: bookingId ?? '' }, secondsOf(createdAt) + LIST_LASTS)}`
}

/** The host or other member whom a message is for, be it a host who has just handed the session over; null for clients and guests. */
export async function loadTeamReader(db: Database, details: BookingDetails, delivery: Delivery): Promise<TeamReader | null> {
  const { workspaceId, hostId, address } = delivery
  if (delivery.audience === 'observer') {
    const [member] = await db.select({ timeZone: members.timeZone, clock: members.clock }).from(members)
      .leftJoin(hosts, and(eq(hosts.workspaceId, members.workspaceId), eq(hosts.memberId, members.id)))
      .where(and(
        eq(members.workspaceId, workspaceId), isNotNull(members.accountId),
        delivery.channel === 'mail' ? eq(members.email, address) : eq(memberPhone, address),
      )).orderBy(members.id).limit(1)
    return { timeZone: member?.timeZone ?? details.workspace.timeZone, clock: member?.clock ?? null, isHost: false }
  }
  if (delivery.audience !== 'host' || !hostId) return null
  const [found] = await db.select({ timeZone: hosts.timeZone, clock: members.clock }).from(hosts)
    .leftJoin(members, and(eq(members.workspaceId, hosts.workspaceId), eq(members.id, hosts.memberId)))
    .where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.id, hostId)))
  return found ? { ...found, isHost: true } : null
}

/** The calendar entry that goes with a mail; none where its reader never had one and gets none now. */
async function entryOf(
  context: Context,
  db: Database,
  details: BookingDetails,
  delivery: Delivery,
  reader: TeamReader | null,
  occasion: Occasion,
  cause: Cause,
  locale: string,
): Promise<EntryOutcome | null> {
  const { calendar: method, isFarewell = false } = occasionTable[occasion]
  // What was never confirmed is in nobody's calendar, so there is nothing to put there or to take out.
  const isKnown = method === 'REQUEST' || isFarewell ? isConfirmed(details.booking.state) : cause === null || cause.fromState === 'confirmed'
  if (method === null || !isKnown) return null
  const leaving = isFarewell ? { name: delivery.name, email: delivery.address } : null
  if (!reader) return clientEntry(context, details, method, { isGuest: delivery.audience === 'guest', mailed: true, leaving })
  // Where the session itself is written into their calendar, an invitation would stand there beside it.
  const { workspaceId, eventTypeId, id } = details.session
  if (delivery.hostId !== null && await hasReceivingCalendar(db, workspaceId, delivery.hostId, eventTypeId)) return null
  const attendees = await loadAttendees(db, workspaceId, id)
  return hostEntry(context, details, { ...reader, locale }, attendees, leaving)
}
