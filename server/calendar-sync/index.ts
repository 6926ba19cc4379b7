export {
  changeCalendar, connect, connectByConsent, type ConnectOutcome, disconnect, disconnectHost, discoverServer, lookAgain,
  mayConnectCalendars, reachesCalendar, reachesCalendarAccount, readHostAnew, upload, type UploadOutcome,
} from './accounts'
export { findCalendarServer } from './access'
export { calendarConsentUrl, calendarReturnPath, openCalendarConsent } from './consent'
export { planHostEntries, putBack, writeEntries, writingFailed } from './entries'
export { refreshCalendars } from './fresh'
export { type CalendarReader, directReader, threadReader } from './reader'
export { lookAtAccount, lookFailed, planLostLooks } from './schedule'
export { deletePastTimes } from './store'
export { viewTaken } from './taken'
export { findCalendar, hasReceivingCalendar, listAccounts } from './view'
