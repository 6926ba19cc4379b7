import type { BookingState } from '../booking/states'

/** The messages that go out by themselves, as Liquid over the fields of `MessageFields`. */

export const occasions = ['booked', 'awaitingApproval', 'declined', 'cancelled', 'linkFollows'] as const
export type Occasion = (typeof occasions)[number]

/** Messages to a member about their own account. */
export const accountOccasions = ['confirmAddress', 'addressKnown'] as const
export type AccountOccasion = (typeof accountOccasions)[number]

/** The booking's states in which an occasion's message is still true; in any other, a later change has overtaken it. */
export const occasionStates: Record<Occasion, readonly BookingState[]> = {
  booked: ['confirmed', 'attended', 'missed'],
  linkFollows: ['confirmed', 'attended', 'missed'],
  awaitingApproval: ['awaitingApproval'],
  declined: ['declined'],
  cancelled: ['cancelled'],
}

/** Word that something does not take place is still of use for so long, even if the start has passed. Seconds. */
const ENDING_LASTS = 24 * 3600

/** Until when sending makes sense: a confirmation until the start, the link that follows it until the end. Instants in seconds. */
export function messageDeadline(occasion: Occasion, session: { start: number, end: number }, plannedAt: number): number {
  if (occasion === 'cancelled' || occasion === 'declined') return Math.max(session.start, plannedAt + ENDING_LASTS)
  return occasion === 'linkFollows' ? session.end : session.start
}

export type Audience = 'client' | 'host'

export interface Wording {
  subject: string
  opening: string
  closing: string
}

// Guests have no page of their own: only the client can change a booking.
const manage = '{% if booking.page != "" %}You can see, keep in your calendar or cancel this booking at any time: {{ booking.page }}\n\n{% endif %}'

export const wordings: Record<Occasion, Record<Audience, Wording>> = {
  booked: {
    client: {
      subject: '{{ eventType.name }}, {{ when.short }}',
      opening: 'Hello {{ client.name }},\n\nyour {{ eventType.name }} with {{ hosts }} is booked.'
        + '{% if room.expected and room.link == "" %} The video link is still being made; it follows in a mail of its own.{% endif %}',
      closing: `${manage}{{ workspace.name }}`,
    },
    host: {
      subject: '{{ client.name }}: {{ eventType.name }}, {{ when.short }}',
      opening: '{{ client.name }} has booked {{ eventType.name }} with {{ hosts }}.'
        + '{% if room.expected and room.link == "" %} The video link is still being made; it follows in a mail of its own.{% endif %}',
      closing: 'Everything about this session: {{ session.page }}',
    },
  },
  awaitingApproval: {
    client: {
      subject: 'Asked for: {{ eventType.name }}, {{ when.short }}',
      opening: 'Hello {{ client.name }},\n\nthank you for asking for {{ eventType.name }}. The time is kept for you until {{ hosts }} says yes or no; you hear from us either way.',
      closing: 'You can see or withdraw it here: {{ booking.page }}\n\n{{ workspace.name }}',
    },
    host: {
      subject: 'To approve: {{ client.name }}, {{ eventType.name }}, {{ when.short }}',
      opening: '{{ client.name }} asks for {{ eventType.name }}. The time is kept until you approve or decline.',
      closing: 'Approve or decline here: {{ session.page }}',
    },
  },
  declined: {
    client: {
      subject: 'Not possible: {{ eventType.name }}, {{ when.short }}',
      opening: 'Hello {{ client.name }},\n\nwe are sorry: {{ eventType.name }} at this time is not possible. The time is free again, and you are welcome to choose another.',
      closing: 'Other times: {{ eventType.page }}\n\n{{ workspace.name }}',
    },
    host: {
      subject: 'Declined: {{ client.name }}, {{ eventType.name }}, {{ when.short }}',
      opening: 'The request of {{ client.name }} for {{ eventType.name }} was declined.',
      closing: 'The session: {{ session.page }}',
    },
  },
  cancelled: {
    client: {
      subject: 'Cancelled: {{ eventType.name }}, {{ when.short }}',
      opening: 'Hello {{ client.name }},\n\nyour {{ eventType.name }} with {{ hosts }} is cancelled.',
      closing: 'If you would like another time: {{ eventType.page }}\n\n{{ workspace.name }}',
    },
    host: {
      subject: 'Cancelled: {{ client.name }}, {{ eventType.name }}, {{ when.short }}',
      opening: '{{ client.name }} has cancelled {{ eventType.name }}.',
      closing: 'The session: {{ session.page }}',
    },
  },
  linkFollows: {
    client: {
      subject: 'Your video link: {{ eventType.name }}, {{ when.short }}',
      opening: 'Hello {{ client.name }},\n\nhere is the video link for your {{ eventType.name }} with {{ hosts }}.',
      closing: `${manage}{{ workspace.name }}`,
    },
    host: {
      subject: 'The video link: {{ client.name }}, {{ eventType.name }}, {{ when.short }}',
      opening: 'The room for {{ eventType.name }} with {{ client.name }} is ready.',
      closing: 'Everything about this session: {{ session.page }}',
    },
  },
}
