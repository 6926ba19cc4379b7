export { deliver, deliveryFailed, sendAgain } from './deliver'
export { recordTitleFault } from './title-fault'
export { forgetUnopened, markOpened } from './unopened'
