import type { Actor } from '../../core/booking/changes'
import type { QuietHours } from '../../core/messages/quiet-hours'
import type { CalendarLink } from '../../core/calendar/links'
import { and, asc, eq, inArray } from 'drizzle-orm'
import { type Definition, definitionSchema } from '../../core/event-type/definition'
import { type Chair, type EventTypeState, hostIdsOf as hostsOfChairs, type Settings, settingsSchema } from '../../core/event-type/settings'
import { groupBy } from '../../core/group-by'
import { type HostGroup, poolIdOf, withCurrentGroups } from '../../core/event-type/groups'
import { type QuestionSet, withCurrentSets } from '../../core/intake/question-sets'
import { type SharedPlan, withCurrentHours } from '../../core/event-type/shared-hours'
import type { PoolHost } from '../../core/rotation'
import type { ChosenHost } from '../../core/rotation/chairs'
import type { Looks } from '../../core/views/client'
import type { Database } from '../database/connection'
import { type HostsState, loadSharedPlans } from '../hosts-time'
import { chairGroups, chairHosts, chairs, eventTypes, groupHosts, hostGroups, hosts, questionSets } from '../database/schema'

export interface Workspace {
  id: string
  slug: string
  name: string
  about: string
  timeZone: string
  looks: Looks
  /** Whether a cancelled session counts as its host's turn all the same. */
  countsCancelled: boolean
  /** Whether a session that all its clients missed counts as its host's turn. */
  countsMissed: boolean
  /** Links to calendars on the web that clients are offered. */
  calendarLinks: CalendarLink[]
  quietHours: QuietHours | null
  stamp: number
  /** Whether it is going to be deleted. */
  isClosing: boolean
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
  /** Made for a single session. */
  oneOff: boolean
  settings: Settings
  chairs: PoolChair[]
}

/** A chair with what rotation remembers of its pool, and what it is remembered under. */
export interface PoolChair extends Chair {
  poolId: string
  pool: PoolHost[]
}

/** One that people have set up; those that were made for a single session are not. */
export const isEventType = (workspaceId: string, id: string) =>
  and(eq(eventTypes.workspaceId, workspaceId), eq(eventTypes.id, id), eq(eventTypes.oneOff, false))

/**
 * Event types of a workspace with their chairs, in the order the workspace gave them. `ofSessions` names those of some sessions,
 * which may have been made for a single one.
 */
export async function loadEventTypes(
  db: Database, workspaceId: string, only: { id?: string, ofSessions?: readonly string[] } = {},
): Promise<EventType[]> {
  const found = await db.select().from(eventTypes)
    .where(and(
      eq(eventTypes.workspaceId, workspaceId),
      only.id ? eq(eventTypes.id, only.id) : undefined,
      only.ofSessions ? inArray(eventTypes.id, [...only.ofSessions]) : eq(eventTypes.oneOff, false),
    ))
    .orderBy(asc(eventTypes.position), asc(eventTypes.slug))
  if (found.length === 0) return []
  const sets = await loadQuestionSets(db, workspaceId)
  const plans = await loadSharedPlans(db, workspaceId)
  const chairsOf = await loadChairs(db, workspaceId, found.map(row => row.id))
  return found.map(row => ({
    workspaceId,
    id: row.id,
    slug: row.slug,
    state: row.state,
    listed: row.listed,
    version: row.version,
    archived: row.archivedAt !== null,
    oneOff: row.oneOff,
    settings: withCurrentHours(withCurrentSets(settingsSchema.parse(row.settings), sets), plans),
    chairs: chairsOf(row.id),
  }))
}

/** The chairs of some event types with their hosts, those of their groups too. */
async function loadChairs(
  db: Database, workspaceId: string, eventTypeIds: readonly string[],
): Promise<(eventTypeId: string) => PoolChair[]> {
  const seats = await db.select({ id: chairs.id, eventTypeId: chairs.eventTypeId, name: chairs.name, policy: chairs.policy }).from(chairs)
    .where(and(eq(chairs.workspaceId, workspaceId), inArray(chairs.eventTypeId, [...eventTypeIds]), eq(chairs.active, true)))
    .orderBy(asc(chairs.position))
  const ids = seats.map(seat => seat.id)
  const own = groupBy(await db
    .select({ chairId: chairHosts.chairId, id: chairHosts.hostId, name: hosts.name, weight: chairHosts.weight }).from(chairHosts)
    .innerJoin(hosts, and(eq(hosts.workspaceId, chairHosts.workspaceId), eq(hosts.id, chairHosts.hostId)))
    .where(and(eq(chairHosts.workspaceId, workspaceId), inArray(chairHosts.chairId, ids)))
    .orderBy(asc(chairHosts.position)), row => row.chairId)
  const drawn = groupBy(await db
    .select({ chairId: chairGroups.chairId, id: chairGroups.groupId }).from(chairGroups)
    .where(and(eq(chairGroups.workspaceId, workspaceId), inArray(chairGroups.chairId, ids)))
    .orderBy(asc(chairGroups.position)), row => row.chairId)
  const groups = await loadGroups(db, workspaceId)
  const ofEventType = groupBy(seats, seat => seat.eventTypeId)
  return eventTypeId => (ofEventType.get(eventTypeId) ?? []).map(({ id, name, policy }) => toPoolChair(withCurrentGroups({
    id,
    name,
    policy,
    hosts: (own.get(id) ?? []).map(({ chairId: _chair, ...host }) => host),
    groups: (drawn.get(id) ?? []).map(group => ({ id: group.id, name: '' })),
  }, groups)))
}

