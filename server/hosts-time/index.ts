export { holidayCountries, holidayDates } from './holidays'
export { countingEntries, type HostsState, type HostsTime, loadHostsState, loadHostsTime, loadSharedPlans, loadStated, NEAR, type RememberedTime, rememberHostsTime, type StatedTime, takenSource, WIDE } from './load'
export { changeHours, chooseDefault, createHours, deleteHours, insertPlan, listHours, makeDefault, reachesHours, shareHours, viewHours } from './plans'
export { loadReading, type TimeSource } from './later'
