import Holidays from 'date-holidays'
import { calendarKey, type Holiday, type HolidayCalendar, type HolidayDates } from '../../core/hours/plan'
import { civilOf, DAY } from '../../core/time/civil'
import type { CountryChoice } from '../../core/views/hours'

/** Public holidays of countries and their regions. */

const years = new Map<string, Holiday[]>()

/** The public holidays of calendars in every year that a span of instants touches. */
export function holidayDates(calendars: readonly HolidayCalendar[], from: number, to: number): HolidayDates {
  const [first, last] = [civilOf(Math.floor(from / DAY) - 1).year, civilOf(Math.floor(to / DAY) + 1).year]
  return Object.fromEntries(calendars.map(calendar =>
    [calendarKey(calendar), Array.from({ length: last - first + 1 }, (_, i) => holidaysOfYear(calendar, first + i)).flat()]))
}

function holidaysOfYear(calendar: HolidayCalendar, year: number): Holiday[] {
  const key = `${calendarKey(calendar)} ${year}`
  let found = years.get(key)
  if (!found) {
    const seen = new Set<string>()
    found = calendarOf(calendar).getHolidays(year, 'en')
      .filter(holiday => holiday.type === 'public')
      .map(holiday => ({ date: holiday.date.slice(0, 10), name: holiday.name }))
      .filter(({ date }) => !seen.has(date) && seen.add(date))
    years.set(key, found)
  }
  return found
}

function calendarOf({ country, region }: HolidayCalendar): Holidays {
  return region === null ? new Holidays(country) : new Holidays(country, region)
}

/** The countries that have a calendar, by name, each with its regions. */
export function holidayCountries(): CountryChoice[] {
  const holidays = new Holidays()
  return Object.entries(holidays.getCountries('en'))
    .map(([code, name]) => ({
      code,
      name,
      regions: Object.entries(holidays.getStates(code, 'en') ?? {})
        .map(([region, called]) => ({ code: region, name: called }))
        .filter(item => /^[A-Z0-9]{1,10}$/.test(item.code)),
    }))
    .filter(item => /^[A-Z]{2}$/.test(item.code))
    .sort((a, b) => a.name.localeCompare(b.name, 'en'))
}
