import { and, eq, isNull } from 'drizzle-orm'
import { type EditedGroup, type HostGroup, withCurrentGroups } from '../../core/event-type/groups'
import { nameForTeam } from '../../core/event-type/name-for-team'
import { DAY } from '../../core/time/civil'
import type { InputFault } from '../../core/validation'
import type { GroupEffect, GroupView, RotationView } from '../../core/views/rotation'
import type { Context } from '../context'
import type { Database } from '../database/connection'
import { groupHosts, hostGroups, hosts, workspaces } from '../database/schema'
import { loadHostsTime, WIDE } from '../hosts-time'
import { countShares, type Pool } from '../rotation'
import { type EventType, holdsOf, hostIdsOf, loadEventTypes, loadGroups, toPoolChair } from './load'
import { knownEventTypes } from './snapshot'
import { openingsOf, QueryTooLarge, TooManyOpenings } from './openings'

/** Groups of hosts that several chairs draw on, and how the pools of a workspace share their sessions. */

const MOST_GROUPS = 50

export async function listGroups({ db }: Context, workspaceId: string): Promise<GroupView[]> {
  const versions = new Map((await db.select({ id: hostGroups.id, version: hostGroups.version }).from(hostGroups)
    .where(eq(hostGroups.workspaceId, workspaceId))).map(row => [row.id, row.version]))
  const eventTypes = await knownEventTypes({ db }, workspaceId)
  return [...(await loadGroups(db, workspaceId)).values()].map(group => ({
    ...group,
    version: versions.get(group.id) ?? 1,
    usedBy: drawingOn(eventTypes, group.id).map(toUse),
  }))
}

export type CreateGroupOutcome = { kind: 'created', id: string } | { kind: 'invalid', errors: InputFault[] }

export async function createGroup({ db }: Context, workspaceId: string, group: EditedGroup): Promise<CreateGroupOutcome> {
  return db.transaction(async (tx) => {
    await tx.select({ id: workspaces.id }).from(workspaces).where(eq(workspaces.id, workspaceId)).for('no key update')
    if (await tx.$count(hostGroups, eq(hostGroups.workspaceId, workspaceId)) >= MOST_GROUPS)
      return { kind: 'invalid', errors: [{ path: 'name', code: 'tooManyGroups', values: { most: MOST_GROUPS } }] }
    const errors = await unknownHosts(tx, workspaceId, group)
    if (errors.length > 0) return { kind: 'invalid', errors }
    const [created] = await tx.insert(hostGroups).values({ workspaceId, name: group.name }).returning({ id: hostGroups.id })
    if (!created) throw new Error('The group was not saved')
    await saveHosts(tx, workspaceId, created.id, group.hosts)
    return { kind: 'created', id: created.id }
  })
}

export type ChangeGroupOutcome =
  { kind: 'notFound' } | { kind: 'changedMeanwhile' } | { kind: 'invalid', errors: InputFault[] } | { kind: 'saved', version: number }

/** Changes a group over the version it was read in, for every chair that draws on it at once. */
export async function changeGroup(
  { db }: Context, workspaceId: string, id: string, basedOn: number, group: EditedGroup,
): Promise<ChangeGroupOutcome> {
  return db.transaction(async (tx) => {
    const current = await lockGroup(tx, workspaceId, id)
    if (!current) return { kind: 'notFound' }
    if (current.version !== basedOn) return { kind: 'changedMeanwhile' }
    const errors = await unknownHosts(tx, workspaceId, group)
    if (errors.length > 0) return { kind: 'invalid', errors }
    await tx.update(hostGroups).set({ name: group.name, version: basedOn + 1 }).where(isGroup(workspaceId, id))
    await saveHosts(tx, workspaceId, id, group.hosts)
    return { kind: 'saved', version: basedOn + 1 }
  })
}

export type DeleteGroupOutcome = { kind: 'notFound' } | { kind: 'inUse', eventTypes: string[] } | { kind: 'deleted' }

/** Deletes a group that no chair draws on. What was assigned through it stays in the ledger. */
export async function deleteGroup({ db }: Context, workspaceId: string, id: string): Promise<DeleteGroupOutcome> {
  return db.transaction(async (tx) => {
    // Whoever publishes an event type that draws on it shares the row, so this waits and then sees it in use.
    if (!await lockGroup(tx, workspaceId, id)) return { kind: 'notFound' }
    const inUse = drawingOn(await loadEventTypes(tx, workspaceId), id)
    if (inUse.length > 0) return { kind: 'inUse', eventTypes: inUse.map(({ settings }) => nameForTeam(settings)) }
    await tx.delete(groupHosts).where(and(eq(groupHosts.workspaceId, workspaceId), eq(groupHosts.groupId, id)))
    await tx.delete(hostGroups).where(isGroup(workspaceId, id))
    return { kind: 'deleted' }
  })
}

const POOLS_A_PAGE = 5
const PREVIEW_DAYS = 14

export type PreviewGroupOutcome = { kind: 'notFound' } | { kind: 'invalid', errors: InputFault[] } | { kind: 'effects', effects: GroupEffect[] }

