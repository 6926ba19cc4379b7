import { presetWays } from '../../core/rooms/ways'
import type { CheckContext } from '../../core/checks'
import type { Definition } from '../../core/event-type/definition'
import { settingsSchema } from '../../core/event-type/settings'
import { fromCase, type HoursPlan, type OpeningsQuery } from '../../core/openings'
import { DAY, formatInstant, instantToSeconds } from '../../core/time/civil'

/** The work that is measured: made up, but the same every time. */

const NOW = instantToSeconds('2027-03-08T09:12:00Z')
const workdays: HoursPlan['weekly'][number]['days'] = ['MO', 'TU', 'WE', 'TH', 'FR']
const zones = ['Europe/Lisbon', 'America/Halifax', 'Asia/Kolkata', 'Australia/Adelaide', 'Europe/Oslo', 'America/Sao_Paulo']

/** Random numbers from 0 to 1, the same for the same seed (a linear congruential generator, Numerical Recipes' constants). */
function randomFrom(seed: number): () => number {
  let state = seed
  return () => (state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0) / 2 ** 32
}

function makeHost(id: string, index: number, days: number, busy: number, zone: string): OpeningsQuery['hosts'][number] {
  const random = randomFrom(index + 1)
  const starts = Array.from({ length: busy }, () => NOW + Math.floor(random() * days * 288) * 300).sort((a, b) => a - b)
  return {
    id,
    plans: [
      {
        timeZone: zone,
        weekly: [
          { days: workdays, from: '09:00', to: '12:30' },
          { days: workdays, from: '13:30', to: '18:00' },
        ],
        recurring: [],
        exceptions: [],
        valid: { from: null, to: null },
      },
    ],
    busy: starts.map(start => ({ start: formatInstant(start), end: formatInstant(start + 900 * (1 + Math.floor(random() * 6))) })),
    sessions: [],
  }
}

export interface Work {
  days: number
  step: number
  busy: number
  /** How many hosts each chair has. */
  chairs: number[]
  manyZones?: boolean
}

export function queryOf({ days, step, busy, chairs, manyZones }: Work): OpeningsQuery {
  const pools = chairs.map((many, chair) => Array.from({ length: many }, (_, index) => `host-${chair}-${index}`))
  return {
    version: 1,
    now: formatInstant(NOW),
    from: formatInstant(NOW),
    to: formatInstant(NOW + days * DAY),
    eventType: {
      timeZone: 'Europe/Lisbon',
      durationMinutes: 45,
      startEveryMinutes: step,
      bufferBeforeMinutes: 0,
      bufferAfterMinutes: 10,
      leadTimeMinutes: 240,
      horizon: { kind: 'rolling', days },
      dailyLimit: null,
      weeklyLimit: null,
      totalDailyLimit: null,
      totalWeeklyLimit: null,
      seats: 1,
      chairs: pools.map((hosts, index) => ({ id: `chair-${index}`, hosts })),
    },
    hosts: pools
      .flat()
      .map((id, index) => makeHost(id, index, days, busy, manyZones ? (zones[index % zones.length] ?? '') : 'Europe/Lisbon')),
    openedOver: [],
  }
}

/** An id as the application gives them, made from a name. */
function idFor(name: string): string {
  const figures = [...name].map(letter => letter.charCodeAt(0).toString(16)).join('').padEnd(12, '0').slice(-12)
  return `00000000-0000-4000-8000-${figures}`
}

/** The same work as the bench of an event type meets it: a definition, and what is known around it. */
export function benchOf(query: OpeningsQuery): { definition: Definition, workerContext: Omit<CheckContext, 'definition'> } {
  const { eventType } = query
  const settings = settingsSchema.parse({
    name: 'Work',
    summary: '',
    description: '',
    timeZone: eventType.timeZone,
    durations: [eventType.durationMinutes],
    startEveryMinutes: eventType.startEveryMinutes,
    bufferBeforeMinutes: eventType.bufferBeforeMinutes,
    bufferAfterMinutes: eventType.bufferAfterMinutes,
    leadTimeMinutes: eventType.leadTimeMinutes,
    horizon: eventType.horizon,
    dailyLimit: eventType.dailyLimit,
    weeklyLimit: eventType.weeklyLimit,
    totalDailyLimit: eventType.totalDailyLimit,
    totalWeeklyLimit: eventType.totalWeeklyLimit,
    seats: eventType.seats,
    approval: false,
    hours: { mode: 'hosts' },
    places: [{ key: 'video', kind: 'video', label: '', detail: '' }],
    questions: [],
    calendarTitle: 'Work',
  })
  const chairs = eventType.chairs.map(chair => ({
    id: idFor(chair.id),
    name: chair.id,
    policy: 'fairShare' as const,
    hosts: chair.hosts.map(id => ({ id: idFor(id), name: id, weight: 1 })),
    groups: [],
  }))
  return {
    definition: { slug: 'work', listed: true, state: 'open', settings, chairs },
    workerContext: {
      hosts: query.hosts.map(({ id }) => ({
        id: idFor(id), name: id, timeZone: eventType.timeZone, own: false, hasFixedRoom: false,
        calendars: { blocking: 1, silentSince: null }, plans: [],
      })),
      time: fromCase(query).hosts.map(host => ({
        id: idFor(host.id),
        away: null,
        taken: [{ calendar: 'Work', holds: [], isWholeDay: false, entries: host.busy.length / 2, times: Array.from(host.busy) }],
        sessions: [...host.sessions],
        plans: host.plans.map(plan => ({ id: host.id, isDefault: true, plan })),
      })),
      holidays: {},
      linkedFrom: [], messages: [],
    roomWays: { order: [...presetWays], hasPattern: false, accounts: [] },
    canBePaid: false,
      now: query.now,
    },
  }
}
