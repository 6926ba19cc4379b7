import { presetWays } from '../rooms/ways'
import { describe, expect, it } from 'vitest'
import { instantToSeconds } from '../time/civil'
import { NOW, sampleDefinition, sampleHosts, sampleTime, takenBy } from '../../tests/support/samples'
import { plainPlan } from '../hours/plan'
import { shapes, shapeTable } from '../event-type/shapes'
import { parseHours } from '../time/hours-text'
import { formatFinding } from '../catalogue/findings'
import { roomOptionsSchema } from '../rooms/options'
import type { CheckAccount } from './finding'
import { type CheckContext, findingsOf, worstFinding } from '.'

const hosts = sampleHosts.map(host => ({
  ...host,
  hasFixedRoom: false,
  calendars: { blocking: 1, silentSince: null },
  own: false,
  plans: [{ id: `plan-${host.id}`, name: 'Usual hours', timeZone: host.timeZone, holidays: true }],
}))
const accountOf = (hostId: string | null, change: Partial<CheckAccount> = {}): CheckAccount => ({
  hostId, service: 'Lantern Rooms', state: 'works', can: ['waitingRoom', 'openEntry', 'muting'], minutes: null, people: null, users: null, ...change,
})
const roomWays = { order: [...presetWays], hasPattern: false, accounts: hosts.map(({ id }) => accountOf(id)) }
const onlyAna = { ...roomWays, accounts: [accountOf('ana')] }
const sound: CheckContext = {
  definition: sampleDefinition(), hosts, time: sampleTime(), holidays: {}, linkedFrom: [], messages: [],
  now: NOW, roomWays, canBePaid: true,
}
type Change = Parameters<typeof sampleDefinition>[0]
const withSettings = (change: Change): CheckContext => ({ ...sound, definition: sampleDefinition(change) })
const within = (hours: string, rest: object = {}) => ({
  mode: 'narrow' as const,
  plan: { ...plainPlan('Europe/Lisbon', parseHours(hours)), ...rest },
})
const question = { key: 'q', kind: 'text' as const, label: 'Why?', required: false }
const chairs = (...pools: string[][]) =>
  pools.map((pool, index) => ({
    id: `c${index}`,
    name: `Chair ${index + 1}`,
    policy: 'fairShare' as const,
    hosts: pool.map(id => ({ id, name: id, weight: 1 })),
    groups: [],
  }))

