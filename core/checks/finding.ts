import type { Definition } from '../event-type/definition'
import type { Panel } from '../event-type/sentence'
import type { Settings } from '../event-type/settings'
import type { HolidayDates } from '../hours/plan'
import type { HostTime } from '../event-type/host-time'

/** What a check finds about a set-up, and what it looks at. */

export const severities = ['stops', 'risky', 'look'] as const
/** stops: it stops bookings; risky: something may go wrong; look: worth a look. */
export type Severity = (typeof severities)[number]

export type WayOut =
  | { kind: 'set', words: string, settings: Partial<Settings> }
  | { kind: 'open', words: string, panel: Panel }
  | { kind: 'go', words: string, to: string }

export interface Finding {
  code: string
  severity: Severity
  /** One or two sentences: what was found and why it matters. */
  words: string
  wayOut: WayOut
}

export interface CheckHost {
  id: string
  name: string
  timeZone: string
  hasVideo: boolean
  plans: { id: string, name: string, timeZone: string, holidays: boolean }[]
}

export interface CheckContext {
  definition: Definition
  /** All hosts of the workspace. */
  hosts: readonly CheckHost[]
  /** Hours and taken time, at least of the hosts in the chairs, for the next 14 days. */
  time: readonly HostTime[]
  holidays: HolidayDates
  /** Other event types, offers and pages that lead to this one. */
  linkedFrom: readonly string[]
  /** RFC 3339, UTC. */
  now: string
}

export const severityWords: Record<Severity, string> = { stops: 'Stops bookings', risky: 'Risky', look: 'Worth a look' }
