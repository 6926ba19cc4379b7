import ICAL from 'ical.js'
import type { Intervals } from '../time/intervals'

/** iCalendar entries (RFC 5545) and their iTIP envelopes (RFC 5546) for one session. */

export interface Person {
  name: string
  email: string
}

/** What an entry says of its session, to whomever. */
export interface EntryFacts {
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
}

export interface CalendarEntry extends EntryFacts {
  /** PUBLISH for a file to keep, REQUEST for an invitation, CANCEL to take it back. */
  method: 'PUBLISH' | 'REQUEST' | 'CANCEL'
  organizer: Person
  attendees: (Person & { accepted: boolean })[]
}

/** The entry as `text/calendar`, lines folded at 75 octets and ended with CRLF. Times stand in UTC. */
export function calendarText(entry: CalendarEntry): string {
  const calendar = makeCalendar()
  calendar.addPropertyWithValue('method', entry.method)
  const event = eventOf(entry, entry.method === 'CANCEL' ? 'CANCELLED' : entry.tentative ? 'TENTATIVE' : 'CONFIRMED')
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

/** Where a calendar that others subscribe to stands, and how often it is worth looking at (RFC 7986 §5.7). */
export interface Feed {
  name: string
  refreshMinutes: number
  entries: readonly EntryFacts[]
}

/** Sessions as a calendar to subscribe to: without METHOD, organizer and attendees, as nobody is invited by it. */
export function feedText({ name, refreshMinutes, entries }: Feed): string {
  const calendar = makeCalendar()
  calendar.addPropertyWithValue('name', cleanLine(name))
  calendar.addPropertyWithValue('x-wr-calname', cleanLine(name))
  const refresh = new ICAL.Property('refresh-interval')
  refresh.setParameter('value', 'DURATION')
  refresh.setValue(ICAL.Duration.fromSeconds(refreshMinutes * 60).toString())
  calendar.addProperty(refresh)
  for (const entry of entries) calendar.addSubcomponent(eventOf(entry, entry.tentative ? 'TENTATIVE' : 'CONFIRMED'))
  return `${foldLines(calendar.toString())}\r\n`
}

/** Times that somebody is not free in (VFREEBUSY, RFC 5545 §3.6.4), from one instant to another, and nothing of what they do. */
export function freeBusyText(
  { uid, stamp, from, to, busy }: { uid: string, stamp: number, from: number, to: number, busy: Intervals },
): string {
  const calendar = makeCalendar()
  const times = new ICAL.Component('vfreebusy')
  times.addPropertyWithValue('uid', uid)
  times.addPropertyWithValue('dtstamp', instant(stamp))
  times.addPropertyWithValue('dtstart', instant(from))
  times.addPropertyWithValue('dtend', instant(to))
  for (let index = 0; index < busy.length; index += 2) {
    const [start = 0, end = 0] = [busy[index], busy[index + 1]]
    times.addPropertyWithValue('freebusy', ICAL.Period.fromData({ start: instant(start), end: instant(end) })).setParameter('fbtype', 'BUSY')
  }
  calendar.addSubcomponent(times)
  return `${foldLines(calendar.toString())}\r\n`
}

function makeCalendar() {
  const calendar = new ICAL.Component('vcalendar')
  calendar.addPropertyWithValue('prodid', '-//Temporia//Bookings//EN')
  calendar.addPropertyWithValue('version', '2.0')
  calendar.addPropertyWithValue('calscale', 'GREGORIAN')
  return calendar
}

function eventOf(entry: EntryFacts, status: 'CANCELLED' | 'TENTATIVE' | 'CONFIRMED') {
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
  event.addPropertyWithValue('status', status)
  event.addPropertyWithValue('transp', 'OPAQUE')
  return event
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

/** A session as it stands in a host's own calendar: without METHOD, organizer and attendees, so that no server invites anybody. */
export function objectText(entry: EntryFacts): string {
  const calendar = makeCalendar()
  calendar.addSubcomponent(eventOf(entry, entry.tentative ? 'TENTATIVE' : 'CONFIRMED'))
  return `${foldLines(calendar.toString())}\r\n`
}
