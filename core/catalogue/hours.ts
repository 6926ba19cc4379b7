import type { AvailabilityFault } from '../calendar/availability'
import type { HoursTextCode, HoursTextError } from '../time/hours-text'
import { formatInputFault } from './input'

/** What is wrong with typed hours and with files of hours, in words. */

const typed: Record<HoursTextCode, (text: string) => string> = {
  notWeekly: text => `“${text}” is more than weekly hours: holidays, single dates and recurring windows are chosen separately`,
  notDaysAndHours: text => `“${text}” is not days followed by hours, such as Mo-Th 09:00-17:00`,
  notADay: text => `“${text}” is not a day; write Mo, Tu, We, Th, Fr, Sa or Su`,
  notHours: text => `“${text}” is not hours such as 09:00-17:00`,
  notATime: text => `“${text}” is not a time of day`,
  endsBeforeStart: text => `“${text}” ends before it starts; write hours across midnight on both days`,
  overlap: text => `The hours in “${text}” overlap`,
}

export function formatHoursTextError({ code, text }: HoursTextError): string {
  return typed[code](text)
}

export function formatAvailabilityFault(fault: AvailabilityFault): string {
  switch (fault.code) {
    case 'notCalendar': return 'This is not an iCalendar file'
    case 'tooLarge': return 'The file is larger than 1 MB'
    case 'noAvailability': return 'The file has no availability (VAVAILABILITY)'
    case 'noStart': return 'The file has hours without a start (DTSTART)'
    case 'noEnd': return 'The file has hours without an end (DTEND or DURATION)'
    case 'acrossMidnight': return 'The file has hours across midnight; write them as two'
    case 'unreadable': return `The file has a ${fault.property} that cannot be read`
    case 'unknownZone': return `“${fault.zone}” is not a known time zone`
    case 'severalZones': return `The file has hours in several time zones (${fault.zones.join(', ')}); a plan has only one`
    case 'invalid': return `The file does not make a valid plan: ${formatInputFault(fault.fault)}`
  }
}
