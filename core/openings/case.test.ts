import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nasty, spoiled } from '../../tests/support/spoil'
import { thrown } from '../../tests/support/thrown'
import { DAY, formatInstant } from '../time/civil'
import { formatInputFault } from '../catalogue/input'
import { answerQuery, CaseError, parseQuery, readQuery } from '.'
import { caseSchema } from './json-schema'

/* eslint-disable @typescript-eslint/no-explicit-any -- cases are spoilt in ways that no type allows */
const whole = readFileSync(join(import.meta.dirname, 'examples/r7-distinct-hosts-chain-of-three.json'), 'utf8')
const plan = 'hosts[0].plans[0]'
const window = { days: ['MO'], from: '09:00', to: '10:00' }
const recurring = (rrule: unknown) => (query: any) =>
  (query.hosts[0].plans[0].recurring = [{ rrule, start: '2027-01-04', from: '09:00', to: '10:00' }])
const session = (change: object) => (query: any) =>
  (query.hosts[0].sessions = [
    {
      id: 's',
      start: '2027-03-09T09:00:00Z',
      end: '2027-03-09T10:00:00Z',
      bufferBeforeMinutes: 0,
      bufferAfterMinutes: 0,
      sameEventType: true,
      seatsTaken: 1,
      ...change,
    },
  ])
const busy = (start: string, end: string) => (query: any) => (query.hosts[0].busy = [{ start, end }])

