import { and, asc, eq, inArray } from 'drizzle-orm'
import { type Definition, definitionSchema } from '../../core/event-type/definition'
import { type Chair, type EventTypeState, hostIdsOf as hostsOfChairs, type Settings, settingsSchema } from '../../core/event-type/settings'
import { type QuestionSet, withCurrentSets } from '../../core/intake/question-sets'
import type { PoolHost } from '../../core/rotation'
import type { Looks } from '../../core/views/client'
import { secondsOf } from '../context'
import type { Database } from '../database/connection'
import type { HostsState } from '../hosts-time'
import { chairHosts, chairs, eventTypes, hosts, questionSets } from '../database/schema'

export interface Workspace {
  id: string
  slug: string
  name: string
  about: string
  timeZone: string
  looks: Looks
  stamp: number
  /** Whether its owner has confirmed their address; until then only its members see its pages. */
  confirmed: boolean
}

export interface EventType {
  workspaceId: string
  id: string
  slug: string
  state: EventTypeState
  listed: boolean
  version: number
  archived: boolean
  settings: Settings
  chairs: PoolChair[]
}

/** A chair with what rotation remembers of its pool. */
export interface PoolChair extends Chair {
  pool: PoolHost[]
}

/** Event types of a workspace with their chairs, in the order the workspace gave them. */
export async function loadEventTypes(
  db: Database, workspaceId: string, only: { id?: string, slug?: string } = {},
): Promise<EventType[]> {
  const found = await db.select().from(eventTypes)
    .where(and(
      eq(eventTypes.workspaceId, workspaceId),
      only.id ? eq(eventTypes.id, only.id) : undefined,
      only.slug ? eq(eventTypes.slug, only.slug) : undefined,
    ))
    .orderBy(asc(eventTypes.position), asc(eventTypes.slug))
  if (found.length === 0) return []
  const sets = await loadQuestionSets(db, workspaceId)
  const seats = await db
    .select({
      eventTypeId: chairs.eventTypeId,
      chairId: chairs.id,
      chairName: chairs.name,
      policy: chairs.policy,
      hostId: chairHosts.hostId,
      hostName: hosts.name,
      weight: chairHosts.weight,
      credit: chairHosts.credit,
      assignedAt: chairHosts.assignedAt,
    })
    .from(chairs)
    .innerJoin(chairHosts, and(eq(chairHosts.workspaceId, chairs.workspaceId), eq(chairHosts.chairId, chairs.id)))
    .innerJoin(hosts, and(eq(hosts.workspaceId, chairHosts.workspaceId), eq(hosts.id, chairHosts.hostId)))
    .where(and(eq(chairs.workspaceId, workspaceId), inArray(chairs.eventTypeId, found.map(row => row.id)), eq(chairs.active, true)))
    .orderBy(asc(chairs.position), asc(chairHosts.position))

  return found.map((row) => {
    const eventType: EventType = {
      workspaceId,
      id: row.id,
      slug: row.slug,
      state: row.state,
      listed: row.listed,
      version: row.version,
      archived: row.archivedAt !== null,
      settings: withCurrentSets(settingsSchema.parse(row.settings), sets),
      chairs: [],
    }
    for (const seat of seats) {
      if (seat.eventTypeId !== row.id) continue
      let chair = eventType.chairs.find(candidate => candidate.id === seat.chairId)
      if (!chair) {
        chair = { id: seat.chairId, name: seat.chairName, policy: seat.policy, hosts: [], pool: [] }
        eventType.chairs.push(chair)
      }
      chair.hosts.push({ id: seat.hostId, name: seat.hostName, weight: seat.weight })
      chair.pool.push({
        host: seat.hostId,
        weight: seat.weight,
        credit: seat.credit,
        assignedAt: seat.assignedAt ? secondsOf(seat.assignedAt) : null,
      })
    }
    return eventType
  })
}

/** The workspace's sets of shared questions by id; shared, they stay as they are until the transaction ends. */
export async function loadQuestionSets(db: Database, workspaceId: string, lock?: 'share'): Promise<Map<string, QuestionSet>> {
  const query = db.select({ id: questionSets.id, name: questionSets.name, questions: questionSets.questions })
    .from(questionSets).where(eq(questionSets.workspaceId, workspaceId)).orderBy(asc(questionSets.name))
  const rows = await (lock ? query.for(lock) : query)
  return new Map(rows.map(row => [row.id, row]))
}

/** A stored draft with its shared questions as they are now; null where it can no longer be read. */
export function readDraft(stored: unknown, sets: ReadonlyMap<string, QuestionSet>): Definition | null {
  const { data } = definitionSchema.safeParse(stored)
  return data ? { ...data, settings: withCurrentSets(data.settings, sets) } : null
}

/** Keeps an event type as it is until the transaction ends; any number of bookings may do so at once, publishing waits. */
export async function shareEventType(db: Database, workspaceId: string, id: string): Promise<void> {
  await db
    .select({ id: eventTypes.id })
    .from(eventTypes)
    .where(and(eq(eventTypes.workspaceId, workspaceId), eq(eventTypes.id, id)))
    .for('share')
}

/** The event type with what rotation remembers at the moment. */
export function withTurns(eventType: EventType, turns: HostsState['turns']): EventType {
  return {
    ...eventType,
    chairs: eventType.chairs.map(chair => ({
      ...chair,
      pool: chair.pool.map((entry) => {
        const turn = turns.find(candidate => candidate.chairId === chair.id && candidate.hostId === entry.host)
        return turn ? { ...entry, credit: turn.credit, assignedAt: turn.assignedAt === null ? null : Math.floor(turn.assignedAt) } : entry
      }),
    })),
  }
}

export function isOpen(eventType: EventType): boolean {
  return eventType.state === 'open' && !eventType.archived
}

export function hostIdsOf(eventType: EventType): string[] {
  return hostsOfChairs(eventType.chairs)
}

/** An event type as it is edited: without what rotation remembers. */
export function definitionOf({ slug, listed, state, settings, chairs: seats }: EventType): Definition {
  return { slug, listed, state, settings, chairs: seats.map(({ pool: _pool, ...chair }) => chair) }
}
