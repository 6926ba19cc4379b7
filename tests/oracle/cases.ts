import fc from 'fast-check'
import { Temporal } from 'temporal-polyfill'
import type { HoursPlan, OpeningsQuery } from '../../core/openings'
import { secondsOf, textOf } from './openings'

/** Random queries of openings, laid on purpose where clocks and calendars are at their oddest. */

const HOUR = 3600
const DAY = 86_400
export const allZones = [...new Set([...Intl.supportedValuesOf('timeZone'), 'UTC'])]
const weekdays = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'] as const

const two = (value: number) => String(value).padStart(2, '0')
const clock = (minutes: number) => `${two(Math.floor(minutes / 60))}:${two(minutes % 60)}`

/** Zones whose clocks do something rare, met more often than their share. */
const oddZones = [
  'Australia/Lord_Howe',
  'Pacific/Apia',
  'Asia/Kathmandu',
  'Pacific/Chatham',
  'America/St_Johns',
  'America/Sao_Paulo',
  'Asia/Beirut',
  'Africa/Casablanca',
  'Asia/Kolkata',
  'Australia/Eucla',
  'America/Havana',
  'Atlantic/Azores',
  'Antarctica/Troll',
]
const oddMoments = ['2011-12-30T10:00:00Z', '2024-02-29T12:00:00Z', '2027-12-31T23:00:00Z', '2028-02-28T12:00:00Z', '2020-12-31T12:00:00Z']

const changes = new Map<string, number | null>()

/** The first change of a zone's clocks after the begin of a month, counted from 1990; null where none follows before 2037. */
function changeAfter(zone: string, month: number): number | null {
  const key = `${zone} ${month}`
  let found = changes.get(key)
  if (found !== undefined) return found
  const begin = Temporal.ZonedDateTime.from({ year: 1990 + Math.floor(month / 12), month: month % 12 + 1, day: 1, timeZone: zone })
  const next = begin.getTimeZoneTransition('next')
  changes.set(key, found = next && next.year < 2037 ? next.epochMilliseconds / 1000 : null)
  return found
}

const zone = fc.oneof({ weight: 3, arbitrary: fc.constantFrom(...allZones) }, { weight: 2, arbitrary: fc.constantFrom(...oddZones) })

/** A moment near which the query lies: a clock change of the zone, an odd date, or any. */
function moment(name: string): fc.Arbitrary<number> {
  const odd = fc.constantFrom(...oddMoments.map(secondsOf))
  return fc.oneof(
    {
      weight: 5,
      arbitrary: fc.tuple(fc.integer({ min: 0, max: 47 * 12 - 1 }), odd).map(([month, otherwise]) => changeAfter(name, month) ?? otherwise),
    },
    { weight: 1, arbitrary: odd },
    {
      weight: 1,
      arbitrary: fc
        .integer({ min: secondsOf('1975-01-01T00:00:00Z') / HOUR, max: secondsOf('2036-12-31T00:00:00Z') / HOUR })
        .map(hour => hour * HOUR),
    },
  )
}

const minutesOfDay = fc.oneof(
  fc.constantFrom(0, 30, 60, 90, 119, 120, 150, 180, 1380, 1410, 1439),
  fc.integer({ min: 0, max: 95 }).map(quarter => quarter * 15),
  fc.integer({ min: 0, max: 1439 }),
)
const window = fc.tuple(minutesOfDay, fc.oneof(fc.constantFrom(15, 30, 60, 180, 1440), fc.integer({ min: 1, max: 720 })))
  .map(([from, length]) => ({ from: clock(from), to: clock(Math.min(1440, from + length)) }))

const longHours = [{ from: '00:00', to: '24:00' }, { from: '00:30', to: '23:59' }, { from: '08:00', to: '20:00' }]

function dateNear(at: number, spread: number): fc.Arbitrary<string> {
  return fc.integer({ min: -spread, max: spread }).map(days => textOf(at + days * DAY).slice(0, 10))
}

