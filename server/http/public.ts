import type { H3Event } from 'h3'
import type { Context } from '../context'
import { type EventType, loadSnapshot, openEventType, type WorkspaceSnapshot } from '../event-types'
import { notFound, param } from './problem'
import { signedInMember } from './session'

/** What a public address leads to. Unknown pages and those nobody may see yet are answered alike. Throws Problem 404. */

export async function workspaceOfPath(event: H3Event, context: Context): Promise<WorkspaceSnapshot> {
  const snapshot = await loadSnapshot(context.db, param(event, 'workspace'))
  if (!snapshot) throw notFound()
  // Before its owner has confirmed the address, a workspace is seen by its members only.
  const { id, confirmed } = snapshot.workspace
  if (!confirmed && (await signedInMember(event, context))?.workspaceId !== id) throw notFound()
  return snapshot
}

export async function eventTypeOfPath(event: H3Event, context: Context): Promise<{ snapshot: WorkspaceSnapshot, eventType: EventType }> {
  const snapshot = await workspaceOfPath(event, context)
  const eventType = openEventType(snapshot, param(event, 'eventType'))
  if (!eventType) throw notFound()
  return { snapshot, eventType }
}
