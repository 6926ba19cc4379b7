import { describe, expect, it } from 'vitest'
import { formatInstant, instantToSeconds } from '../../time/civil'
import { zoneOf } from '../../time/zone'
import { type CalendarSettings, NotACalendar, readCalendar, takenTime } from '.'

/** Taken time from 1 to 29 March 2027, as `08T09:00/08T10:00` in UTC, of entries given by their lines. */
function taken(entries: string[], settings: Partial<CalendarSettings> = {}, around: string[] = []) {
  const text = ['BEGIN:VCALENDAR', 'VERSION:2.0', ...around, ...entries.map((lines, index) =>
    `BEGIN:VEVENT\nUID:${index}\n${lines}\nEND:VEVENT`), 'END:VCALENDAR', ''].join('\n')
  return takenIn(text, settings)
}

function takenIn(text: string, settings: Partial<CalendarSettings> = {}) {
  const span = { from: instantToSeconds('2027-03-01T00:00:00Z'), to: instantToSeconds('2027-03-29T00:00:00Z') }
  const { busy, unread } = takenTime([readCalendar(text)], span, {
    zone: null, hostZone: zoneOf('UTC'), addresses: new Set(['me@host.example']), countsAllDay: true, countsUnconfirmed: true, ...settings,
  })
  const written = busy.map(at => formatInstant(at).slice(8, 16))
  return { busy: written.filter((_, index) => index % 2 === 0).map((start, index) => `${start}/${written[index * 2 + 1]}`), unread }
}

const timed = 'DTSTART:20270308T090000Z\nDTEND:20270308T100000Z'

describe('which entries count', () => {
  it.each([
    ['an entry', '', 1], ['a cancelled one', 'STATUS:CANCELLED', 0], ['a transparent one', 'TRANSP:TRANSPARENT', 0],
    ['one that the host declined', 'ATTENDEE;PARTSTAT=DECLINED;CN="Host, Me":mailto:Me@Host.example', 0],
    ['one that somebody else declined', 'ATTENDEE;PARTSTAT=DECLINED:mailto:other@host.example', 1],
    ['a tentative one', 'STATUS:TENTATIVE', 1],
  ])('%s', (_, line, count) => expect(taken([`${timed}\n${line}`]).busy).toHaveLength(count))

  it.each([
    ['STATUS:TENTATIVE', 0], ['ATTENDEE:mailto:me@host.example', 0], ['ATTENDEE;PARTSTAT=ACCEPTED:mailto:me@host.example', 1],
  ])('without unconfirmed ones: %s', (line, count) =>
    expect(taken([`${timed}\n${line}`], { countsUnconfirmed: false }).busy).toHaveLength(count))

  it('counts whole days by the clocks of the calendar, and leaves them out where the calendar says so', () => {
    const day = 'DTSTART;VALUE=DATE:20270328'
    expect(taken([day], {}, ['X-WR-TIMEZONE:Europe/Lisbon']).busy).toEqual(['28T00:00/28T23:00'])
    expect(taken([day], { zone: zoneOf('America/New_York') }, ['X-WR-TIMEZONE:Europe/Lisbon']).busy).toEqual(['28T04:00/29T00:00'])
    expect(taken([day], { countsAllDay: false }).busy).toEqual([])
  })

  it('takes the periods of free/busy times that are not free', () => {
    const text = 'BEGIN:VCALENDAR\nBEGIN:VFREEBUSY\nFREEBUSY:20270308T090000Z/PT1H,20270308T100000Z/20270308T110000Z\n'
      + 'FREEBUSY;FBTYPE=FREE:20270309T090000Z/PT1H\nFREEBUSY;FBTYPE=BUSY-TENTATIVE:20270310T090000Z/PT1H\nEND:VFREEBUSY\nEND:VCALENDAR\n'
    expect(takenIn(text, { countsUnconfirmed: false }).busy).toEqual(['08T09:00/08T11:00'])
    expect(takenIn(text).busy).toHaveLength(2)
  })

  it('leaves out entries by their UID', () => expect(taken([timed, timed], { isLeftOut: uid => uid === '0' || uid === '1' }).busy).toEqual([]))
})

