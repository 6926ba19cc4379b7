import { type BookingState, bookingStates } from '../booking/states'

/** The messages that go out by themselves: when each is still true, and what goes with it. */

export const occasions = [
  'booked', 'awaitingApproval', 'declined', 'expired', 'cancelled', 'moved', 'movedAway', 'left', 'linkFollows', 'newLink', 'linkRemoved',
  'placeChanged', 'linkMissing', 'handedOver', 'handedAway',
  'guestAdded', 'guestRemoved', 'guestsChanged', 'peopleChanged', 'before', 'bookingsList', 'own',
  'paymentWanted', 'unpaid', 'refunded',
] as const
export type Occasion = (typeof occasions)[number]

/** Messages to a member about their own account. */
export const accountOccasions = [
  'confirmAddress', 'addressKnown', 'resetPassword', 'invited', 'oldAddress', 'newAddress', 'deletionAsked', 'connectionAsked',
] as const
export type AccountOccasion = (typeof accountOccasions)[number]

/** How a message is sent: to a mail address, or as a text to a phone. */
export const channels = ['mail', 'phone'] as const
export type Channel = (typeof channels)[number]

/** For whom a message is worded; guests read what clients do, observers what hosts do. */
export const audiences = ['client', 'host'] as const
export type Audience = (typeof audiences)[number]

interface OccasionRow {
  /** What its message is called within a sentence. */
  name: string
  /** The booking's states in which the message is still true; in any other, a later change has overtaken it. */
  states: readonly BookingState[]
  /** iTIP method (RFC 5546) of the calendar entry that goes with it; null where there is no entry. */
  calendar: 'REQUEST' | 'CANCEL' | null
  /** Until when sending makes sense: the session's start or end, a day after it was planned, or that where it is later than the start. */
  lasts: 'start' | 'end' | 'dayOrStart' | 'day'
  /** Whether nobody needs to know where it was overtaken. */
  isSilent?: true
  /** Whether it tells of something else than the one booking. */
  isGeneral?: true
  /** Whether the client's answers stand in it. */
  withAnswers: boolean
  /** Whether it goes to those who hosted the session or came along before, and no longer do. */
  isFarewell?: true
}

const CONFIRMED = ['confirmed', 'attended', 'missed'] as const

const farewell = {
  states: [...CONFIRMED, 'awaitingApproval'], calendar: 'CANCEL', lasts: 'end', withAnswers: false, isFarewell: true,
} as const

export const occasionTable: Record<Occasion, OccasionRow> = {
  booked: {
    name: 'the confirmation',
    states: CONFIRMED,
    calendar: 'REQUEST',
    lasts: 'start',
    withAnswers: true,
  },
  awaitingApproval: {
    name: 'the request confirmation',
    states: ['awaitingApproval'],
    calendar: null,
    lasts: 'start',
    withAnswers: true,
  },
  declined: {
    name: 'the decline',
    states: ['declined'],
    calendar: null,
    lasts: 'dayOrStart',
    withAnswers: false,
  },
  cancelled: {
    name: 'the cancellation',
    states: ['cancelled'],
    calendar: 'CANCEL',
    lasts: 'dayOrStart',
    withAnswers: false,
  },
  expired: {
    name: 'the notice of expiry',
    states: ['expired'],
    calendar: null,
    lasts: 'dayOrStart',
    withAnswers: false,
  },
  moved: {
    name: 'the new time',
    states: [...CONFIRMED, 'awaitingApproval'],
    calendar: 'REQUEST',
    lasts: 'end',
    withAnswers: false,
  },
  movedAway: {
    name: 'the move to another host',
    ...farewell,
  },
  left: {
    name: 'the notice of departure',
    states: [...CONFIRMED, 'awaitingApproval', 'cancelled', 'declined', 'expired'],
    calendar: 'CANCEL',
    lasts: 'end',
    withAnswers: false,
  },
  linkFollows: {
    name: 'the video link',
    states: CONFIRMED,
    calendar: 'REQUEST',
    lasts: 'end',
    withAnswers: false,
  },
  newLink: {
    name: 'the new video link',
    states: CONFIRMED,
    calendar: 'REQUEST',
    lasts: 'end',
    withAnswers: false,
  },
  linkRemoved: {
    name: 'the removal of the video link',
    states: CONFIRMED,
    calendar: 'REQUEST',
    lasts: 'end',
    withAnswers: false,
  },
  placeChanged: {
    name: 'the change of place',
    states: CONFIRMED,
    calendar: 'REQUEST',
    lasts: 'end',
    withAnswers: false,
  },
  linkMissing: {
    name: 'the warning about the missing link',
    states: CONFIRMED,
    calendar: null,
    lasts: 'end',
    withAnswers: false,
  },
  handedOver: {
    name: 'the change of host',
    states: CONFIRMED,
    calendar: 'REQUEST',
    lasts: 'end',
    withAnswers: false,
  },
  handedAway: {
    name: 'the hand-over',
    ...farewell,
  },
  before: {
    name: 'the reminder',
    states: ['confirmed'],
    calendar: null,
    lasts: 'start',
    withAnswers: false,
  },
  bookingsList: {
    name: 'the list of bookings',
    states: bookingStates,
    calendar: null,
    lasts: 'day',
    isGeneral: true,
    withAnswers: false,
  },
  own: {
    name: 'a message of the workspace’s own',
    states: bookingStates,
    calendar: null,
    lasts: 'day',
    withAnswers: false,
  },
  guestAdded: {
    name: 'the invitation',
    states: [...CONFIRMED, 'awaitingApproval'],
    calendar: 'REQUEST',
    lasts: 'end',
    withAnswers: false,
  },
  guestRemoved: {
    name: 'the end of the invitation',
    ...farewell,
  },
  guestsChanged: {
    name: 'the change of guests',
    states: [...CONFIRMED, 'awaitingApproval'],
    calendar: 'REQUEST',
    lasts: 'end',
    withAnswers: false,
  },
  paymentWanted: {
    name: 'the request for payment',
    states: ['held'],
    calendar: null,
    lasts: 'start',
    isSilent: true,
    withAnswers: false,
  },
  unpaid: {
    name: 'the end of the hold',
    states: ['expired'],
    calendar: null,
    lasts: 'day',
    withAnswers: false,
  },
  refunded: {
    name: 'the refund',
    states: bookingStates,
    calendar: null,
    lasts: 'day',
    withAnswers: false,
  },
  peopleChanged: {
    name: 'the change of how many come',
    states: [...CONFIRMED, 'awaitingApproval'],
    calendar: 'REQUEST',
    lasts: 'end',
    withAnswers: false,
  },
}

export function isOccasion(text: string): text is Occasion {
  return occasions.some(occasion => occasion === text)
}

/** What an occasion's message is called within a sentence. */
export function occasionName(occasion: string): string {
  return isOccasion(occasion) ? occasionTable[occasion].name : 'a message'
}

const DAY = 24 * 3600

/** Until when sending makes sense. Instants in seconds. */
export function messageDeadline(occasion: Occasion, session: { start: number, end: number }, plannedAt: number): number {
  const { lasts } = occasionTable[occasion]
  if (lasts === 'day') return plannedAt + DAY
  return lasts === 'dayOrStart' ? Math.max(session.start, plannedAt + DAY) : session[lasts]
}