/** Rules with ends near a moment. */
export function rule(at: number): fc.Arbitrary<string> {
  const some = (values: readonly (string | number)[]) =>
    fc.uniqueArray(fc.constantFrom(...values), { minLength: 1, maxLength: 3 }).map(list => list.join(','))
  const maybe = (name: string, value: fc.Arbitrary<string | number>) =>
    fc.option(value, { nil: null, freq: 3 }).map(text => (text === null ? '' : `;${name}=${text}`))
  const common = fc
    .tuple(
      maybe('INTERVAL', fc.integer({ min: 1, max: 4 })),
      fc.oneof(
        fc.constant(''),
        fc.integer({ min: 1, max: 30 }).map(count => `;COUNT=${count}`),
        dateNear(at, 20).map(date => `;UNTIL=${date.replaceAll('-', '')}`),
      ),
    )
    .map(parts => parts.join(''))
  const monthDays = some([1, 2, 10, 15, 28, 29, 30, 31, -1, -2])
  const months = some([1, 2, 3, 4, 10, 11, 12])
  const nth = some([...weekdays, '1MO', '2TU', '-1FR', '-1SU', '3WE', '-2SA', '5TH', '-5TU', '20MO', '53FR', '-53SA'])
  const position = (by: fc.Arbitrary<string>) => fc.tuple(by, maybe('BYSETPOS', some([1, 2, -1])))
    .map(([text, pos]) => (text ? text + pos : ''))
  const kinds = fc.oneof(
    fc
      .tuple(maybe('BYDAY', some(weekdays)), maybe('BYMONTH', months), maybe('BYMONTHDAY', monthDays))
      .map(parts => `FREQ=DAILY${parts.join('')}`),
    fc
      .tuple(position(maybe('BYDAY', some(weekdays))), maybe('BYMONTH', months), maybe('WKST', fc.constantFrom('SU', 'MO', 'WE')))
      .map(parts => `FREQ=WEEKLY${parts.join('')}`),
    fc
      .tuple(position(fc.oneof(maybe('BYDAY', nth), maybe('BYMONTHDAY', monthDays))), maybe('BYMONTH', months))
      .map(parts => `FREQ=MONTHLY${parts.join('')}`),
    fc
      .tuple(
        position(fc.oneof(maybe('BYMONTHDAY', monthDays), maybe('BYDAY', nth), maybe('BYYEARDAY', some([1, 60, 100, -1])))),
        maybe('BYMONTH', months),
      )
      .map(parts => `FREQ=YEARLY${parts.join('')}`),
  )
  return fc.tuple(kinds, common).map(parts => parts.join(''))
}

function plan(at: number): fc.Arbitrary<HoursPlan> {
  return fc.record({
    timeZone: zone,
    weekly: fc.oneof(
      { weight: 2, arbitrary: fc.constantFrom(...longHours).map(hours => [{ days: [...weekdays], ...hours }]) },
      {
        weight: 3,
        arbitrary: fc.array(
          fc
            .tuple(fc.uniqueArray(fc.constantFrom(...weekdays), { minLength: 1, maxLength: 7 }), window)
            .map(([days, hours]) => ({ days, ...hours })),
          { minLength: 1, maxLength: 3 },
        ),
      },
    ),
    recurring: fc.array(
      fc
        .tuple(rule(at), fc.oneof({ weight: 4, arbitrary: dateNear(at, 12) }, { weight: 1, arbitrary: dateNear(at, 400) }), window)
        .map(([rrule, start, hours]) => ({ rrule, start, ...hours })),
      { maxLength: 1 },
    ),
    exceptions: fc.uniqueArray(fc.record({ date: dateNear(at, 3), windows: fc.array(window, { maxLength: 2 }) }), {
      maxLength: 2,
      selector: item => item.date,
    }),
    valid: fc.oneof(
      { weight: 4, arbitrary: fc.constant({ from: null, to: null }) },
      { weight: 1, arbitrary: fc.tuple(dateNear(at, 4), dateNear(at, 4)).map(([a, b]) => ({ from: a < b ? a : b, to: a < b ? b : a })) },
    ),
  })
}

function interval(at: number, unit: number, least: number): fc.Arbitrary<{ start: string, end: string }> {
  return fc
    .tuple(
      fc.integer({ min: (-30 * HOUR) / unit, max: (36 * HOUR) / unit }),
      fc.oneof(fc.constant(least), fc.integer({ min: least, max: (8 * HOUR) / unit })),
    )
    .map(([start, length]) => ({ start: textOf(at + start * unit), end: textOf(at + (start + length) * unit) }))
}

