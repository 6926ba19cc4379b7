export { holidayCountries, holidayDates } from './holidays'
export { type HostPlanRow, type HostsState, type HostsTime, loadHostsState, loadHostsTime, WIDE } from './load'
export { changeHours, createHours, listHours, makeDefault, type PlanRefusal, viewHours } from './plans'
