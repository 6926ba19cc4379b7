import ICAL from 'ical.js'
import { calendarKey, type HolidayDates, type StoredPlan, storedPlanSchema, plainPlan } from '../hours/plan'
import { DAY, dateToDays, formatDate, isoWeekOf, parseClock, weekdayIndex, type Weekday, weekdays } from '../time/civil'
import { isZoneName } from '../time/zone'
import { recurringDays } from '../openings/recurring'
import { type InputFault, inputFaults } from '../validation'

/** Hours plans as iCalendar VAVAILABILITY components (RFC 7953) and back. */

/** Why a file is not an hours plan, by code and values. */
export type AvailabilityFault =
  | { code: 'notCalendar' | 'noAvailability' | 'noStart' | 'noEnd' | 'acrossMidnight' | 'tooLarge' }
  | { code: 'unreadable', property: string }
  | { code: 'unknownZone', zone: string }
  | { code: 'severalZones', zones: string[] }
  | { code: 'invalid', fault: InputFault }

export class AvailabilityError extends Error {
  constructor(readonly fault: AvailabilityFault) {
    super(fault.code)
    this.name = 'AvailabilityError'
  }
}

/** The first date that windows of a plan without one are written from; a Monday. */
const PLAIN_START = dateToDays('2024-01-01')

/**
 * A plan as an iCalendar object with one VAVAILABILITY. Weekly and recurring windows become AVAILABLE components with
 * RRULE; an exception takes its date out of each (EXDATE) and adds its own windows. Holidays are written as the
 * exceptions they are for the dates given, since the format has no calendars to point to.
 */
export function writeAvailability(name: string, plan: StoredPlan, holidays: HolidayDates, uid: string, stamp: string): string {
  const calendar = new ICAL.Component('vcalendar')
  calendar.addPropertyWithValue('version', '2.0')
  calendar.addPropertyWithValue('prodid', '-//Temporia//Hours//EN')
  const availability = new ICAL.Component('vavailability')
  availability.addPropertyWithValue('uid', uid)
  availability.addPropertyWithValue('dtstamp', ICAL.Time.fromDateTimeString(stamp.replace(/\.\d+Z$/, 'Z')))
  availability.addPropertyWithValue('summary', name)
  if (plan.valid.from !== null) addTime(availability, 'dtstart', dateToDays(plan.valid.from), 0, plan.timeZone)
  if (plan.valid.to !== null) addTime(availability, 'dtend', dateToDays(plan.valid.to) + 1, 0, plan.timeZone)
  calendar.addSubcomponent(availability)

  const ownDates = new Set(plan.exceptions.map(exception => exception.date))
  const closed = plan.holidays
    .flatMap(holiday => holidays[calendarKey(holiday)] ?? [])
    .filter(item => !ownDates.has(item.date))
    .map(item => ({ date: item.date, windows: [] }))
  const exceptions = [...plan.exceptions, ...closed]
  let count = 0
  const add = (first: number, from: string, to: string, rrule: string | null, dates: (day: number) => boolean): void => {
    const available = new ICAL.Component('available')
    available.addPropertyWithValue('uid', `${uid}-${++count}`)
    available.addPropertyWithValue('dtstamp', ICAL.Time.fromDateTimeString(stamp.replace(/\.\d+Z$/, 'Z')))
    addTime(available, 'dtstart', first, parseClock(from) ?? 0, plan.timeZone)
    addTime(available, 'dtend', first, parseClock(to, true) ?? 1440, plan.timeZone)
    if (rrule !== null) available.addPropertyWithValue('rrule', ICAL.Recur.fromString(rrule))
    if (rrule !== null)
      for (const { date } of exceptions)
        if (dates(dateToDays(date))) addTime(available, 'exdate', dateToDays(date), parseClock(from) ?? 0, plan.timeZone)
    availability.addSubcomponent(available)
  }
  for (const window of plan.weekly) {
    const days = weekdays.filter(day => window.days.includes(day))
    const start = Math.min(...days.map(day => PLAIN_START + weekdays.indexOf(day)))
    add(start, window.from, window.to, `FREQ=WEEKLY;BYDAY=${days.join(',')}`, day => days.includes(weekdays[weekdayIndex(day)] ?? 'MO'))
  }
  for (const window of plan.recurring) {
    const start = dateToDays(window.start)
    const [first] = recurringDays(window.rrule, start, start, start + 20 * 366)
    if (first === undefined) continue
    const yielded = new Set(
      recurringDays(window.rrule, start, start, Math.max(start, ...exceptions.map(exception => dateToDays(exception.date)))),
    )
    add(first, window.from, window.to, window.rrule, day => yielded.has(day))
  }
  for (const { date, windows } of plan.exceptions)
    for (const window of windows) add(dateToDays(date), window.from, window.to, null, () => false)
  return `${calendar.toString()}\r\n`
}

function addTime(component: ICAL.Component, name: string, day: number, minutes: number, zone: string): void {
  const at = new Date((day * DAY + minutes * 60) * 1000).toISOString().slice(0, 19)
  const property = new ICAL.Property(name)
  property.setParameter('tzid', zone)
  property.setValue(ICAL.Time.fromDateTimeString(at))
  component.addProperty(property)
}

/**
 * The plan that the first VAVAILABILITY of an iCalendar object describes. Throws AvailabilityError for
 * what is no plan: no such component, times in several zones, windows across midnight, BUSYTYPE aside.
 */