/** A set-up with one thing wrong, what finds it, and words that its reason must hold. */
const cases: [name: string, context: CheckContext, code: string, words: RegExp][] = [
  ['few starts', withSettings({ durations: [15] }), 'startsHideSessions', /hides half of the sessions of 15 minutes/],
  ['starts with a rest', withSettings({ startEveryMinutes: 45 }), 'timeBetweenSessions', /15 minutes unused/],
  ['a lead time that eats all', withSettings({ leadTimeMinutes: 61 * 1440, horizon: { kind: 'open' } }), 'noOpening', /how long before its start/],
  ['hours nobody shares', withSettings({ hours: within('Su 20:00-22:00') }), 'noOpening', /the hours it is narrowed to/],
  [
    'all time taken',
    { ...sound, time: sampleTime().map(host => ({ ...host, taken: [takenBy([NOW, '2027-06-01T00:00:00Z'])] })) },
    'noOpening',
    /all taken/,
  ],
  ['hosts without hours', { ...sound, time: sampleTime({ ana: '', bo: '' }) }, 'noOpening', /Ana and Bo have no open hours/],
  [
    'a lead time beyond the horizon',
    withSettings({ leadTimeMinutes: 14_400, horizon: { kind: 'rolling', days: 7 } }),
    'leadBeyondHorizon',
    /leave nothing/,
  ],
  [
    'dates that have passed',
    withSettings({ horizon: { kind: 'dates', from: null, to: '2027-03-01' } }),
    'datesPast',
    /1 March, has passed/,
  ],
  [
    'a duration that never fits',
    withSettings({ durations: [30, 600] }),
    'neverFits',
    /10 hours never fits: the longest open hours are 8 hours/,
  ],
  ['a limit never reached', withSettings({ dailyLimit: 20 }), 'limitNeverReached', /at most 16 sessions fit/],
  ['a weekly limit never reached', withSettings({ dailyLimit: 3, weeklyLimit: 30 }), 'limitNeverReached', /30 a week is never reached/],
  ['a limit of one hour', withSettings({ dailyLimit: 2 }), 'limitByOneHour', /A single hour/],
  [
    'a host outside the hours',
    { ...withSettings({ hours: within('Mo-Fr 09:00-12:00') }), time: sampleTime({ bo: 'Mo-Fr 13:00-17:00' }) },
    'hostWithoutCommonHours',
    /Bo has no open hours/,
  ],
  [
    'chairs that never meet',
    { ...sound, definition: sampleDefinition({}, { chairs: chairs(['ana'], ['bo']) }), time: sampleTime({ bo: 'Mo-Fr 18:00-20:00' }) },
    'hostWithoutCommonHours',
    /in common with the other chair/,
  ],
  [
    'one person in two chairs',
    { ...sound, definition: sampleDefinition({}, { chairs: chairs(['ana'], ['ana']) }) },
    'samePersonTwice',
    /cannot sit in both/,
  ],
  [
    'a room link in public',
    withSettings({ description: 'Come to https://meet.place.example/room/77 at any time' }),
    'secretInPublic',
    /stands in the description/,
  ],
  [
    'a passcode in a question',
    withSettings({ questions: [{ ...question, help: 'The passcode is 4471' }] }),
    'secretInPublic',
    /stands in a question/,
  ],
  [
    'a place that contradicts itself',
    withSettings({ places: [{ key: 'v', kind: 'video', label: 'at our studio in Lisbon', detail: '' }] }),
    'contradictingPlace',
    /contradict/,
  ],
  [
    'two places that read the same',
    withSettings({ places: ['a', 'b'].map(key => ({ key, kind: 'phoneWeCall' as const, label: '', detail: '' })) }),
    'equalPlaces',
    /read the same/,
  ],
  [
    'one room, back to back',
    withSettings({ places: [{ key: 'r', kind: 'agreed', label: '', detail: 'https://place.example/my' }] }),
    'fixedRoomBackToBack',
    /walk in on/,
  ],
  ['a buffer that takes starts away', withSettings({ bufferAfterMinutes: 10 }), 'bufferBeyondGap', /20 minutes go unused/],
  ['a question for the name', withSettings({ questions: [{ ...question, label: 'Your full name' }] }), 'asksAgain', /asks for the name/],
  [
    'a question for the address',
    withSettings({ questions: [{ ...question, kind: 'email', label: 'Where do we write to?' }] }),
    'asksAgain',
    /e-mail address/,
  ],
  [
    'a plan in another zone',
    { ...sound, hosts: hosts.map(host => ({ ...host, timeZone: 'Asia/Kolkata' })) },
    'planZone',
    /is in Lisbon time/,
  ],
  ['hours in a clock change', withSettings({ hours: within('Mo-Su 00:00-24:00') }), 'clockChange', /28 March/],
  [
    'a host’s hours in a clock change',
    { ...sound, time: sampleTime({ bo: 'Mo-Su 00:00-06:00' }) },
    'clockChange',
    /within Bo’s hours/,
  ],
  [
    'a rule that never happens',
    withSettings({
      hours: within('Mo-Fr 09:00-12:00', {
        recurring: [{ rrule: 'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30', start: '2027-01-01', from: '09:00', to: '10:00' }],
      }),
    }),
    'ruleNeverHappens',
    /has no date/,
  ],
  [
    'hours that run out',
    withSettings({ hours: within('Mo-Fr 09:00-12:00', { valid: { from: null, to: '2027-03-20' } }) }),
    'planRunsOut',
    /20 March/,
  ],
  [
    'holidays not chosen',
    { ...sound, hosts: hosts.map(host => ({ ...host, plans: host.plans.map(plan => ({ ...plan, holidays: false })) })) },
    'holidaysNotChosen',
    /No host has chosen a holiday calendar/,
  ],
  [
    'the reader without a video account',
    { ...sound, hosts: hosts.map(host => ({ ...host, own: host.id === 'bo' })), roomWays: onlyAna },
    'withoutVideo',
    /^You have no video account and no other way to a room: sessions with you get no link/,
  ],
  [
    'a pool of one in effect',
    {
      ...withSettings({ bufferAfterMinutes: 0 }),
      time: sampleTime().map(host => (host.id === 'bo' ? { ...host, taken: [takenBy([NOW, '2027-06-01T00:00:00Z'])] } : host)),
    },
    'poolOfOne',
    /only Ana can be booked/,
  ],
  [
    'a choice of one',
    { ...sound, definition: sampleDefinition({}, { chairs: chairs(['ana']).map(chair => ({ ...chair, policy: 'client' as const })) }) },
    'onlyHost',
    /is the only one/,
  ],
  [
    'a price that nobody can take',
    {
      ...withSettings({ price: { amount: 5000, currency: 'EUR', per: 'booking', when: 'booking', refund: { allUntilMinutes: 0, afterPercent: 0 } } }),
      canBePaid: false,
    },
    'noPaymentAccount',
    /^Clients are to pay when they book, but no payment account is connected/,
  ],
  [
    'no video account',
    { ...sound, roomWays: onlyAna },
    'withoutVideo',
    /Bo has no video account and no other way/,
  ],
  [
    'an account that refuses beside another way',
    { ...sound, roomWays: { ...roomWays, accounts: [...roomWays.accounts, accountOf(null, { service: 'Quayside Video', state: 'full' })] } },
    'accountTroubled',
    /^The workspace’s account at Quayside Video allows no more rooms/,
  ],
  [
    'a room option that a service does not have',
    withSettings({ room: { ways: null, link: '', options: roomOptionsSchema.parse({ cameras: { host: true, clients: false } }) } }),
    'optionsNotPossible',
    /^Lantern Rooms cannot switch cameras off at the start/,
  ],
  [
    'sessions longer than the account allows',
    { ...sound, roomWays: { ...roomWays, accounts: [accountOf('ana', { minutes: 5 }), accountOf('bo')] } },
    'planTooSmall',
    /^Ana’s account at Lantern Rooms allows sessions of 5 minutes/,
  ],
  [
    'a host who is no user of the account',
    { ...sound, roomWays: { ...roomWays, accounts: [accountOf(null, { service: 'Quayside Video', users: ['ana'] })] } },
    'underMainUser',
    /^Bo is no user of the workspace’s Quayside Video account/,
  ],
  [
    'a second link after booking',
    withSettings({ afterwards: { text: 'We meet at https://meet.example.org/ana', address: '' } }),
    'secondLink',
    /a second link after booking, https:\/\/meet.example.org\/ana/,
  ],
  [
    'no calendar',
    { ...sound, hosts: hosts.map(host => ({ ...host, calendars: { blocking: host.id === 'ana' ? 1 : 0, silentSince: null } })) },
    'withoutCalendar',
    /^Bo has no calendar that blocks/,
  ],
  [
    'a silent calendar',
    { ...sound, hosts: hosts.map(host => ({ ...host, calendars: { blocking: 1, silentSince: instantToSeconds('2027-03-06T07:00:00Z') } })) },
    'silentCalendar',
    /Ana’s calendar has not answered since 6 March/,
  ],
  [
    'whole days that block',
    {
      ...sound,
      time: sampleTime().map(host => (host.id === 'bo'
        ? { ...host, taken: [takenBy(['2027-03-11T00:00:00Z', '2027-03-13T00:00:00Z'], { calendar: 'Family', isWholeDay: true })] } : host)),
    },
    'wholeDaysBlocked',
    /“Family” block 2 days of Bo’s in the next four weeks: 11 March and 12 March/,
  ],
  ['a hold that no entry has', withSettings({ holds: ['interviews'] }), 'unusedHolds', /No calendar entry of its hosts has “interviews”/],
  ['an approval in haste', withSettings({ approval: true, leadTimeMinutes: 0 }), 'hastyApproval', /nobody has answered/],
  [
    'closed but linked',
    { ...sound, definition: sampleDefinition({}, { state: 'closed' }), linkedFrom: ['First talk'] },
    'closedButLinked',
    /still leads here, but it is closed/,
  ],
  [
    'a message about a question that is gone',
    { ...sound, messages: [{ occasion: 'before', own: null, answers: ['material'], address: '/desk/messages' }] },
    'answerNotAsked', /^The reminder names the answer “material”, which no question asks/,
  ],
]

