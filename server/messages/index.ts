export { deliver } from './deliver'
export { bookingPage, type BookingStory, entryFor, loadStory, type Reader, sayPlace } from './fields'
export { planMessages } from './plan'
export { roomIsReady } from './room-ready'
