import { and, desc, eq, isNotNull, isNull, sql } from 'drizzle-orm'
import type { CheckMessage } from '../../core/checks/finding'
import { groupBy } from '../../core/group-by'
import { answersNamedIn } from '../../core/messages'
import type { Database } from '../database/connection'
import { messageTexts, ownMessages } from '../database/schema'

/** The messages that event types have worded themselves, by event type; those of one where it is named. */
export async function wordedMessages(db: Database, workspaceId: string, id?: string): Promise<Map<string, CheckMessage[]>> {
  const { eventTypeId, occasion, audience, ownId, wording, version } = messageTexts
  const latest = await db.selectDistinctOn([eventTypeId, occasion, audience, ownId], {
    eventTypeId, occasion, audience, ownId, wording, own: sql<string | null>`${ownMessages.definition} ->> 'name'`,
  }).from(messageTexts)
    .leftJoin(ownMessages, and(eq(ownMessages.workspaceId, messageTexts.workspaceId), eq(ownMessages.id, ownId)))
    .where(and(
      eq(messageTexts.workspaceId, workspaceId), isNull(ownMessages.removedAt),
      id === undefined ? isNotNull(eventTypeId) : eq(eventTypeId, id),
    ))
    .orderBy(eventTypeId, occasion, audience, ownId, desc(version))
  const found = latest.flatMap((row) => {
    const answers = row.wording ? answersNamedIn(row.wording) : []
    if (answers.length === 0 || row.eventTypeId === null) return []
    const message = row.ownId === null ? `${row.occasion}.${row.audience}` : `own.${row.ownId}`
    const address = `/desk/messages?eventType=${row.eventTypeId}&message=${message}`
    return [{ eventTypeId: row.eventTypeId, occasion: row.occasion, own: row.own, answers, address }]
  })
  return new Map([...groupBy(found, row => row.eventTypeId)].map(([id, rows]) =>
    [id, rows.map(({ eventTypeId: _id, ...message }) => message)]))
}