/** What is wrong, where the refusal points, and how the case is spoilt. */
const malformed: [string, string, (query: any) => unknown][] = [
  ['no version', '$.version', query => delete query.version],
  ['another version', '$.version', query => (query.version = 2)],
  ['an instant with an offset', '$.now', query => (query.now = '2027-03-08T09:12:00+01:00')],
  ['an instant with fractions', '$.now', query => (query.now = '2027-03-08T09:12:00.5Z')],
  ['an instant that no calendar has', '$.from', query => (query.from = '2027-02-29T00:00:00Z')],
  ['a number for an instant', '$.from', query => (query.from = 1_800_000_000)],
  ['a span backward', '$.to', query => (query.to = '2020-01-01T00:00:00Z')],
  ['an unknown member', '$.colour', query => (query.colour = 'red')],
  ['an unknown member with an odd name', '$["a b"]', query => (query['a b'] = 1)],
  ['an unknown member deep down', `$.${plan}.weekly[0].note`, query => (query.hosts[0].plans[0].weekly = [{ ...window, note: '' }])],
  ['no event type', '$.eventType', query => delete query.eventType],
  ['a list for an event type', '$.eventType', query => (query.eventType = [])],
  ['an unknown zone', '$.eventType.timeZone', query => (query.eventType.timeZone = 'Europe/Atlantis')],
  ['an offset for a zone', '$.eventType.timeZone', query => (query.eventType.timeZone = '+01:00')],
  ['no duration', '$.eventType.durationMinutes', query => (query.eventType.durationMinutes = 0)],
  ['half a minute', '$.eventType.startEveryMinutes', query => (query.eventType.startEveryMinutes = 0.5)],
  ['a step of more than a day', '$.eventType.startEveryMinutes', query => (query.eventType.startEveryMinutes = 1441)],
  ['a buffer in text', '$.eventType.bufferAfterMinutes', query => (query.eventType.bufferAfterMinutes = '10')],
  ['a negative buffer', '$.eventType.bufferBeforeMinutes', query => (query.eventType.bufferBeforeMinutes = -5)],
  ['a lead time of years', '$.eventType.leadTimeMinutes', query => (query.eventType.leadTimeMinutes = 525_601)],
  ['an unknown horizon', '$.eventType.horizon.kind', query => (query.eventType.horizon = { kind: 'sometimes' })],
  ['a horizon without its days', '$.eventType.horizon.days', query => (query.eventType.horizon = { kind: 'rolling' })],
  ['a horizon with more than its own', '$.eventType.horizon.days', query => (query.eventType.horizon = { kind: 'open', days: 3 })],
  [
    'horizon dates backward',
    '$.eventType.horizon.to',
    query => (query.eventType.horizon = { kind: 'dates', from: '2027-03-02', to: '2027-03-01' }),
  ],
  [
    'a holiday that is no date',
    '$.eventType.horizon.holidays[1]',
    query => (query.eventType.horizon = { kind: 'rollingWorkingDays', days: 1, holidays: ['2027-03-02', '2027-3-3'] }),
  ],
  ['a limit of none', '$.eventType.dailyLimit', query => (query.eventType.dailyLimit = 0)],
  ['no seats', '$.eventType.seats', query => (query.eventType.seats = 0)],
  ['no chairs', '$.eventType.chairs', query => (query.eventType.chairs = [])],
  ['a chair without hosts', '$.eventType.chairs[0].hosts', query => (query.eventType.chairs[0].hosts = [])],
  ['a chair twice', '$.eventType.chairs[1].id', query => (query.eventType.chairs[1].id = query.eventType.chairs[0].id)],
  ['a host twice in a chair', '$.eventType.chairs[0].hosts[1]', query => (query.eventType.chairs[0].hosts = ['a', 'a'])],
  ['a chair with a stranger', '$.eventType.chairs[0].hosts[0]', query => (query.eventType.chairs[0].hosts = ['nobody'])],
  ['no hosts', '$.hosts', query => (query.hosts = [])],
  ['a host without a name', '$.hosts[0].id', query => (query.hosts[0].id = '')],
  ['a host twice', '$.hosts[1].id', query => (query.hosts[1].id = query.hosts[0].id)],
  ['a host without plans', '$.hosts[0].plans', query => (query.hosts[0].plans = [])],
  ['an unknown weekday', `$.${plan}.weekly[0].days[0]`, query => (query.hosts[0].plans[0].weekly = [{ ...window, days: ['Mo'] }])],
  ['a window of no day', `$.${plan}.weekly[0].days`, query => (query.hosts[0].plans[0].weekly = [{ ...window, days: [] }])],
  ['a start at 24:00', `$.${plan}.weekly[0].from`, query => (query.hosts[0].plans[0].weekly = [{ ...window, from: '24:00' }])],
  ['25 o’clock', `$.${plan}.weekly[0].to`, query => (query.hosts[0].plans[0].weekly = [{ ...window, to: '25:00' }])],
  [
    'a window across midnight',
    `$.${plan}.weekly[0].to`,
    query => (query.hosts[0].plans[0].weekly = [{ ...window, from: '22:00', to: '02:00' }]),
  ],
  [
    'an exception twice',
    `$.${plan}.exceptions[1].date`,
    query =>
      (query.hosts[0].plans[0].exceptions = [
        { date: '2027-03-08', windows: [] },
        { date: '2027-03-08', windows: [] },
      ]),
  ],
  [
    'an exception without windows',
    `$.${plan}.exceptions[0].windows`,
    query => (query.hosts[0].plans[0].exceptions = [{ date: '2027-03-08' }]),
  ],
  ['a valid range backward', `$.${plan}.valid.to`, query => (query.hosts[0].plans[0].valid = { from: '2027-03-02', to: '2027-03-01' })],
  ['half a valid range', `$.${plan}.valid.from`, query => (query.hosts[0].plans[0].valid = { to: null })],
  ['a rule by the hour', `$.${plan}.recurring[0].rrule`, recurring('FREQ=HOURLY')],
  ['a rule with times', `$.${plan}.recurring[0].rrule`, recurring('FREQ=DAILY;BYHOUR=9')],
  ['a rule of nothing', `$.${plan}.recurring[0].rrule`, recurring('')],
  ['a rule that says one thing twice', `$.${plan}.recurring[0].rrule`, recurring('FREQ=DAILY;FREQ=WEEKLY')],
  ['a rule until a time', `$.${plan}.recurring[0].rrule`, recurring('FREQ=DAILY;UNTIL=20270630T000000Z')],
  ['a rule with both ends', `$.${plan}.recurring[0].rrule`, recurring('FREQ=DAILY;UNTIL=20270630;COUNT=3')],
  ['a rule every zero weeks', `$.${plan}.recurring[0].rrule`, recurring('FREQ=WEEKLY;INTERVAL=0')],
  ['a rule for the 32nd', `$.${plan}.recurring[0].rrule`, recurring('FREQ=MONTHLY;BYMONTHDAY=32')],
  ['a rule for the first Monday of a week', `$.${plan}.recurring[0].rrule`, recurring('FREQ=WEEKLY;BYDAY=1MO')],
  ['a rule that counts too far', `$.${plan}.recurring[0].rrule`, recurring('FREQ=DAILY;COUNT=1000000')],
  ['busy time backward', '$.hosts[0].busy[0].end', busy('2027-03-09T10:00:00Z', '2027-03-09T09:00:00Z')],
  ['a session without length', '$.hosts[0].sessions[0].end', session({ end: '2027-03-09T09:00:00Z' })],
  ['a session without a name', '$.hosts[0].sessions[0].id', session({ id: undefined })],
  ['a session with too many', '$.hosts[0].sessions[0].seatsTaken', session({ seatsTaken: 1001 })],
  ['a session of perhaps this type', '$.hosts[0].sessions[0].sameEventType', session({ sameEventType: null })],
  [
    'hand-picked for nobody',
    '$.openedOver[0].hosts',
    query => (query.openedOver = [{ start: '2027-03-09T09:00:00Z', end: '2027-03-09T10:00:00Z', hosts: [] }]),
  ],
  [
    'hand-picked for a stranger',
    '$.openedOver[0].hosts[0]',
    query => (query.openedOver = [{ start: '2027-03-09T09:00:00Z', end: '2027-03-09T10:00:00Z', hosts: ['nobody'] }]),
  ],
  ['a question about no instant', '$.explain[0]', query => (query.explain = ['noon'])],
  ['a span of a century', '$.to', query => (query.to = '2127-03-08T00:00:00Z')],
  [
    'a start every minute for three years',
    '$.to',
    query => Object.assign(query, { to: '2030-03-08T00:00:00Z' }, { eventType: { ...query.eventType, startEveryMinutes: 1 } }),
  ],
  [
    'more windows than a plan may have',
    `$.${plan}.weekly`,
    query => (query.hosts[0].plans[0].weekly = Array.from({ length: 10_001 }, () => window)),
  ],
]

