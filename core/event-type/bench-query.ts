import type { HolidayDates } from '../hours/plan'
import type { EngineQuery } from '../openings'
import { formatInstant } from '../time/civil'
import type { Definition } from './definition'
import type { HostTime } from './host-time'
import { queryFor } from './settings'

/** What the engine is asked about a definition that is being edited. */

/** What is known around an event type while it is edited. */
export interface Knowledge {
  time: readonly HostTime[]
  holidays: HolidayDates
  /** RFC 3339, UTC. */
  now: string
}

export interface Span {
  /** Seconds since the epoch. */
  from: number
  to: number
  durationMinutes?: number
  explain?: string[]
}

export function benchQuery(definition: Definition, { time, holidays, now }: Knowledge, span: Span): EngineQuery {
  return queryFor(definition.settings, definition.chairs, time, {
    now,
    from: formatInstant(span.from),
    to: formatInstant(span.to),
    holidays,
    ...(span.durationMinutes === undefined ? {} : { durationMinutes: span.durationMinutes }),
    ...(span.explain ? { explain: span.explain } : {}),
  })
}
