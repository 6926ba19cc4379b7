export { applyAccountChange } from './account'
export { applyBookingChange, applySessionChange, type Reseated } from './apply'
export { changeBooking, type ChangeOutcome, lockBooking } from './change-booking'
export { planDeliveries } from './deliveries'
