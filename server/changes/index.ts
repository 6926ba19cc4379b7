export { applyAccountChange } from './account'
export { applyBookingChange, applySessionChange, type Reseated } from './apply'
export { changeBooking, type ChangeOutcome } from './change-booking'
