import ICAL from 'ical.js'

/** What the server knows of the text of an object: its UID, and when it takes place. */

export function uidOf(text: string): string {
  return String(eventsOf(text)[0]?.getFirstPropertyValue('uid') ?? '')
}

/** What a page shows of an object. */
export function describe(text: string): { title: string, start: string, end: string, rule: string, notes: string[] } {
  const [event] = eventsOf(text)
  const value = (name: string) => String(event?.getFirstPropertyValue(name) ?? '')
  return {
    title: value('summary'),
    start: value('dtstart'),
    end: value('dtend'),
    rule: value('rrule'),
    notes: [value('status').toLowerCase(), value('transp').toLowerCase()].filter(note => note !== '' && note !== 'opaque'),
  }
}

/** RFC 4791 §9.9: whether any instance overlaps a time range, within a few thousand instances. */
export function overlaps(text: string, from: Date, to: Date): boolean {
  const all = eventsOf(text).map(component => new ICAL.Event(component))
  const within = (start: ICAL.Time, end: ICAL.Time) =>
    start.toJSDate() < to && (end.toJSDate() > from || (end.compare(start) <= 0 && start.toJSDate() >= from))
  for (const event of all) {
    if (event.isRecurrenceException() || !event.isRecurring()) {
      if (within(event.startDate, event.endDate)) return true
      continue
    }
    for (const other of all) if (other.isRecurrenceException()) event.relateException(other)
    const iterator = event.iterator()
    for (let next = iterator.next(), steps = 0; next && steps < 5000; next = iterator.next(), steps++) {
      const { startDate, endDate } = event.getOccurrenceDetails(next)
      if (within(startDate, endDate)) return true
      if (next.toJSDate() >= to) break
    }
  }
  return false
}

function eventsOf(text: string): ICAL.Component[] {
  return new ICAL.Component(ICAL.parse(text)).getAllSubcomponents('vevent')
}

/** RFC 5545 §3.3.5, of a time in UTC. */
export function formatUtc(date: Date): string {
  return date.toISOString().replaceAll(/[-:]|\.\d+/g, '')
}

export interface EntryText {
  uid: string
  title: string
  /** Whole properties, such as `DTSTART;TZID=Europe/Lisbon:20270308T090000`. */
  lines: string[]
  /** Other components of the same UID, as lines. */
  overrides?: string[][]
}

export function entryText({ uid, title, lines, overrides = [] }: EntryText): string {
  const stamp = `DTSTAMP:${formatUtc(new Date())}`
  const escaped = title.replaceAll(/[\\;,]/g, sign => `\\${sign}`).replaceAll('\n', '\\n')
  const components = [lines, ...overrides].flatMap(own =>
    ['BEGIN:VEVENT', `UID:${uid}`, stamp, ...(own.some(line => line.startsWith('SUMMARY')) ? [] : [`SUMMARY:${escaped}`]), ...own, 'END:VEVENT'])
  return ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Copperplate//Calendar//EN', ...components, 'END:VCALENDAR', ''].join('\r\n')
}

/** The entries of a calendar file, each as an object of its own, by UID. */
export function splitCalendar(text: string): Map<string, string> {
  const found = new Map<string, string[]>()
  for (const event of text.match(/BEGIN:VEVENT\r?\n[\s\S]*?END:VEVENT\r?\n/g) ?? []) {
    const uid = /^UID:(.*?)\r?$/m.exec(event)?.[1] ?? ''
    found.set(uid, [...found.get(uid) ?? [], event])
  }
  return new Map([...found].map(([uid, events]) =>
    [uid, `BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Copperplate//Calendar//EN\r\n${events.join('')}END:VCALENDAR\r\n`]))
}
