import { instantToSeconds } from '../../core/time/civil'
import { plainPlan } from '../../core/hours/plan'
import { parseHours } from '../../core/time/hours-text'
import type { Definition } from '../../core/event-type/definition'
import type { HostTime, TakenTime } from '../../core/event-type/host-time'
import { type SettingsInput, settingsSchema } from '../../core/event-type/settings'

/** A sound set-up that tests change one thing of. */

export const NOW = '2027-03-08T09:00:00Z'

export function sampleSettings(change: Partial<SettingsInput> = {}) {
  return settingsSchema.parse({
    name: 'Talk',
    summary: '',
    description: '',
    timeZone: 'Europe/Lisbon',
    durations: [30],
    startEveryMinutes: 30,
    bufferBeforeMinutes: 0,
    bufferAfterMinutes: 0,
    leadTimeMinutes: 240,
    horizon: { kind: 'rolling', days: 30 },
    dailyLimit: null,
    weeklyLimit: null,
    seats: 1,
    approval: false,
    hours: { mode: 'hosts' },
    places: [{ key: 'video', kind: 'video', label: '', detail: '' }],
    questions: [],
    calendarTitle: '{{ client.name }}',
    ...change,
  })
}

export const sampleHosts = [
  { id: 'ana', name: 'Ana Reis', timeZone: 'Europe/Lisbon' },
  { id: 'bo', name: 'Bo Lind', timeZone: 'Europe/Lisbon' },
]

export function sampleTime(hours: Record<string, string> = {}): HostTime[] {
  return sampleHosts.map(({ id, timeZone }) => {
    const { holidays: _none, ...plan } = plainPlan(timeZone, parseHours(hours[id] ?? 'Mo-Fr 09:00-17:00'))
    return { id, plans: [{ id: `${id}-usual`, isDefault: true, plan }], away: null, taken: [], sessions: [] }
  })
}

/** Time that a calendar takes, from and to some instants. */
export function takenBy(instants: readonly string[], more: Partial<TakenTime> = {}): TakenTime {
  return { calendar: 'Studio', holds: [], isWholeDay: false, entries: instants.length / 2, times: instants.map(instantToSeconds), ...more }
}

export function sampleDefinition(change: Partial<SettingsInput> = {}, rest: Partial<Omit<Definition, 'settings'>> = {}): Definition {
  return {
    slug: 'talk', listed: true, state: 'open', settings: sampleSettings(change),
    chairs: [{ id: 'host', name: 'Host', policy: 'fairShare', hosts: sampleHosts.map(({ id, name }) => ({ id, name, weight: 1 })), groups: [] }],
    ...rest,
  }
}
