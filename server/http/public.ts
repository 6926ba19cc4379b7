import { getQuery, type H3Event } from 'h3'
import type { Context } from '../context'
import { draftedEventType, type EventType, loadSnapshot, openEventType, type WorkspaceSnapshot } from '../event-types'
import { notFound, param } from './problem'
import { signedInMember } from './session'

/** What a public address leads to. Unknown pages and those nobody may see yet are answered alike. Throws Problem 404. */

export const workspaceOfPath = (event: H3Event, context: Context) => workspaceOfSlug(event, context, param(event, 'workspace'))

export async function workspaceOfSlug(event: H3Event, context: Context, slug: string): Promise<WorkspaceSnapshot> {
  const snapshot = await loadSnapshot(context.db, slug)
  if (!snapshot) throw notFound()
  // Before its owner has confirmed the address, a workspace is seen by its members only.
  const { id, confirmed } = snapshot.workspace
  if (!confirmed && (await signedInMember(event, context))?.workspaceId !== id) throw notFound()
  return snapshot
}

/** Whether a member asks for a page as it would be with their own draft; to anybody else it changes nothing. */
export function isPreview(event: H3Event): boolean {
  return event.method === 'GET' && getQuery(event)['preview'] !== undefined
}

export async function eventTypeOfPath(event: H3Event, context: Context): Promise<{ snapshot: WorkspaceSnapshot, eventType: EventType }> {
  const snapshot = await workspaceOfPath(event, context)
  const slug = param(event, 'eventType')
  const member = isPreview(event) ? await signedInMember(event, context) : null
  const eventType =
    member?.workspaceId === snapshot.workspace.id
      ? await draftedEventType(context.db, snapshot, slug, member.memberId)
      : openEventType(snapshot, slug)
  if (!eventType) throw notFound()
  return { snapshot, eventType }
}
