import { z } from 'zod'
import { formatInstant, instantToSeconds } from '../time/civil'
import type { HoursPlan, OpeningsQuery } from './schema'

/**
 * A query as the engine takes it. What there may be thousands of, taken time, is in seconds since the epoch; the rest is as
 * in a case (`OpeningsQuery`), which is the same query as text for people and files.
 */
export interface EngineQuery extends Omit<OpeningsQuery, 'hosts'> {
  hosts: EngineHost[]
}

export interface EngineHost {
  id: string
  plans: readonly HoursPlan[]
  /** Starts and ends one after another, in any order. */
  busy: ArrayLike<number>
  sessions: readonly EngineSession[]
}

export const engineSessionSchema = z.strictObject({
  id: z.string(),
  start: z.number(),
  end: z.number(),
  bufferBeforeMinutes: z.number(),
  bufferAfterMinutes: z.number(),
  sameEventType: z.boolean(),
  seatsTaken: z.number(),
})
export type EngineSession = z.infer<typeof engineSessionSchema>

export function fromCase(query: OpeningsQuery): EngineQuery {
  return {
    ...query,
    hosts: query.hosts.map(({ busy, sessions, ...host }) => ({
      ...host,
      busy: busy.flatMap(({ start, end }) => [instantToSeconds(start), instantToSeconds(end)]),
      sessions: sessions.map(session => ({ ...session, start: instantToSeconds(session.start), end: instantToSeconds(session.end) })),
    })),
  }
}

export function toCase(query: EngineQuery): OpeningsQuery {
  return {
    ...query,
    hosts: query.hosts.map(({ busy, sessions, plans, ...host }) => ({
      ...host,
      plans: [...plans],
      busy: Array.from({ length: busy.length / 2 }, (_, i) => ({
        start: formatInstant(busy[2 * i] ?? 0),
        end: formatInstant(busy[2 * i + 1] ?? 0),
      })),
      sessions: sessions.map(session => ({ ...session, start: formatInstant(session.start), end: formatInstant(session.end) })),
    })),
  }
}
