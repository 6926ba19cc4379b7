import { and, asc, eq, inArray } from 'drizzle-orm'
import { nameForTeam } from '../../core/event-type/name-for-team'
import type { Database } from '../database/connection'
import { chairHosts, eventTypes, groupHosts } from '../database/schema'
import { type EventType, loadEventTypes, loadGroups } from './load'
import { saveStateAsVersion } from './publish'

/** What becomes of event types when a host leaves. */

/** Event types that nobody else could host: with a chair in which only this host sits. */
export function hostedAlone(all: readonly EventType[], hostId: string): EventType[] {
  return all.filter(({ archived, chairs }) =>
    !archived && chairs.some(chair => chair.hosts.length > 0 && chair.hosts.every(host => host.id === hostId)))
}

/**
 * Takes a host out of every chair and group that others sit in too, as a new version of each event type. Where nobody else
 * does, the chair keeps the host until somebody else is given it, and the event type is closed. Names those that are.
 */
export async function takeHostOut(tx: Database, workspaceId: string, hostId: string, by: string, at: Date): Promise<string[]> {
  await tx.select({ id: eventTypes.id }).from(eventTypes).where(eq(eventTypes.workspaceId, workspaceId)).orderBy(asc(eventTypes.id)).for('update')
  const all = await loadEventTypes(tx, workspaceId)
  const alone = new Set(hostedAlone(all, hostId).map(eventType => eventType.id))
  const shared = [...(await loadGroups(tx, workspaceId)).values()].filter(group => group.hosts.length > 1).map(group => group.id)
  if (shared.length > 0) {
    await tx.delete(groupHosts)
      .where(and(eq(groupHosts.workspaceId, workspaceId), eq(groupHosts.hostId, hostId), inArray(groupHosts.groupId, shared)))
  }
  const left = all.flatMap(({ chairs }) => chairs)
    .filter(chair => chair.hosts.some(host => host.id === hostId) && chair.hosts.some(host => host.id !== hostId)).map(chair => chair.id)
  if (left.length > 0) {
    await tx.delete(chairHosts)
      .where(and(eq(chairHosts.workspaceId, workspaceId), eq(chairHosts.hostId, hostId), inArray(chairHosts.chairId, left)))
  }
  const closed: string[] = []
  for (const eventType of await loadEventTypes(tx, workspaceId)) {
    if (!all.find(before => before.id === eventType.id)?.chairs.some(chair => chair.hosts.some(host => host.id === hostId))) continue
    const state = alone.has(eventType.id) && eventType.state === 'open' ? 'closed' : eventType.state
    if (state !== eventType.state) closed.push(nameForTeam(eventType.settings))
    await saveStateAsVersion(tx, eventType, state, by, at)
  }
  return closed
}