describe('how long', () => {
  it.each([
    ['DTSTART:20270308T090000Z', []], ['DTSTART;VALUE=DATE:20270308', ['08T00:00/09T00:00']],
    ['DTSTART:20270308T090000Z\nDTEND:20270308T080000Z', []], ['DTSTART;VALUE=DATE:20270308\nDTEND;VALUE=DATE:20270308', ['08T00:00/09T00:00']],
    ['DTSTART:20270308T090000Z\nDURATION:PT90M', ['08T09:00/08T10:30']], ['DTSTART:20270308T090000Z\nDURATION:-PT90M', []],
    ['DTSTART;VALUE=DATE:20270308\nDURATION:P2D', ['08T00:00/10T00:00']],
    ['DTSTART;TZID=Europe/Berlin:20270327T120000\nDTEND;TZID=Europe/Berlin:20270328T120000\nRRULE:FREQ=DAILY;COUNT=1', ['27T11:00/28T10:00']],
    // The night of the change is an hour shorter: exactly 24 hours by DTEND, until the same wall-clock time by DURATION.
    ['DTSTART;TZID=Europe/Berlin:20270326T120000\nDTEND;TZID=Europe/Berlin:20270327T120000\nRRULE:FREQ=DAILY;INTERVAL=1;COUNT=2', ['26T11:00/28T11:00']],
    ['DTSTART;TZID=Europe/Berlin:20270326T120000\nDURATION:P1D\nRRULE:FREQ=DAILY;COUNT=2', ['26T11:00/28T10:00']],
    ['DTSTART:19900101T000000Z\nDURATION:P365000D', ['01T00:00/29T00:00']],
  ])('%s', (lines, busy) => expect(taken([lines])).toEqual({ busy, unread: [] }))
})

describe('recurrence', () => {
  it.each([
    ['counts the first instance that the rule does not name', 'DTSTART:20270308T090000Z\nDURATION:PT1H\nRRULE:FREQ=WEEKLY;BYDAY=TU;COUNT=2', ['08T09:00/08T10:00', '09T09:00/09T10:00']],
    ['moves skipped times forward, and counts them', 'DTSTART;TZID=Europe/Berlin:20270327T023000\nDURATION:PT10M\nRRULE:FREQ=DAILY;COUNT=2', ['27T01:30/27T01:40', '28T01:30/28T01:40']],
    ['excludes the instances of a date', 'DTSTART:20270308T090000Z\nDURATION:PT1H\nRRULE:FREQ=HOURLY;INTERVAL=6;COUNT=4\nEXDATE;VALUE=DATE:20270308', ['09T03:00/09T04:00']],
    ['takes periods', 'DTSTART:20270308T090000Z\nDURATION:PT1H\nRDATE;VALUE=PERIOD:20270309T090000Z/PT3H,20270310T090000Z/20270310T090500Z', ['08T09:00/08T10:00', '09T09:00/09T12:00', '10T09:00/10T09:05']],
    ['reads EXRULEs', 'DTSTART:20270308T090000Z\nDURATION:PT1H\nRRULE:FREQ=DAILY;COUNT=4\nEXRULE:FREQ=DAILY;INTERVAL=2', ['09T09:00/09T10:00', '11T09:00/11T10:00']],
    ['knows the days of weeks by their number', 'DTSTART;VALUE=DATE:20200101\nRRULE:FREQ=YEARLY;BYWEEKNO=10;BYDAY=WE', ['10T00:00/11T00:00']],
  ])('%s', (_, lines, busy) => expect(taken([lines])).toEqual({ busy, unread: [] }))

  const weekly = 'UID:w\nDTSTART:20270301T090000Z\nDTEND:20270301T100000Z\nRRULE:FREQ=WEEKLY'
  const series = (...more: string[]) => takenIn(`BEGIN:VCALENDAR\n${[weekly, ...more].map(lines => `BEGIN:VEVENT\n${lines}\nEND:VEVENT\n`).join('')}END:VCALENDAR\n`).busy

  it('lets the last revision stand for an instance, in whatever zone it is named', () => {
    const moved = (sequence: number, hour: number) => `UID:w\nSEQUENCE:${sequence}\nRECURRENCE-ID;TZID=Europe/Berlin:20270308T100000\nDTSTART:20270308T${hour}0000Z\nDURATION:PT1H`
    expect(series(moved(2, 14), moved(1, 16))).toEqual(['01T09:00/01T10:00', '08T14:00/08T15:00', '15T09:00/15T10:00', '22T09:00/22T10:00'])
  })

  it('carries a change on to all later instances, and its cancellation too', () => {
    const later = 'UID:w\nRECURRENCE-ID;RANGE=THISANDFUTURE:20270315T090000Z\nDTSTART:20270316T110000Z\nDURATION:PT2H'
    expect(series(later)).toEqual(['01T09:00/01T10:00', '08T09:00/08T10:00', '16T11:00/16T13:00', '23T11:00/23T13:00'])
    expect(series(`${later}\nSTATUS:CANCELLED`)).toEqual(['01T09:00/01T10:00', '08T09:00/08T10:00'])
  })

  it('costs what the span costs, wherever a rule began and however often it comes', () => {
    const { busy, unread } = taken([
      'DTSTART:19700101T000000Z\nDURATION:PT1H\nRRULE:FREQ=DAILY', 'DTSTART:20000101T000000Z\nDURATION:PT1S\nRRULE:FREQ=SECONDLY;BYMONTH=2;BYMONTHDAY=30',
      'DTSTART:20000101T000000Z\nDURATION:PT1S\nRRULE:FREQ=SECONDLY;INTERVAL=3;BYSECOND=1', 'DTSTART:20270308T200000Z\nDURATION:PT1H',
    ])
    expect([busy.length, unread]).toEqual([28 + 1, []])
    expect(taken(['DTSTART:20000101T000000Z\nDURATION:PT1S\nRRULE:FREQ=SECONDLY']).unread).toEqual([{ uid: '0', code: 'tooMuch', text: '' }])
  })
})

