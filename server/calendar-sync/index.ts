export {
  changeCalendar, connect, type ConnectOutcome, disconnect, disconnectHost, discoverServer, lookAgain, mayConnectCalendars,
  reachesCalendar, reachesCalendarAccount, readHostAnew, upload, type UploadOutcome,
} from './accounts'
export { type CalendarReader, directReader, threadReader } from './reader'
export { lookAtAccount, lookFailed, planLostLooks } from './schedule'
export { deletePastTimes } from './store'
export { findCalendar, listAccounts } from './view'
