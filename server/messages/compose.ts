import { renderMessage } from '../../core/messages'
import type { Occasion } from '../../core/messages/occasions'
import type { Context } from '../context'
import type { deliveries } from '../database/schema'
import type { Mail } from '../ports/mail'
import { type BookingDetails, type CalendarMethod, entryFor, fieldsFor, type Reader } from './fields'

/** The mail of one delivery about a booking, from the booking as it stands. */

type Delivery = typeof deliveries.$inferSelect

/** iTIP method that goes with each occasion; none where there is no entry yet. */
const methods: Record<Occasion, CalendarMethod | null> = {
  booked: 'REQUEST',
  linkFollows: 'REQUEST',
  cancelled: 'CANCEL',
  awaitingApproval: null,
  declined: null,
}

/** Whether a mail of this occasion holds the room's link; null where no link is expected in it. */
export function linkState(story: BookingDetails, occasion: Occasion): boolean | null {
  return story.session.place.kind === 'video' && methods[occasion] === 'REQUEST' ? story.room?.state === 'ready' : null
}

export interface ComposedMail {
  mail: Mail
  /** Why the preset stands in for the event type's calendar title, if it does. */
  titleFault: string | null
}

export function composeMail(context: Context, story: BookingDetails, delivery: Delivery, occasion: Occasion): ComposedMail {
  const host = story.hosts.find(candidate => candidate.id === delivery.hostId) ?? null
  const audience = delivery.audience === 'guest' || delivery.audience === 'host' ? delivery.audience : 'client'
  const reader: Reader = { audience, name: delivery.name, timeZone: host?.timeZone ?? story.booking.timeZone }
  const message = renderMessage(occasion, host ? 'host' : 'client', fieldsFor(context, story, reader))
  const method = methods[occasion]
  const entry = method && entryFor(context, story, reader, method)
  const [answering] = story.hosts
  return {
    mail: {
      messageId: delivery.messageId,
      from: { name: story.workspace.name, address: context.settings.mailFrom },
      to: { name: delivery.name, address: delivery.address },
      replyTo: host ? { name: story.booking.clientName, address: story.booking.clientEmail }
        : answering ? { name: answering.name, address: answering.email } : null,
      ...message,
      calendar: method && entry && { method, content: entry.text },
    },
    titleFault: entry?.titleFault ?? null,
  }
}
