export { type CountryChoice, holidayCountries, holidayDates } from './holidays'
export { changeHours, listHours, viewHours } from './plans'
