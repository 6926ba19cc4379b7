import ICAL from 'ical.js'

/** iCalendar entries (RFC 5545) and their iTIP envelopes (RFC 5546) for one session. */

export interface Person {
  name: string
  email: string
}

export interface CalendarEntry {
  /** PUBLISH for a file to keep, REQUEST for an invitation, CANCEL to take it back. */
  method: 'PUBLISH' | 'REQUEST' | 'CANCEL'
  /** Not confirmed yet. */
  tentative: boolean
  uid: string
  /** Raised by every change, so that calendars update themselves. */
  sequence: number
  /** Instants, seconds since the epoch. */
  stamp: number
  start: number
  end: number
  title: string
  description: string
  location: string | null
  url: string | null
  organizer: Person
  attendees: (Person & { accepted: boolean })[]
}

/** The entry as `text/calendar`, lines folded at 75 octets and ended with CRLF. Times stand in UTC. */
export function calendarText(entry: CalendarEntry): string {
  const calendar = new ICAL.Component('vcalendar')
  calendar.addPropertyWithValue('prodid', '-//Temporia//Bookings//EN')
  calendar.addPropertyWithValue('version', '2.0')
  calendar.addPropertyWithValue('calscale', 'GREGORIAN')
  calendar.addPropertyWithValue('method', entry.method)

  const event = new ICAL.Component('vevent')
  event.addPropertyWithValue('uid', entry.uid)
  event.addPropertyWithValue('dtstamp', instant(entry.stamp))
  event.addPropertyWithValue('sequence', entry.sequence)
  event.addPropertyWithValue('dtstart', instant(entry.start))
  event.addPropertyWithValue('dtend', instant(entry.end))
  event.addPropertyWithValue('summary', cleanText(entry.title))
  event.addPropertyWithValue('description', cleanText(entry.description))
  if (entry.location) event.addPropertyWithValue('location', cleanText(entry.location))
  if (entry.url) event.addPropertyWithValue('url', entry.url)
  event.addPropertyWithValue('status', entry.method === 'CANCEL' ? 'CANCELLED' : entry.tentative ? 'TENTATIVE' : 'CONFIRMED')
  event.addPropertyWithValue('transp', 'OPAQUE')
  const organizer = event.addPropertyWithValue('organizer', `mailto:${entry.organizer.email}`)
  organizer.setParameter('cn', cleanLine(entry.organizer.name))
  // An entry to keep has no attendees (RFC 5546 §3.2.1).
  for (const person of entry.method === 'PUBLISH' ? [] : entry.attendees) {
    const attendee = event.addPropertyWithValue('attendee', `mailto:${person.email}`)
    attendee.setParameter('cn', cleanLine(person.name))
    attendee.setParameter('role', 'REQ-PARTICIPANT')
    attendee.setParameter('partstat', person.accepted ? 'ACCEPTED' : 'NEEDS-ACTION')
  }
  calendar.addSubcomponent(event)
  return `${foldLines(calendar.toString())}\r\n`
}

function instant(seconds: number) {
  const time = new ICAL.Time({ isDate: false }, ICAL.Timezone.utcTimezone)
  time.fromUnixTime(seconds)
  return time
}

/** Control characters have no place in calendar text (RFC 5545 §3.1); line breaks become \n. */
function cleanText(text: string): string {
  // eslint-disable-next-line no-control-regex
  return text.replace(/\r\n?/g, '\n').replace(/[\u0000-\u0009\u000b-\u001f\u007f]/g, ' ')
}

function cleanLine(text: string): string {
  return cleanText(text).replaceAll('\n', ' ')
}

/** How many octets a code point takes in UTF-8 (RFC 3629 §3). */
function octets(code: number): number {
  return code < 0x80 ? 1 : code < 0x800 ? 2 : code < 0x10000 ? 3 : 4
}

/** Folds at 75 octets and never within a character (RFC 5545 §3.1). */
function foldLines(text: string): string {
  return text.replace(/\r\n[ \t]/g, '').split('\r\n').map((line) => {
    let folded = ''
    let length = 0
    for (const character of line) {
      const size = octets(character.codePointAt(0) ?? 0)
      if (length + size > 75) {
        folded += '\r\n '
        length = 1
      }
      folded += character
      length += size
    }
    return folded
  }).join('\r\n')
}
