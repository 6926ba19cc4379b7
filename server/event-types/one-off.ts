import { randomUUID } from 'node:crypto'
import type { Place } from '../../core/event-type/settings'
import type { Database } from '../database/connection'
import { eventTypes } from '../database/schema'
import { firstSettings } from './create'
import { type EventType, toPoolChair } from './load'
import { saveChairs } from './publish'

/** An event type for a single session: what a member arranges without one, with the life that every session has. */

export interface OneOff {
  title: string
  durationMinutes: number
  place: Place
  /** All of them sit in it. */
  hosts: readonly { id: string, name: string }[]
}

const START_EVERY = 15

/** As it would be saved. Hosts are asked for by their own hours, and the client can move it and cancel it until it begins. */
export function oneOffEventType(workspaceId: string, timeZone: string, { title, durationMinutes, place, hosts }: OneOff): EventType {
  const id = randomUUID()
  return {
    workspaceId, id, slug: `one-off-${id}`, state: 'open', listed: false, version: 1, archived: false, oneOff: true,
    settings: {
      ...firstSettings(title, timeZone), durations: [durationMinutes], startEveryMinutes: START_EVERY, horizon: { kind: 'open' },
      places: [place],
    },
    chairs: hosts.map(({ id, name }, index) => toPoolChair({
      id: randomUUID(), name: index === 0 ? 'Host' : `Co-host ${index + 1}`, policy: 'order', hosts: [{ id, name, weight: 1 }], groups: [],
    })),
  }
}

export async function saveOneOff(tx: Database, eventType: EventType, at: Date): Promise<void> {
  const { workspaceId, id, slug, state, listed, settings, chairs } = eventType
  await tx.insert(eventTypes).values({ workspaceId, id, slug, state, listed, settings, oneOff: true, updatedAt: at })
  await saveChairs(tx, workspaceId, id, chairs)
}
