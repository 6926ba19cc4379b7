import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { DAY, formatInstant, instantToSeconds } from '../time/civil'
import { answerQuery, type OpeningsQuery, readQuery } from '.'

const folder = join(import.meta.dirname, 'examples')
const files = readdirSync(folder)
const read = (name: string) => readFileSync(join(folder, name), 'utf8')

describe('examples', () => {
  const named = files.filter(name => name.endsWith('.expected.json')).map(name => name.replace('.expected.json', ''))
  it.each(named)('%s', name => expect(answerQuery(readQuery(read(`${name}.json`)))).toEqual(JSON.parse(read(`${name}.expected.json`))))

  const invalid = files.filter(name => name.endsWith('.invalid.json')).map(name => name.replace('.invalid.json', ''))
  it.each(invalid)('refuses %s at its place', (name) => {
    expect(() => readQuery(read(`${name}.invalid.json`))).toThrow(
      expect.objectContaining({ fault: expect.objectContaining({ path: read(`${name}.invalid.expected.txt`).trim() }) }),
    )
  })
})

const plan = {
  timeZone: 'Europe/Lisbon',
  weekly: [{ days: ['MO', 'TU', 'WE', 'TH', 'FR'], from: '09:00', to: '11:00' }],
  recurring: [],
  exceptions: [],
  valid: { from: null, to: null },
} satisfies OpeningsQuery['hosts'][number]['plans'][number]

function query(
  change: Partial<OpeningsQuery> = {},
  eventType: Partial<OpeningsQuery['eventType']> = {},
  host: Partial<OpeningsQuery['hosts'][number]> = {},
): OpeningsQuery {
  return {
    version: 1,
    now: '2027-03-08T08:00:00Z',
    from: '2027-03-08T00:00:00Z',
    to: '2027-03-10T00:00:00Z',
    eventType: {
      timeZone: 'Europe/Lisbon',
      durationMinutes: 30,
      startEveryMinutes: 30,
      bufferBeforeMinutes: 0,
      bufferAfterMinutes: 0,
      leadTimeMinutes: 0,
      horizon: { kind: 'open' },
      dailyLimit: null,
      weeklyLimit: null,
      totalDailyLimit: null,
      totalWeeklyLimit: null,
      seats: 1,
      chairs: [{ id: 'host', hosts: ['a'] }],
      ...eventType,
    },
    hosts: [{ id: 'a', plans: [plan], busy: [], sessions: [], ...host }],
    openedOver: [],
    ...change,
  }
}

const starts = (asked: OpeningsQuery) => answerQuery(asked).openings.map(opening => opening.start.slice(5, 16))
const session = (start: string, end: string, more: Partial<OpeningsQuery['hosts'][number]['sessions'][number]> = {}) =>
  ({ id: 's', start, end, bufferBeforeMinutes: 0, bufferAfterMinutes: 0, sameEventType: true, seatsTaken: 1, ...more })