export function readAvailability(text: string, fallbackZone: string): { name: string, plan: StoredPlan } {
  const availability = findAvailability(text)
  const zones = new Set<string>()
  const read = (component: ICAL.Component, name: string) => readTime(component, name, zones)
  const from = read(availability, 'dtstart')
  const to = read(availability, 'dtend')
  const plan = plainPlan(fallbackZone, [])
  const single = new Map<string, { from: string, to: string }[]>()
  for (const available of availability.getAllSubcomponents('available')) {
    const start = read(available, 'dtstart')
    if (!start) throw new AvailabilityError({ code: 'noStart' })
    const end = read(available, 'dtend') ?? afterDuration(available, start)
    const window = windowOf(start, end)
    const rule = available.getFirstPropertyValue('rrule')
    for (const property of available.getAllProperties('exdate'))
      for (const value of property.getValues()) if (value instanceof ICAL.Time) single.set(dateOf(value), single.get(dateOf(value)) ?? [])
    if (!(rule instanceof ICAL.Recur)) {
      single.set(start.date, [...single.get(start.date) ?? [], window])
      continue
    }
    const rrule = rule.toString()
    const weekly = /^FREQ=WEEKLY(?:;INTERVAL=1)?(?:;BYDAY=((?:MO|TU|WE|TH|FR|SA|SU)(?:,(?:MO|TU|WE|TH|FR|SA|SU))*))?$/.exec(rrule)
    if (weekly && dateToDays(start.date) < isoWeekOf(PLAIN_START) + 7) {
      const days = weekly[1]?.split(',').filter((day): day is Weekday => weekdays.some(weekday => weekday === day)) ?? [
        weekdays[weekdayIndex(dateToDays(start.date))] ?? 'MO',
      ]
      plan.weekly.push({ days, ...window })
    } else {
      plan.recurring.push({
        rrule: weekly && !weekly[1] ? `${rrule};BYDAY=${weekdays[weekdayIndex(dateToDays(start.date))]}` : rrule,
        start: start.date,
        ...window,
      })
    }
  }
  if (zones.size > 1) throw new AvailabilityError({ code: 'severalZones', zones: [...zones] })
  plan.timeZone = [...zones][0] ?? fallbackZone
  plan.valid = { from: from?.date ?? null, to: to ? formatDate(dateToDays(to.date) - (to.minutes === 0 ? 1 : 0)) : null }
  plan.exceptions = [...single].map(([date, windows]) => ({ date, windows })).sort((a, b) => (a.date < b.date ? -1 : 1))
  const checked = storedPlanSchema.safeParse(plan)
  const [fault] = inputFaults(checked.error, plan)
  if (!checked.success) throw new AvailabilityError({ code: 'invalid', fault: fault ?? { path: '', code: 'invalid', values: {} } })
  return { name: String(availability.getFirstPropertyValue('summary') ?? 'Imported hours').slice(0, 80), plan: checked.data }
}

interface ReadTime {
  date: string
  minutes: number
}

function findAvailability(text: string): ICAL.Component {
  let found: ICAL.Component | null
  try {
    found = new ICAL.Component(ICAL.parse(text)).getFirstSubcomponent('vavailability')
  } catch {
    throw new AvailabilityError({ code: 'notCalendar' })
  }
  if (!found) throw new AvailabilityError({ code: 'noAvailability' })
  readValues(found)
  return found
}

/** Values are read only when they are asked for: here all are, so that one that cannot be read is named. */
function readValues(component: ICAL.Component): void {
  for (const property of component.getAllProperties()) {
    try {
      property.getValues()
    } catch {
      throw new AvailabilityError({ code: 'unreadable', property: property.name.toUpperCase() })
    }
  }
  for (const inner of component.getAllSubcomponents()) readValues(inner)
}

function readTime(component: ICAL.Component, name: string, zones: Set<string>): ReadTime | null {
  const property = component.getFirstProperty(name)
  const value = property?.getFirstValue()
  if (!property || !(value instanceof ICAL.Time)) return null
  const zone = property.getFirstParameter('tzid') ?? (value.zone === ICAL.Timezone.utcTimezone ? 'UTC' : undefined)
  if (zone !== undefined && !isZoneName(zone)) throw new AvailabilityError({ code: 'unknownZone', zone })
  if (zone !== undefined) zones.add(zone)
  return { date: dateOf(value), minutes: value.hour * 60 + value.minute }
}

function dateOf(time: ICAL.Time): string {
  return formatDate(Date.UTC(time.year, time.month - 1, time.day) / 86_400_000)
}

function afterDuration(available: ICAL.Component, start: ReadTime): ReadTime {
  const duration = available.getFirstPropertyValue('duration')
  if (!(duration instanceof ICAL.Duration)) throw new AvailabilityError({ code: 'noEnd' })
  const end = dateToDays(start.date) * 1440 + start.minutes + Math.round(duration.toSeconds() / 60)
  return { date: formatDate(Math.floor(end / 1440)), minutes: end % 1440 }
}

function windowOf(start: ReadTime, end: ReadTime): { from: string, to: string } {
  const minutes = (dateToDays(end.date) - dateToDays(start.date)) * 1440 + end.minutes
  if (minutes > 1440 || minutes <= start.minutes) throw new AvailabilityError({ code: 'acrossMidnight' })
  const clock = (value: number) => `${String(Math.floor(value / 60)).padStart(2, '0')}:${String(value % 60).padStart(2, '0')}`
  return { from: clock(start.minutes), to: clock(minutes) }
}