describe('zones', () => {
  const own = [
    'BEGIN:VTIMEZONE', 'TZID:House time', 'BEGIN:STANDARD', 'DTSTART:16011028T030000', 'RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU', 'TZOFFSETFROM:+0200',
    'TZOFFSETTO:+0100', 'END:STANDARD', 'BEGIN:DAYLIGHT', 'DTSTART:16010325T020000', 'RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU', 'TZOFFSETFROM:+0100',
    'TZOFFSETTO:+0200', 'END:DAYLIGHT', 'END:VTIMEZONE',
  ]

  it.each([
    ['europe/berlin', '08T08:00/08T09:00'], ['/example.org/20050809_1/America/Argentina/Salta', '08T12:00/08T13:00'],
    ['W. Europe Standard Time', '08T08:00/08T09:00'], ['"House time"', '08T08:00/08T09:00'], ['Cuba', '08T14:00/08T15:00'],
  ])('%s', (tzid, time) =>
    expect(taken([`DTSTART;TZID=${tzid}:20270308T090000\nDURATION:PT1H`], {}, own)).toEqual({ busy: [time], unread: [] }))

  it('reads the clock changes that a file describes like those of the zone it means', () => {
    for (const [at, time] of [['20270327T120000', '27T11:00'], ['20270328T023000', '28T01:30'], ['20270328T030000', '28T01:00'], ['20270328T120000', '28T10:00']] as const) {
      const busy = ['House time', 'Europe/Berlin'].map(tzid => taken([`DTSTART;TZID=${tzid}:${at}\nDURATION:PT1H`], {}, own).busy[0]?.slice(0, 8))
      expect(busy, at).toEqual([time, time])
    }
  })

  it('reads what it does not know in the calendar’s zone, and says so', () => {
    expect(taken(['DTSTART;TZID=Mars/Base One:20270308T090000\nDURATION:PT1H'], {}, ['X-WR-TIMEZONE:Asia/Tokyo'])).toEqual({
      busy: ['08T00:00/08T01:00'], unread: [{ uid: '0', code: 'unknownZone', text: 'Mars/Base One' }],
    })
  })

  it('finds the zone of floating times: a set one, the calendar’s, the only described one, the host’s', () => {
    const floating = 'DTSTART:20270308T090000\nDURATION:PT1H'
    expect(taken([floating], { hostZone: zoneOf('Asia/Tokyo') }).busy).toEqual(['08T00:00/08T01:00'])
    expect(taken([floating], { hostZone: zoneOf('Asia/Tokyo') }, own).busy).toEqual(['08T08:00/08T09:00'])
    expect(taken([floating], {}, [...own, 'X-WR-TIMEZONE:Europe/Lisbon']).busy).toEqual(['08T09:00/08T10:00'])
    expect(taken([floating], { zone: zoneOf('Asia/Kathmandu') }, own).busy).toEqual(['08T03:15/08T04:15'])
  })
})