describe('rules', () => {
  it('offers the grid of the hours', () => {
    expect(starts(query())).toEqual([
      '03-08T09:00',
      '03-08T09:30',
      '03-08T10:00',
      '03-08T10:30',
      '03-09T09:00',
      '03-09T09:30',
      '03-09T10:00',
      '03-09T10:30',
    ])
  })

  it('lets busy time take starts and never shift the grid', () => {
    const busy = [
      { start: '2027-03-08T09:10:00Z', end: '2027-03-08T09:20:00Z' },
      { start: '2027-03-08T10:00:00Z', end: '2027-03-08T10:00:00Z' },
    ]
    expect(starts(query({ to: '2027-03-09T00:00:00Z' }, {}, { busy }))).toEqual(['03-08T09:30', '03-08T10:00', '03-08T10:30'])
  })

  it('keeps buffers of both sessions apart, which may reach outside the hours', () => {
    const sessions = [session('2027-03-08T09:30:00Z', '2027-03-08T10:00:00Z', { bufferAfterMinutes: 10 })]
    expect(starts(query({ to: '2027-03-09T00:00:00Z' }, { bufferBeforeMinutes: 20, startEveryMinutes: 10 }, { sessions }))).toEqual([
      '03-08T09:00',
      '03-08T10:30',
    ])
  })

  it('holds lead time and every horizon', () => {
    expect(starts(query({}, { leadTimeMinutes: 150 }))[0]).toBe('03-08T10:30')
    expect(starts(query({}, { horizon: { kind: 'rolling', days: 0 } })).at(-1)).toBe('03-08T10:30')
    expect(starts(query({}, { horizon: { kind: 'rollingWorkingDays', days: 1, holidays: [] } })).at(-1)).toBe('03-09T10:30')
    expect(
      starts(query({ to: '2027-03-13T00:00:00Z' }, { horizon: { kind: 'rollingWorkingDays', days: 1, holidays: ['2027-03-09'] } })).at(-1),
    ).toBe('03-10T10:30')
    expect(starts(query({}, { horizon: { kind: 'dates', from: '2027-03-09', to: null } }))[0]).toBe('03-09T09:00')
  })

  it('holds limits by day and by ISO week, counting a session once', () => {
    const sessions = [session('2027-03-08T09:00:00Z', '2027-03-08T09:30:00Z', { seatsTaken: 5 })]
    expect(starts(query({}, { dailyLimit: 1 }, { sessions }))).toEqual(['03-09T09:00', '03-09T09:30', '03-09T10:00', '03-09T10:30'])
    expect(starts(query({}, { weeklyLimit: 1 }, { sessions }))).toEqual([])
  })

  it('takes exceptions for the date they name, and recurring windows from their rule', () => {
    const changed = {
      ...plan,
      weekly: [],
      exceptions: [{ date: '2027-03-09', windows: [{ from: '15:00', to: '15:30' }] }],
      recurring: [{ rrule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=MO', start: '2027-02-22', from: '14:00', to: '14:30' }],
    }
    expect(starts(query({ to: '2027-03-23T00:00:00Z' }, {}, { plans: [changed] }))).toEqual(['03-08T14:00', '03-09T15:00', '03-22T14:00'])
  })

  it('joins a session with seats left, and no more when it is full', () => {
    const sessions = [session('2027-03-08T09:15:00Z', '2027-03-08T09:45:00Z', { seatsTaken: 1 })]
    const answer = answerQuery(query({ to: '2027-03-09T00:00:00Z' }, { seats: 2 }, { sessions })).openings[0]
    expect(answer).toEqual({ start: '2027-03-08T09:15:00Z', end: '2027-03-08T09:45:00Z', able: {}, seatsLeft: 1, session: 's' })
    expect(starts(query({ to: '2027-03-09T00:00:00Z' }, { seats: 1 }, { sessions }))).toEqual(['03-08T10:00', '03-08T10:30'])
  })

  it('fills chairs with different hosts only', () => {
    const two = [{ id: 'x', hosts: ['a', 'b'] }, { id: 'y', hosts: ['a'] }]
    const b = { id: 'b', plans: [plan], busy: [{ start: '2027-03-08T00:00:00Z', end: '2027-03-08T10:30:00Z' }], sessions: [] }
    const asked = query({ to: '2027-03-09T00:00:00Z', explain: ['2027-03-08T09:00:00Z'] }, { chairs: two })
    const answer = answerQuery({ ...asked, hosts: [...asked.hosts, b] })
    expect(answer.openings.map(opening => opening.able)).toEqual([{ x: ['a', 'b'], y: ['a'] }])
    expect(answer.explanations?.[0]?.reasons.map(reason => reason.code)).toEqual(['busy', 'noDistinctHosts'])
  })
})

describe('explanations', () => {
  it('name every reason at once, hiding none', () => {
    const busy = [{ start: '2027-03-08T10:45:00Z', end: '2027-03-08T11:30:00Z' }]
    const [explanation] =
      answerQuery(query({ now: '2027-03-08T10:30:00Z', explain: ['2027-03-08T10:40:00Z'] }, { leadTimeMinutes: 60 }, { busy })).explanations
      ?? []
    expect(explanation).toEqual({
      at: '2027-03-08T10:40:00Z',
      offered: false,
      reasons: [
        { code: 'leadTime', earliest: '2027-03-08T11:30:00Z' },
        { code: 'offGrid', before: '2027-03-08T10:30:00Z', after: null },
        { code: 'closed', host: 'a' },
        { code: 'busy', host: 'a', ...busy[0] },
      ],
    })
  })

  it('do not blame an exception on the date that Pacific/Apia skipped', () => {
    const apia = {
      ...plan,
      timeZone: 'Pacific/Apia',
      weekly: [{ days: [...(plan.weekly[0]?.days ?? []), 'SA' as const], from: '00:30', to: '23:59' }],
    }
    const reasonsWith = (date: string) => answerQuery(query({ explain: ['2011-12-30T09:45:00Z'] }, { durationMinutes: 185 }, {
      plans: [{ ...apia, exceptions: [{ date, windows: [] }] }],
    })).explanations?.[0]?.reasons.filter(reason => reason.code === 'closed')
    expect(reasonsWith('2011-12-30')).toEqual([{ code: 'closed', host: 'a' }])
    expect(reasonsWith('2011-12-31')).toEqual([{ code: 'closed', host: 'a', exception: true }])
  })

  it('blame an exception on a date that is touched for a minute, before the clocks go back over midnight', () => {
    const stJohns = { ...plan, timeZone: 'America/St_Johns', weekly: [] }
    const closed = (date: string, at: string) => answerQuery(query({ explain: [at] }, { durationMinutes: 45 }, {
      plans: [{ ...stJohns, exceptions: [{ date, windows: [] }] }],
    })).explanations?.[0]?.reasons.filter(reason => reason.code === 'closed')
    // At 00:01 of 29 October 2006 it became 23:01 of the 28th once more.
    for (const at of ['2006-10-29T02:20:00Z', '2006-10-29T02:30:00Z']) {
      expect(closed('2006-10-29', at)).toEqual([{ code: 'closed', host: 'a', exception: true }])
      expect(closed('2006-10-28', at)).toEqual([{ code: 'closed', host: 'a', exception: true }])
    }
    expect(closed('2006-10-29', '2006-10-29T02:31:00Z')).toEqual([{ code: 'closed', host: 'a' }])
  })

  it('agree with what is offered', () => {
    const begin = instantToSeconds('2027-03-07T00:00:00Z')
    fc.assert(fc.property(
      fc.array(fc.tuple(fc.integer({ min: 0, max: 288 }), fc.integer({ min: 1, max: 30 })), { maxLength: 6 }),
      fc.constantFrom(20, 30, 45), fc.constantFrom(0, 10), fc.constantFrom(null, 1),
      (blocks, step, buffer, dailyLimit) => {
        const sessions = blocks.map(([at, length], i) =>
          session(formatInstant(begin + at * 600), formatInstant(begin + (at + length) * 600), { id: `s${i}`, sameEventType: i % 2 === 0 }),
        )
        const asked = query(
          { from: formatInstant(begin), to: formatInstant(begin + 2 * DAY) },
          { startEveryMinutes: step, bufferAfterMinutes: buffer, dailyLimit },
          { sessions },
        )
        const explain = Array.from({ length: 288 }, (_, i) => formatInstant(begin + i * 600))
        const { openings, explanations } = answerQuery({ ...asked, explain })
        const offered = new Set(openings.map(opening => opening.start))
        for (const explanation of explanations ?? []) {
          expect(explanation.offered).toBe(offered.has(explanation.at))
          expect(explanation.reasons.length === 0).toBe(explanation.offered)
        }
      }), { numRuns: 60 })
  })
})
