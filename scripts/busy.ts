import { readFileSync, statSync } from 'node:fs'
import { parseArgs } from 'node:util'
import { NotACalendar, readCalendar, takenTime } from '../core/calendar/taken'
import { formatUnread } from '../core/catalogue/calendars'
import { DAY, formatInstant, parseInstant } from '../core/time/civil'
import { isZoneName, zoneOf } from '../core/time/zone'

/**
 * Prints the taken time of an iCalendar file: `npm run -s busy -- FILE.ics FROM TO [--zone Area/City] [--me address]…`, FROM
 * and TO as `2027-03-08T00:00:00Z`. Exit status 2, and nothing but a sentence on standard error, where that cannot be done.
 */

const MOST_BYTES = 20_000_000
const MOST_DAYS = 1100

try {
  process.stdout.write(`${JSON.stringify(busyOf(process.argv.slice(2)), null, 2)}\n`)
} catch (error) {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`)
  process.exitCode = 2
}

function busyOf(given: string[]): { busy: { start: string, end: string }[], unread: { uid: string, why: string }[] } {
  const { positionals, values } = parseArgs({
    args: given, allowPositionals: true, options: { zone: { type: 'string' }, me: { type: 'string', multiple: true } },
  })
  const [file, from = '', to = '', ...more] = positionals
  if (file === undefined || more.length > 0) throw new Error('Name a file and a span: busy FILE.ics FROM TO [--zone Area/City] [--me address]…')
  const span = { from: instant(from), to: instant(to) }
  if (span.to < span.from) throw new Error(`${to} is before ${from}`)
  if (span.to - span.from > MOST_DAYS * DAY) throw new Error(`The span is longer than ${MOST_DAYS} days`)
  if (values.zone !== undefined && !isZoneName(values.zone)) throw new Error(`${values.zone} is no time zone`)
  const zone = values.zone === undefined ? null : zoneOf(values.zone)
  const { busy, unread } = takenTime([calendarIn(file)], span, {
    zone, hostZone: zoneOf('UTC'), addresses: new Set((values.me ?? []).map(address => address.toLowerCase())), countsAllDay: true, countsUnconfirmed: true,
  })
  return {
    busy: Array.from({ length: busy.length / 2 }, (_, index) => ({ start: written(busy[index * 2]), end: written(busy[index * 2 + 1]) })),
    unread: unread.map(entry => ({ uid: entry.uid, why: formatUnread(entry) })),
  }
}

function calendarIn(file: string) {
  try {
    if (statSync(file).size > MOST_BYTES) throw new Error(`${file} is larger than 20 MB`)
    return readCalendar(readFileSync(file, 'utf8'))
  } catch (error) {
    if (error instanceof NotACalendar) throw new Error(`${file} holds no iCalendar data`)
    throw error
  }
}

function instant(text: string): number {
  const seconds = parseInstant(text)
  if (seconds === null) throw new Error(`“${text}” is no instant such as 2027-03-08T00:00:00Z`)
  return seconds
}

function written(seconds = NaN): string {
  return formatInstant(seconds)
}