describe('hostile text', () => {
  const good = `BEGIN:VEVENT\nUID:good\n${timed}\nEND:VEVENT\n`
  const around = (text: string) => takenIn(`BEGIN:VCALENDAR\n${good}${text}\nEND:VCALENDAR\n`)

  it.each([
    ['no start', 'BEGIN:VEVENT\nUID:bad\nSUMMARY:x\nEND:VEVENT', 'noStart'], ['no such date', 'BEGIN:VEVENT\nUID:bad\nDTSTART:20270230T090000Z\nEND:VEVENT', 'time'],
    ['RSCALE', `BEGIN:VEVENT\nUID:bad\n${timed}\nRRULE:RSCALE=HEBREW;FREQ=YEARLY\nEND:VEVENT`, 'rule'],
    ['an interval of nothing', `BEGIN:VEVENT\nUID:bad\n${timed}\nRRULE:FREQ=DAILY;BYMONTHDAY=0\nEND:VEVENT`, 'rule'],
    ['an older rule', `BEGIN:VEVENT\nUID:bad\n${timed}\nRRULE:D1 #5\nEND:VEVENT`, 'rule'],
    ['a duration of nothing', 'BEGIN:VEVENT\nUID:bad\nDTSTART:20270308T120000Z\nDURATION:PT\nEND:VEVENT', 'duration'],
    ['hours of whole days', 'BEGIN:VEVENT\nUID:bad\nDTSTART;VALUE=DATE:20270312\nRRULE:FREQ=HOURLY\nEND:VEVENT', 'rule'],
  ])('tells of %s, and reads the others', (_, text, code) => {
    const { busy, unread } = around(text)
    expect([busy, unread.map(entry => [entry.uid, entry.code])]).toEqual([['08T09:00/08T10:00'], [['bad', code]]])
  })

  it('makes up for missing ends, marks, folds and remains of older versions', () => {
    const next = 'DTSTART:20270309T090000Z\nDTEND:2027030\n 9T100000Z'
    expect(takenIn(`\uFEFFbegin:vcalendar\nBEGIN:VEVENT\n${timed}\nBEGIN:VEVENT\nBEGIN:VALARM\nTRIGGER:-PT5M\nDTSTART:19700101T000000Z\n${'BEGIN:X\n'.repeat(300)}END:VALARM\n${next}\nDESCRIPTION;ENCODING=QUOTED-PRINTABLE:a=\nb=3D\nATTACH;ENCODING=BASE64:%%%\nEND:VEVENT\n`))
      .toEqual({ busy: ['08T09:00/08T10:00', '09T09:00/09T10:00'], unread: [] })
    expect(takenIn(`BEGIN:VCALENDAR\r${timed.replaceAll('\n', '\r')}\rBEGIN:VEVENT\r${timed.replaceAll('\n', '\r')}\rEND:VEVENT\r`).busy).toHaveLength(1)
    expect(takenIn(`BEGIN:VCALENDAR\n${good}BEGIN:VEVENT\nUID:cut\nDTSTART:20270310T090000Z\nDURATION:PT1`).unread).toEqual([{ uid: 'cut', code: 'cutOff', text: '' }])
  })

  it('refuses what holds no calendar', () => {
    for (const text of ['', '<html>', 'BEGIN:VCARD\nEND:VCARD']) expect(() => readCalendar(text)).toThrow(NotACalendar)
  })
})
