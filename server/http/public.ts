import type { H3Event } from 'h3'
import type { Context } from '../context'
import { type EventType, loadOpenEventType, loadWorkspace, type Workspace } from '../event-types'
import { notFound, param } from './problem'
import { signedInMember } from './session'

/** What a public address leads to. Unknown pages and those nobody may see yet are answered alike. Throws Problem 404. */

export async function workspaceOfPath(event: H3Event, context: Context): Promise<Workspace> {
  const workspace = await loadWorkspace(context.db, param(event, 'workspace'))
  if (!workspace) throw notFound()
  // Before its owner has confirmed the address, a workspace is seen by its members only.
  if (!workspace.confirmed && (await signedInMember(event, context))?.workspaceId !== workspace.id) throw notFound()
  return workspace
}

export async function eventTypeOfPath(event: H3Event, context: Context): Promise<{ workspace: Workspace, eventType: EventType }> {
  const workspace = await workspaceOfPath(event, context)
  const eventType = await loadOpenEventType(context.db, workspace, param(event, 'eventType'))
  if (!eventType) throw notFound()
  return { workspace, eventType }
}
