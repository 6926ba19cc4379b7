export {
  connect, connectByConsent, type ConnectOutcome, disconnect, disconnectHost, discoverServer, lookAgain,
  mayConnectCalendars, reachesCalendar, reachesCalendarAccount, upload, type UploadOutcome,
} from './accounts'
export { findCalendarServer } from './access'
export { changeCalendar, readHostAnew } from './change'
export { calendarConsentUrl, calendarReturnPath, openCalendarConsent } from './consent'
export { planHostEntries, putBack, writeEntries, writingFailed } from './entries'
export { refreshCalendars } from './fresh'
export { lookAtAccount, lookFailed, planLostLooks } from './schedule'
export { deletePastTimes } from './store'
export { viewTaken } from './taken'
export { findCalendar, hasReceivingCalendar, listAccounts, summarizeCalendars } from './view'
