export { applyAccountChange } from './account'
export { applyBookingChange, applySessionChange } from './apply'
export { changeBooking, type ChangeOutcome } from './change-booking'
