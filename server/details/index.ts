export {
  type BookingDetails,
  type Guest,
  loadAttendees,
  loadBookingDetails,
  isRoomOfSession,
  loadDetailsOfHost,
  loadDetailsOfSession,
  loadSession,
  loadSessionBookings,
  type SessionBooking,
} from './load'
export { clientMay } from './client-may'
export { formatPlace, formatPlaceLabel } from './place'
export { loadObservers, memberPhone, type Observer, type Person, recipientsOf } from './recipients'
export { bookingPage, mailedBookingPage } from './links'
