import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { queries } from '../../tests/oracle/cases'
import { instantToSeconds } from '../time/civil'
import { answerQuery, fromCase, type OpeningsQuery, parseQuery } from '../openings'
import { neutralCase } from '../openings/neutral'
import { formatReasons } from './reasons'

const plan = {
  timeZone: 'Europe/Lisbon',
  weekly: [{ days: ['MO' as const], from: '09:00', to: '13:00' }],
  recurring: [],
  exceptions: [],
  valid: { from: null, to: null },
}
const session = (start: string, end: string) => ({
  id: 's',
  start,
  end,
  bufferBeforeMinutes: 0,
  bufferAfterMinutes: 10,
  sameEventType: true,
  seatsTaken: 1,
})

const query: OpeningsQuery = {
  version: 1,
  now: '2027-03-08T08:00:00Z',
  from: '2027-03-08T00:00:00Z',
  to: '2027-03-09T00:00:00Z',
  eventType: {
    timeZone: 'Europe/Lisbon',
    durationMinutes: 30,
    startEveryMinutes: 10,
    bufferBeforeMinutes: 0,
    bufferAfterMinutes: 5,
    leadTimeMinutes: 90,
    horizon: { kind: 'rolling', days: 14 },
    dailyLimit: 2,
    weeklyLimit: null,
    totalDailyLimit: null,
    totalWeeklyLimit: null,
    seats: 1,
    chairs: [{ id: 'host', hosts: ['o'] }],
  },
  hosts: [
    {
      id: 'o',
      plans: [plan],
      busy: [{ start: '2027-03-08T12:15:00Z', end: '2027-03-08T14:00:00Z' }],
      sessions: [session('2027-03-08T10:40:00Z', '2027-03-08T11:10:00Z')],
    },
  ],
  openedOver: [],
}

function reasonsAt(at: string, change: Partial<OpeningsQuery['eventType']> = {}, ownHost: string | null = null): string[] {
  const asked = { ...query, eventType: { ...query.eventType, ...change }, explain: [at] }
  return (answerQuery(asked).explanations ?? []).flatMap(explanation => formatReasons(explanation, {
    query: fromCase(asked), names: new Map([['o', 'Ottoline']]), ownHost, zone: 'Europe/Lisbon', locale: 'en-GB', now: instantToSeconds(query.now),
  })).map(({ text, setting }) => `${text} [${setting}]`)
}

describe('reasons in text', () => {
  it.each<[string, string[], Partial<OpeningsQuery['eventType']>?]>([
    ['2027-03-08T09:00:00Z', ['That is too soon: it can be booked from 9:30 on. [leadTime]']],
    ['2027-03-08T11:10:00Z', ['Ottoline has another session until 11:10, and 10 minutes are kept free after it. [buffers]']],
    ['2027-03-08T10:10:00Z', ['Ottoline has another session from 10:40, and 5 minutes are kept free before it. [buffers]']],
    ['2027-03-08T10:20:00Z', ['Ottoline has another session from 10:40 to 11:10. [sessions]']],
    ['2027-03-08T12:00:00Z', ['Ottoline’s calendar is taken from 12:15 to 14:00. [calendar]']],
    ['2027-03-08T10:04:00Z', ['Nothing starts at this minute; the nearest starts are 10:00 and 10:10. [startEvery]']],
    [
      '2027-03-09T10:00:00Z',
      ['Nothing starts on this day: no hours are open for it. [hours]', 'Ottoline has no open hours for the whole of it. [hours]'],
    ],
    ['2027-03-29T09:00:00Z', ['That is too far ahead: the last day it can be booked for is 22 March. [horizon]']],
    ['2027-03-08T09:40:00Z', ['Ottoline has 1 session on this day already, and at most 1 a day is allowed. [limits]'], { dailyLimit: 1 }],
    ['2027-03-08T09:40:00Z', ['There is 1 session on this day already, and at most 1 a day in total is allowed. [limits]'], { totalDailyLimit: 1 }],
  ])('%s', (at, text, change) => expect(reasonsAt(at, change)).toEqual(text))

  it('speak to the host who reads', () => {
    expect(reasonsAt('2027-03-08T10:20:00Z', {}, 'o')).toEqual(['You have another session from 10:40 to 11:10. [sessions]'])
    expect(reasonsAt('2027-03-08T12:00:00Z', {}, 'o')).toEqual(['Your calendar is taken from 12:15 to 14:00. [calendar]'])
  })

  it('are there for every reason that ever comes', () => {
    fc.assert(fc.property(queries, (any) => {
      for (const explanation of answerQuery(any).explanations ?? []) {
        const said = formatReasons(explanation, {
          query: fromCase(any),
          names: new Map(),
          zone: 'Asia/Kolkata',
          locale: 'en-GB',
          now: instantToSeconds(any.now),
        })
        expect(new Set(said.map(reason => reason.code))).toEqual(new Set(explanation.reasons.map(reason => reason.code)))
        for (const { text, wayOut } of said) expect(`${text} ${wayOut}`).not.toMatch(/undefined|NaN|null/)
      }
    }), { numRuns: 100 })
  })
})

it('a case with neutral names has the same answer but for the names', () => {
  fc.assert(fc.property(queries, (any) => {
    const named = {
      ...any,
      hosts: any.hosts.map(host => ({ ...host, id: `Ravi ${host.id}` })),
      openedOver: any.openedOver.map(interval => ({ ...interval, hosts: interval.hosts.map(id => `Ravi ${id}`) })),
      eventType: {
        ...any.eventType,
        chairs: any.eventType.chairs.map(chair => ({ ...chair, hosts: chair.hosts.map(id => `Ravi ${id}`) })),
      },
    }
    const neutral = parseQuery(neutralCase(named))
    expect(JSON.stringify(neutral)).not.toContain('Ravi')
    const shape = (query: OpeningsQuery) =>
      answerQuery(query).openings.map(({ start, seatsLeft, able }) => [start, seatsLeft, Object.values(able).map(ids => ids.length)])
    expect(shape(neutral)).toEqual(shape(named))
  }), { numRuns: 100 })
})
