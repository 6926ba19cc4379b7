import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, expect, it } from 'vitest'

const folder = mkdtempSync(join(tmpdir(), 'busy-'))
afterAll(() => rmSync(folder, { recursive: true }))

function fileOf(name: string, text: string): string {
  writeFileSync(join(folder, name), text)
  return join(folder, name)
}

function busy(...given: string[]) {
  const { status, stdout, stderr } = spawnSync(process.execPath, ['--import', 'tsx', join(import.meta.dirname, 'busy.ts'), ...given], { encoding: 'utf8' })
  return { status, stdout, stderr: stderr.trim() }
}

const calendar = fileOf('calendar.ics', [
  'BEGIN:VCALENDAR', 'BEGIN:VEVENT', 'UID:day', 'DTSTART;VALUE=DATE:20270308', 'END:VEVENT',
  'BEGIN:VEVENT', 'UID:declined', 'DTSTART:20270310T090000Z', 'DURATION:PT1H', 'ATTENDEE;PARTSTAT=DECLINED:mailto:me@host.example', 'END:VEVENT',
  'BEGIN:VEVENT', 'UID:bad', 'DTSTART:20270310T090000Z', 'RRULE:FREQ=FORTNIGHTLY', 'END:VEVENT', 'END:VCALENDAR', '',
].join('\r\n'))

it('prints taken time, cut to the span, by the zone and for the addresses that are named, and what it could not read', () => {
  const { status, stdout, stderr } = busy(calendar, '2027-03-08T06:00:00Z', '2027-03-11T00:00:00Z', '--zone', 'America/Halifax', '--me', 'ME@host.example')
  expect([status, stderr]).toEqual([0, ''])
  expect(JSON.parse(stdout)).toEqual({
    busy: [{ start: '2027-03-08T06:00:00Z', end: '2027-03-09T04:00:00Z' }], unread: [{ uid: 'bad', why: expect.stringMatching(/^Its recurrence rule/) }],
  })
})

it.each([
  ['a file that holds no calendar', [fileOf('page.ics', '<html>'), '2027-03-08T00:00:00Z', '2027-03-09T00:00:00Z']],
  ['a file of more than 20 MB', [fileOf('large.ics', `BEGIN:VCALENDAR\n${' '.repeat(20_000_001)}`), '2027-03-08T00:00:00Z', '2027-03-09T00:00:00Z']],
  ['a file that is not there', [join(folder, 'nowhere.ics'), '2027-03-08T00:00:00Z', '2027-03-09T00:00:00Z']],
  ['an instant that is none', [calendar, '2027-03-08', '2027-03-09T00:00:00Z']], ['an end before the start', [calendar, '2027-03-09T00:00:00Z', '2027-03-08T00:00:00Z']],
  ['more than 1,100 days', [calendar, '2027-03-08T00:00:00Z', '2030-03-13T00:00:00Z']], ['a zone that is none', [calendar, '2027-03-08T00:00:00Z', '2027-03-09T00:00:00Z', '--zone', 'Mars/Base']],
])('refuses %s in one sentence, and prints nothing else', (_, given) => {
  const { status, stdout, stderr } = busy(...given)
  expect({ status, stdout }).toEqual({ status: 2, stdout: '' })
  expect(stderr).toMatch(/^\S.*$/)
})
