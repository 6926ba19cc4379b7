import type { SignedIn } from '../../core/views/desk'
import type { Context } from '../context'
import { definitionOf, loadEventTypes } from './load'
import { publishDefinition } from './publish'

/** Lets clients choose video in some event types, beside the places that there are. Gives how many it changed. */
export async function offerVideo(context: Context, { workspaceId, memberId, name }: SignedIn, ids: readonly string[]): Promise<number> {
  let changed = 0
  for (const id of ids) {
    const [eventType] = await loadEventTypes(context.db, workspaceId, { id })
    if (!eventType || eventType.settings.places.some(({ kind }) => kind === 'video')) continue
    const definition = definitionOf(eventType)
    const taken = new Set(definition.settings.places.map(({ key }) => key))
    const key = ['video', ...Array.from(taken, (_, index) => `video${index + 2}`)].find(candidate => !taken.has(candidate)) ?? 'video'
    const places = [...definition.settings.places, { key, kind: 'video' as const, label: '', detail: '' }]
    const outcome = await publishDefinition(context, workspaceId, id, { memberId, name }, eventType.version, {
      ...definition, settings: { ...definition.settings, places },
    })
    if (outcome.kind === 'published') changed++
  }
  return changed
}
