export { type CountryChoice, holidayCountries, holidayDates } from './holidays'
export { type HostsTime, loadHostsTime } from './load'
export { changeHours, listHours, viewHours } from './plans'