/** What other hosts in a group would mean for the event types that draw on it, over the next two weeks. */
export async function previewGroup(context: Context, workspaceId: string, id: string, edited: EditedGroup): Promise<PreviewGroupOutcome> {
  const { db, now } = context
  const groups = await loadGroups(db, workspaceId)
  if (!groups.has(id)) return { kind: 'notFound' }
  const errors = await unknownHosts(db, workspaceId, edited)
  if (errors.length > 0) return { kind: 'invalid', errors }
  const changed: HostGroup = { id, name: edited.name, hosts: edited.hosts.map(host => ({ ...host, name: '' })) }
  const changedGroups = new Map(groups).set(id, changed)
  const using = drawingOn(await knownEventTypes({ db }, workspaceId), id).filter(eventType => !eventType.archived)
  const span = { now: now(), from: now(), to: now() + PREVIEW_DAYS * DAY }
  const known = [...new Set([...using.flatMap(hostIdsOf), ...edited.hosts.map(host => host.id)])]
  const time = await loadHostsTime(context, workspaceId, known, { ...span, ...WIDE, holds: holdsOf(using) })
  const startsOf = (eventType: EventType) => openingsOf(eventType, time, span).map(opening => opening.start)
  const effects = using.map((eventType): GroupEffect => {
    const chairs = eventType.chairs.map(chair => toPoolChair(withCurrentGroups(chair, changedGroups)))
    try {
      const [before, after] = [startsOf(eventType), chairs.every(chair => chair.hosts.length > 0) ? startsOf({ ...eventType, chairs }) : []]
      const [had, has] = [new Set(before), new Set(after)]
      const openings = {
        before: had.size,
        after: has.size,
        added: after.filter(start => !had.has(start)).length,
        removed: before.filter(start => !has.has(start)).length,
      }
      return { id: eventType.id, name: nameForTeam(eventType.settings), state: eventType.state, openings }
    } catch (error) {
      if (!(error instanceof TooManyOpenings || error instanceof QueryTooLarge)) throw error
      return { id: eventType.id, name: nameForTeam(eventType.settings), state: eventType.state, openings: null }
    }
  })
  return { kind: 'effects', effects }
}

/** Pools in which hosts take turns, groups first, with their shares over some days: a page of them, or one, or those of a host. */
export async function viewRotation(
  context: Context, workspaceId: string,
  { days, page, pool: only, host }: { days: number, page: number, pool?: string | undefined, host?: string | undefined },
): Promise<RotationView> {
  const eventTypes = await knownEventTypes(context, workspaceId)
  const groups = await loadGroups(context.db, workspaceId)
  const ofGroups = [...groups.values()].map((group): Pool => {
    const using = eventTypes.filter(eventType => eventType.chairs.some(chair => chair.poolId === group.id))
    const policy = using.flatMap(eventType => eventType.chairs).find(chair => chair.poolId === group.id)?.policy ?? 'fairShare'
    return { id: group.id, kind: 'group', name: group.name, policy, usedBy: drawingOn(eventTypes, group.id).map(toUse), hosts: group.hosts }
  })
  const ofChairs = eventTypes.filter(eventType => !eventType.archived).flatMap(eventType => eventType.chairs
    .filter(chair => chair.poolId === chair.id && chair.hosts.length > 1)
    .map((chair): Pool => ({
      id: chair.id, kind: 'chair', name: chair.name, policy: chair.policy, usedBy: [toUse(eventType)],
      hosts: chair.hosts.map(({ id, name, weight }) => ({ id, name, weight })),
    })))
  const all = [...ofGroups, ...ofChairs].filter(pool => host === undefined || pool.hosts.some(({ id }) => id === host))
  const shown = only === undefined ? all.slice((page - 1) * POOLS_A_PAGE, page * POOLS_A_PAGE) : all.filter(({ id }) => id === only)
  return {
    now: context.now(),
    days,
    pools: await countShares(context, workspaceId, shown, days),
    hasMore: only === undefined && all.length > page * POOLS_A_PAGE,
  }
}

const toUse = ({ id, settings, state, archived }: EventType) => ({ id, name: nameForTeam(settings), state, archived })

const drawingOn = (eventTypes: readonly EventType[], id: string) =>
  eventTypes.filter(({ chairs }) => chairs.some(chair => chair.groups.some(group => group.id === id)))

const isGroup = (workspaceId: string, id: string) => and(eq(hostGroups.workspaceId, workspaceId), eq(hostGroups.id, id))

async function lockGroup(tx: Database, workspaceId: string, id: string): Promise<{ version: number } | undefined> {
  const [row] = await tx.select({ version: hostGroups.version }).from(hostGroups).where(isGroup(workspaceId, id)).for('update')
  return row
}

async function unknownHosts(db: Database, workspaceId: string, { hosts: pool }: EditedGroup): Promise<InputFault[]> {
  const known = new Set((await db.select({ id: hosts.id }).from(hosts)
    .where(and(eq(hosts.workspaceId, workspaceId), isNull(hosts.leftAt)))).map(host => host.id))
  return pool.flatMap((host, index): InputFault[] =>
    known.has(host.id) ? [] : [{ path: `hosts.${index}`, code: 'unknownHost', values: { name: '' } }])
}

async function saveHosts(db: Database, workspaceId: string, groupId: string, pool: EditedGroup['hosts']): Promise<void> {
  await db.delete(groupHosts).where(and(eq(groupHosts.workspaceId, workspaceId), eq(groupHosts.groupId, groupId)))
  await db.insert(groupHosts)
    .values(pool.map((host, position) => ({ workspaceId, groupId, hostId: host.id, position, weight: host.weight })))
}
