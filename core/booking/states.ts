/** The states of bookings and rooms, and which changes are allowed, as tables. */

export const bookingStates = [
  'held', 'awaitingApproval', 'confirmed', 'declined', 'cancelled', 'expired', 'attended', 'missed',
] as const
export type BookingState = (typeof bookingStates)[number]

const bookingChanges: Record<BookingState, readonly BookingState[]> = {
  held: ['awaitingApproval', 'confirmed', 'cancelled', 'expired'],
  awaitingApproval: ['confirmed', 'declined', 'cancelled', 'expired'],
  confirmed: ['cancelled', 'attended', 'missed'],
  declined: [],
  cancelled: [],
  expired: [],
  attended: ['missed'],
  missed: ['attended'],
}

export const roomStates = ['planned', 'making', 'ready', 'failing', 'withdrawn'] as const
export type RoomState = (typeof roomStates)[number]

const roomChanges: Record<RoomState, readonly RoomState[]> = {
  planned: ['making', 'withdrawn'],
  making: ['making', 'ready', 'failing', 'withdrawn'],
  ready: ['making', 'failing', 'withdrawn'],
  failing: ['making', 'ready', 'withdrawn'],
  withdrawn: [],
}

/** Bookings in these states are expected to take place. */
export const expectedStates: readonly BookingState[] = ['held', 'awaitingApproval', 'confirmed']

/** Bookings in these states keep their session's time taken. */
export const takingStates: readonly BookingState[] = [...expectedStates, 'attended', 'missed']

export function bookingMayBecome(from: BookingState, to: BookingState): boolean {
  return bookingChanges[from].includes(to)
}

/** Whether the place's address or number may be shown to clients: from the confirmation on, while the booking stands. */
export function isConfirmed(state: BookingState): boolean {
  return state === 'confirmed' || state === 'attended' || state === 'missed'
}

export function roomMayBecome(from: RoomState, to: RoomState): boolean {
  return roomChanges[from].includes(to)
}

export const bookingStateWords: Record<BookingState, string> = {
  held: 'held',
  awaitingApproval: 'awaiting approval',
  confirmed: 'confirmed',
  declined: 'declined',
  cancelled: 'cancelled',
  expired: 'expired',
  attended: 'attended',
  missed: 'missed',
}

export const roomStateWords: Record<RoomState, string> = {
  planned: 'not made yet',
  making: 'being made',
  ready: 'ready',
  failing: 'failing',
  withdrawn: 'withdrawn',
}
