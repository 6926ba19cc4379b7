import { readCalendar, takenInstances, takenTime } from '../../core/calendar/taken'
import { DAY, formatInstant, instantToSeconds } from '../../core/time/civil'
import { zoneOf } from '../../core/time/zone'

/** How fast the taken time of a large calendar is worked out: of objects read already, from its text, and after one change. */

const ENTRIES = 10_000
const RECURRING = 500
const NOW = instantToSeconds('2027-03-01T00:00:00Z')
const AHEAD = 400

const settings = { zone: null, hostZone: zoneOf('UTC'), addresses: new Set(['host@fernhollow.example']), countsAllDay: true, countsUnconfirmed: true }
const rules = ['FREQ=WEEKLY;BYDAY=MO,WE', 'FREQ=DAILY', 'FREQ=MONTHLY;BYDAY=-1FR', 'FREQ=YEARLY', 'FREQ=WEEKLY;INTERVAL=2']

/** Entries over six years around today, as wordy as calendars have them: about 8 MB. */
export function largeCalendar(): string[] {
  return Array.from({ length: ENTRIES }, (_, index) => {
    const isRecurring = index % (ENTRIES / RECURRING) === 0
    const start = NOW + ((index * 7919) % 2000 - 1400) * DAY + (index % 40) * 900
    const stamp = (at: number) => formatInstant(at).replaceAll(/[-:]/g, '').replace('Z', '')
    return [
      'BEGIN:VEVENT', `UID:${index}@calendar.example`, 'DTSTAMP:20270101T000000Z', `DTSTART;TZID=Europe/Lisbon:${stamp(start)}`,
      `DTEND;TZID=Europe/Lisbon:${stamp(start + 2700)}`, `SUMMARY:Talk number ${index}`, ...(isRecurring ? [`RRULE:${rules[index % 7 % rules.length]}`] : []),
      ...Array.from({ length: 3 }, (_, guest) => `ATTENDEE;CN=Guest ${guest};PARTSTAT=ACCEPTED:mailto:guest${guest}@fernhollow.example`),
      `DESCRIPTION:${'What is to be talked about\\, and by whom. '.repeat(11)}`, 'END:VEVENT', '',
    ].join('\r\n')
  })
}

export function measureCalendar(print: (text: string) => void): void {
  const objects = largeCalendar()
  const whole = `BEGIN:VCALENDAR\r\nVERSION:2.0\r\n${objects.join('')}END:VCALENDAR\r\n`
  const span = { from: NOW, to: NOW + 60 * DAY }
  const file = readCalendar(whole)
  const one = `BEGIN:VCALENDAR\r\nVERSION:2.0\r\n${objects[0] ?? ''}END:VCALENDAR\r\n`
  print(`Taken time of a calendar of ${ENTRIES} entries, ${RECURRING} of them recurring without end, for 60 days`)
  print(`  objects read already: ${judge(() => takenTime([file], span, settings), 40, 40)}`)
  print(`  from ${(whole.length / 1e6).toFixed(1)} MB of text: ${judge(() => takenTime([readCalendar(whole)], span, settings), 2500, 5)}`)
  print(`  one object changed, ${AHEAD} days ahead: ${judge(() => [...takenInstances(readCalendar(one), { from: NOW, to: NOW + AHEAD * DAY }, settings)], 5, 200)}`)
}

function judge(run: () => unknown, goalMs: number, runs: number): string {
  for (let index = 0; index < Math.min(5, runs); index++) run()
  const times = Array.from({ length: runs }, () => {
    const startedAt = performance.now()
    run()
    return performance.now() - startedAt
  }).sort((a, b) => a - b)
  const median = times[Math.floor(runs / 2)] ?? NaN
  return `median ${median.toFixed(1)} ms; goal ${goalMs} ms ${median <= goalMs ? 'met' : 'MISSED'}`
}
