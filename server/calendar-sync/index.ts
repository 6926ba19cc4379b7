export {
  changeCalendar, connect, type ConnectOutcome, disconnect, disconnectHost, discoverServer, lookAgain, mayConnectCalendars,
  reachesCalendar, reachesCalendarAccount, readHostAnew, upload, type UploadOutcome,
} from './accounts'
export { refreshCalendars } from './fresh'
export { type CalendarReader, directReader, threadReader } from './reader'
export { lookAtAccount, lookFailed, planLostLooks } from './schedule'
export { deletePastTimes } from './store'
export { viewTaken } from './taken'
export { findCalendar, listAccounts } from './view'