describe('a malformed case', () => {
  it.each(malformed)('with %s is refused at %s', (_, path, spoil) => {
    const query = JSON.parse(whole)
    spoil(query)
    const refusal = thrown(CaseError, () => parseQuery(query))
    expect(refusal.fault.path).toBe(path)
    expect(formatInputFault(refusal.fault)).toMatch(/^[A-Z“].*\w$/)
    expect(formatInputFault(refusal.fault)).not.toMatch(/Invalid|undefined|received/)
  })

  it.each(['{', '', 'null', '[]', '"case"', '1e999'])('that is %j is refused as a whole', text =>
    expect(thrown(CaseError, () => readQuery(text)).fault.path).toBe('$'),
  )
})

describe('a large or odd case', () => {
  const large: [string, (query: any) => unknown][] = [
    [
      'a plan with 10,000 windows',
      query =>
        (query.hosts[0].plans[0].weekly = Array.from({ length: 10_000 }, (_, i) => ({
          days: ['MO', 'TH'],
          from: `${String(i % 23).padStart(2, '0')}:${String(i % 60).padStart(2, '0')}`,
          to: '24:00',
        }))),
    ],
    ['rules without end, from long ago', recurring('FREQ=DAILY;BYDAY=MO,TU,WE')],
    ['a rule that never comes true', recurring('FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30;COUNT=3')],
    [
      'a start every minute for 366 days',
      query =>
        Object.assign(query, {
          to: formatInstant(Date.parse(query.from) / 1000 + 366 * DAY),
          eventType: { ...query.eventType, startEveryMinutes: 1 },
        }),
    ],
    [
      '1,000 hosts',
      (query) => {
        query.hosts = Array.from({ length: 1000 }, (_, i) => ({ ...query.hosts[i % query.hosts.length], id: `h${i}` }))
        query.eventType.chairs = [{ id: 'x', hosts: query.hosts.map((host: any) => host.id) }]
        query.explain = [query.from]
      },
    ],
    [
      'the first and the last year',
      query => Object.assign(query, { now: '0000-01-01T00:00:00Z', explain: ['0000-01-01T00:00:00Z', '9999-12-31T23:59:59Z'] }),
    ],
  ]
  it.each(large)('%s is answered', (_, enlarge) => {
    const query = JSON.parse(whole)
    enlarge(query)
    expect(answerQuery(parseQuery(query)).openings).toBeInstanceOf(Array)
  }, 30_000)
})

it('spoilt at any place is answered or refused at that place, and never hangs', () => {
  const fitting = JSON.parse(whole)
  for (const enrich of [
    recurring('FREQ=MONTHLY;INTERVAL=2;BYDAY=1TH,-1FR;COUNT=9'),
    session({}),
    busy('2027-03-09T10:00:00Z', '2027-03-09T11:00:00Z'),
  ])
    enrich(fitting)
  Object.assign(fitting.eventType, {
    horizon: { kind: 'rollingWorkingDays', days: 3660, holidays: ['2027-03-26'] },
    dailyLimit: 2,
    seats: 3,
  })
  fitting.now = '2027-03-01T00:00:00Z'
  fitting.hosts[0].plans[0].exceptions = [{ date: '2027-03-09', windows: [{ from: '09:00', to: '24:00' }] }]
  fitting.openedOver = [{ start: '2027-03-09T10:00:00Z', end: '2027-03-09T12:00:00Z', hosts: [fitting.hosts[0].id] }]
  fitting.explain = ['2027-03-09T10:00:00Z', fitting.from]
  expect(answerQuery(parseQuery(fitting)).openings.length).toBeGreaterThan(0)
  let refused = 0
  fc.assert(fc.property(fc.nat(), fc.constantFrom(...nasty), (where, by) => {
    const query = spoiled(fitting, where, by)
    try {
      expect(answerQuery(parseQuery(query)).openings).toBeInstanceOf(Array)
    } catch (error) {
      expect(error).toBeInstanceOf(CaseError)
      expect((error as CaseError).fault.path).toMatch(/^\$/)
      refused++
    }
  }), { numRuns: 3000 })
  expect(refused).toBeGreaterThan(1000)
})

it('has a JSON Schema, and the documented one is it', () => {
  const documented = JSON.parse(readFileSync(join(import.meta.dirname, '../../docs/openings-case.schema.json'), 'utf8'))
  expect(documented, 'write it anew with: npm run openings:schema').toEqual(caseSchema())
})
