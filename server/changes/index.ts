export { applyAccountChange } from './account'
export { applyBookingChange, applySessionChange, type HandedOver } from './apply'
export { changeBooking, type ChangeOutcome } from './change-booking'