export const queries: fc.Arbitrary<OpeningsQuery> = zone.chain(eventZone =>
  moment(eventZone).chain(change =>
    fc
      .record({
        eventZone: fc.oneof({ weight: 3, arbitrary: fc.constant(eventZone) }, { weight: 1, arbitrary: zone }),
        // Most queries keep to whole quarters of an hour, so that things meet; a few have odd seconds.
        unit: fc.oneof(
          { weight: 12, arbitrary: fc.constant(900) },
          { weight: 6, arbitrary: fc.constant(300) },
          { weight: 1, arbitrary: fc.constant(30) },
        ),
        hosts: fc.constantFrom(1, 1, 1, 2, 2, 3),
      })
      .chain(({ eventZone, unit, hosts }) => {
        const at = Math.floor(change / 900) * 900
        const ids = ['a', 'b', 'c'].slice(0, hosts)
        const duration = fc.oneof(fc.constantFrom(15, 30, 45, 60, 90), fc.integer({ min: 1, max: 300 }))
        return duration.chain(durationMinutes =>
          fc.record({
            version: fc.constant(1 as const),
            now: fc.integer({ min: -72, max: 24 }).map(hours => textOf(at + hours * HOUR)),
            from: fc.integer({ min: -24, max: 0 }).map(hours => textOf(at + hours * HOUR)),
            to: fc.integer({ min: 0, max: 30 }).map(hours => textOf(at + hours * HOUR)),
            eventType: fc.record({
              timeZone: fc.constant(eventZone),
              durationMinutes: fc.constant(durationMinutes),
              startEveryMinutes: fc.oneof(fc.constantFrom(15, 20, 30, 45, 60, 90), fc.integer({ min: 7, max: 400 })),
              bufferBeforeMinutes: fc.constantFrom(0, 0, 5, 15, 100),
              bufferAfterMinutes: fc.constantFrom(0, 0, 10, 15, 60),
              leadTimeMinutes: fc.constantFrom(0, 0, 60, 1440),
              horizon: fc.oneof(
                fc.constant({ kind: 'open' as const }),
                fc.record({ kind: fc.constant('rolling' as const), days: fc.integer({ min: 0, max: 4 }) }),
                fc.record({
                  kind: fc.constant('rollingWorkingDays' as const),
                  days: fc.integer({ min: 0, max: 4 }),
                  holidays: fc.array(dateNear(at, 4), { maxLength: 2 }),
                }),
                fc
                  .tuple(dateNear(at, 2), dateNear(at, 2), fc.boolean())
                  .map(([a, b, openEnd]) => ({ kind: 'dates' as const, from: a < b ? a : b, to: openEnd ? null : a < b ? b : a })),
              ),
              dailyLimit: fc.constantFrom(null, null, 1, 2),
              weeklyLimit: fc.constantFrom(null, null, 1, 2),
              totalDailyLimit: fc.constantFrom(null, null, null, 1, 2),
              totalWeeklyLimit: fc.constantFrom(null, null, null, 2, 3),
              seats: fc.constantFrom(1, 1, 2, 5),
              chairs: fc
                .array(fc.uniqueArray(fc.constantFrom(...ids), { minLength: 1, maxLength: hosts }), { minLength: 1, maxLength: hosts })
                .map(chairs => chairs.map((pool, index) => ({ id: `chair${index}`, hosts: pool }))),
            }),
            hosts: fc.tuple(
              ...ids.map(id =>
                fc.record({
                  id: fc.constant(id),
                  plans: fc.oneof(
                    { weight: 3, arbitrary: fc.array(plan(at), { minLength: 1, maxLength: 1 }) },
                    { weight: 1, arbitrary: fc.array(plan(at), { minLength: 2, maxLength: 2 }) },
                  ),
                  busy: fc.array(interval(at, unit, 0), { maxLength: 4 }),
                  sessions: fc.array(
                    fc
                      .record({
                        id: fc.constantFrom('s1', 's2', 's3', 's4', 's5'),
                        span: fc.oneof(
                          interval(at, unit, 1),
                          fc
                            .integer({ min: -20, max: 40 })
                            .map(hour => ({ start: textOf(at + hour * 1800), end: textOf(at + hour * 1800 + durationMinutes * 60) })),
                        ),
                        bufferBeforeMinutes: fc.constantFrom(0, 5, 15),
                        bufferAfterMinutes: fc.constantFrom(0, 10, 15),
                        sameEventType: fc.boolean(),
                        seatsTaken: fc.integer({ min: 0, max: 5 }),
                      })
                      .map(({ span, ...rest }) => ({ ...rest, ...span })),
                    { maxLength: 3 },
                  ),
                }),
              ),
            ),
            openedOver: fc.oneof(
              { weight: 3, arbitrary: fc.constant<OpeningsQuery['openedOver']>([]) },
              {
                weight: 1,
                arbitrary: fc.array(
                  fc
                    .tuple(interval(at, unit, 0), fc.uniqueArray(fc.constantFrom(...ids), { minLength: 1, maxLength: hosts }))
                    .map(([span, names]) => ({ ...span, hosts: names })),
                  { minLength: 1, maxLength: 2 },
                ),
              },
            ),
            explain: fc.array(
              fc.integer({ min: (-18 * HOUR) / unit, max: (24 * HOUR) / unit }).map(units => textOf(at + units * unit)),
              { minLength: 1, maxLength: 2 },
            ),
          }),
        )
      }),
  ),
)
