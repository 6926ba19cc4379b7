import type { H3Event } from 'h3'
import { audienceOf } from '../../core/messages/own'
import { type WordedMessage, wordedMessageSchema } from '../../core/messages/wording'
import type { Context } from '../context'
import { loadOwnMessage } from '../messages'
import { idParam, notFound, param } from './problem'

/** The message that an address names: by its occasion and its audience, or as `own` and the id of one that was added. */
export async function messageParam(event: H3Event, { db }: Context, workspaceId: string): Promise<WordedMessage> {
  if (param(event, 'occasion') === 'own') {
    const found = await loadOwnMessage(db, workspaceId, idParam(event, 'audience'))
    if (!found) throw notFound()
    return { occasion: 'own', audience: audienceOf(found.definition), by: found.definition.by, ownId: found.id }
  }
  const named = wordedMessageSchema.safeParse({ occasion: param(event, 'occasion'), audience: param(event, 'audience') })
  if (!named.success) throw notFound()
  return { ...named.data, by: 'mail', ownId: null }
}