/** The workspace's groups of hosts by id; shared, they stay as they are until the transaction ends. */
export async function loadGroups(db: Database, workspaceId: string, lock?: 'share'): Promise<Map<string, HostGroup>> {
  const query = db.select({ id: hostGroups.id, name: hostGroups.name }).from(hostGroups)
    .where(eq(hostGroups.workspaceId, workspaceId)).orderBy(asc(hostGroups.name))
  const groups = new Map((await (lock ? query.for(lock) : query)).map(row => [row.id, { ...row, hosts: [] as HostGroup['hosts'] }]))
  if (groups.size === 0) return groups
  const sitting = await db
    .select({ groupId: groupHosts.groupId, id: groupHosts.hostId, name: hosts.name, weight: groupHosts.weight }).from(groupHosts)
    .innerJoin(hosts, and(eq(hosts.workspaceId, groupHosts.workspaceId), eq(hosts.id, groupHosts.hostId)))
    .where(eq(groupHosts.workspaceId, workspaceId)).orderBy(asc(groupHosts.position))
  for (const { groupId, ...host } of sitting) groups.get(groupId)?.hosts.push(host)
  return groups
}

/** A chair before rotation is asked: nobody is owed anything. */
export function toPoolChair(chair: Chair): PoolChair {
  return {
    ...chair,
    poolId: poolIdOf(chair),
    pool: chair.hosts.map(({ id, weight }) => ({ host: id, weight, credit: 0, assignedAt: null })),
  }
}

/** The workspace's sets of shared questions by id; shared, they stay as they are until the transaction ends. */
export async function loadQuestionSets(db: Database, workspaceId: string, lock?: 'share'): Promise<Map<string, QuestionSet>> {
  const query = db.select({ id: questionSets.id, name: questionSets.name, questions: questionSets.questions })
    .from(questionSets).where(eq(questionSets.workspaceId, workspaceId)).orderBy(asc(questionSets.name))
  const rows = await (lock ? query.for(lock) : query)
  return new Map(rows.map(row => [row.id, row]))
}

/** What event types of a workspace share, and carry with them. */
export interface Shared {
  sets: ReadonlyMap<string, QuestionSet>
  groups: ReadonlyMap<string, HostGroup>
  plans: ReadonlyMap<string, SharedPlan>
}

export async function loadShared(db: Database, workspaceId: string, lock?: 'share'): Promise<Shared> {
  return {
    sets: await loadQuestionSets(db, workspaceId, lock),
    groups: await loadGroups(db, workspaceId, lock),
    plans: await loadSharedPlans(db, workspaceId, lock),
  }
}

/** A definition with its shared questions, hours and groups as they are now. */
export function withCurrentShared(definition: Definition, { sets, groups, plans }: Shared): Definition {
  return {
    ...definition,
    settings: withCurrentHours(withCurrentSets(definition.settings, sets), plans),
    chairs: definition.chairs.map(chair => withCurrentGroups(chair, groups)),
  }
}

/** A stored draft with what is shared as it is now; null where it can no longer be read. */
export function readDraft(stored: unknown, shared: Shared): Definition | null {
  const { data } = definitionSchema.safeParse(stored)
  return data ? withCurrentShared(data, shared) : null
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
        const turn = turns.find(candidate => candidate.poolId === chair.poolId && candidate.hostId === entry.host)
        return turn ? { ...entry, credit: turn.credit, assignedAt: turn.assignedAt === null ? null : Math.floor(turn.assignedAt) } : entry
      }),
    })),
  }
}

/** The states in which an event type can be booked; members can book clients into it also while those cannot. */
export function bookableStates(by: Actor['kind']): EventType['state'][] {
  return by === 'member' ? ['open', 'closed'] : ['open']
}

export function isBookable({ state, archived }: EventType, by: Actor['kind']): boolean {
  return bookableStates(by).includes(state) && !archived
}

export const isOpen = (eventType: EventType) => isBookable(eventType, 'client')

/** The chair that a host is picked for: the first in which they may sit, for clients among those that they may fill. */
export function chairToPick({ chairs }: EventType, host: string, isClient: boolean): ChosenHost | null {
  const chair = chairs.find(({ policy, hosts }) => (!isClient || policy === 'client') && hosts.some(({ id }) => id === host))
  return chair ? { chairId: chair.id, host } : null
}

export function hostIdsOf(eventType: EventType): string[] {
  return hostsOfChairs(eventType.chairs)
}

/** The hold words of some event types. */
export function holdsOf(all: readonly Pick<EventType, 'settings'>[]): string[] {
  return [...new Set(all.flatMap(({ settings }) => settings.holds))]
}

/** An event type as it is edited: without what rotation remembers. */
export function definitionOf({ slug, listed, state, settings, chairs: seats }: EventType): Definition {
  return { slug, listed, state, settings, chairs: seats.map(({ pool: _pool, poolId: _poolId, ...chair }) => chair) }
}