describe('checks', () => {
  const monthlyFrom = (start: string) => withSettings({
    hours: {
      mode: 'replace',
      plan: { ...plainPlan('Europe/Lisbon', []), recurring: [{ rrule: 'FREQ=MONTHLY', start, from: '09:00', to: '12:00' }] },
    },
    horizon: { kind: 'open' },
  })
  it.each(shapes)('find no gap and no lost start in what a %s begins as', (shape) => {
    const gaps = ['bufferBeyondGap', 'timeBetweenSessions', 'startsHideSessions']
    expect(findingsOf(withSettings(shapeTable[shape].settings)).filter(finding => gaps.includes(finding.code))).toEqual([])
  })

  it('call no opening in two weeks neither a stop nor, within four weeks, worth a look', () => {
    const codes = (start: string) => findingsOf(monthlyFrom(start)).map(finding => finding.code)
    expect(codes('2027-03-30')).not.toContain('noOpening')
    expect(codes('2027-03-30')).not.toContain('nextOpeningFar')
    expect(codes('2027-04-20')).toContain('nextOpeningFar')
    expect(codes('2027-09-20')).toContain('noOpening')
  })

  it('find nothing in a sound set-up', () => {
    expect(findingsOf(sound)).toEqual([])
  })

  it.each(cases)('find %s, with the reason', (_name, context, code, words) => {
    expect(findingsOf(context).filter(finding => finding.code === code).map(finding => formatFinding(finding, 'en-GB').text).join(' ')).toMatch(words)
  })

  it('are at least fifteen kinds', () => {
    expect(new Set(cases.map(([, , code]) => code)).size).toBeGreaterThanOrEqual(15)
  })

  it('put what stops bookings first', () => {
    expect(worstFinding(withSettings({ durations: [30, 600], description: 'https://meet.place.example/room' }))?.severity).toBe('stops')
  })

  it('offer a way out that ends the finding', () => {
    for (const [, context, code] of cases) {
      for (const finding of findingsOf(context)) {
        if (finding.code !== code || finding.wayOut.kind !== 'set') continue
        const mended = {
          ...context,
          definition: { ...context.definition, settings: { ...context.definition.settings, ...finding.wayOut.settings } },
        }
        expect(
          findingsOf(mended).filter(candidate => formatFinding(candidate, 'en-GB').text === formatFinding(finding, 'en-GB').text),
          formatFinding(finding, 'en-GB').text,
        ).toEqual([])
      }
    }
  })
})
