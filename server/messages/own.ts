import { and, eq, isNull, sql } from 'drizzle-orm'
import { audienceOf, firstWording, type OwnMessage } from '../../core/messages/own'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { messageTexts, ownMessages, workspaces } from '../database/schema'
import { findEventType } from './wordings'

/** Messages that a workspace adds, for all its event types or for one. */

const MOST_OWN = 50

export type StoredOwnMessage = typeof ownMessages.$inferSelect

/** One that was not removed. */
export async function loadOwnMessage(db: Database, workspaceId: string, id: string): Promise<StoredOwnMessage | null> {
  const [found] = await db.select().from(ownMessages).where(isOwn(workspaceId, id))
  return found ?? null
}

const isOwn = (workspaceId: string, id: string) =>
  and(eq(ownMessages.workspaceId, workspaceId), eq(ownMessages.id, id), isNull(ownMessages.removedAt))

export type AddOutcome = { kind: 'notFound' } | { kind: 'tooMany', most: number } | { kind: 'added', id: string }

/** Adds a message with words to begin with. */
export async function addOwnMessage(
  { db, now }: Context, { workspaceId, name }: { workspaceId: string, name: string }, eventTypeId: string | null, definition: OwnMessage,
): Promise<AddOutcome> {
  if (await findEventType(db, workspaceId, eventTypeId) === undefined) return { kind: 'notFound' }
  return db.transaction(async (tx) => {
    await tx.select({ id: workspaces.id }).from(workspaces).where(eq(workspaces.id, workspaceId)).for('no key update')
    const present = await tx.$count(ownMessages, and(eq(ownMessages.workspaceId, workspaceId), isNull(ownMessages.removedAt)))
    if (present >= MOST_OWN) return { kind: 'tooMany', most: MOST_OWN }
    const [added] = await tx.insert(ownMessages).values({ workspaceId, eventTypeId, definition, since: dateOf(now()) })
      .returning({ id: ownMessages.id })
    if (!added) throw new Error('The message was not added')
    await tx.insert(messageTexts).values({
      workspaceId, eventTypeId, occasion: 'own', audience: audienceOf(definition), ownId: added.id, version: 1,
      wording: firstWording(definition), at: dateOf(now()), memberName: name,
    })
    return { kind: 'added', id: added.id }
  })
}

export type ChangeOwnOutcome = 'notFound' | 'changedMeanwhile' | 'otherReaders' | 'otherWay' | 'saved'

/** Changes when it is sent and to whom, over the version that was read. What its words depend on stays: who reads it, and how. */
export async function changeOwnMessage(
  { db, now }: Context, workspaceId: string, id: string, basedOn: number, definition: OwnMessage,
): Promise<ChangeOwnOutcome> {
  const found = await loadOwnMessage(db, workspaceId, id)
  if (!found) return 'notFound'
  if (audienceOf(found.definition) !== audienceOf(definition)) return 'otherReaders'
  if (found.definition.by !== definition.by) return 'otherWay'
  // What was due by the moment before was sent; by the new one it is due from now on.
  const isMoved = JSON.stringify(found.definition.moment) !== JSON.stringify(definition.moment)
  const changed = await db.update(ownMessages)
    .set({ definition, version: sql`${ownMessages.version} + 1`, ...isMoved && { since: dateOf(now()) } })
    .where(and(isOwn(workspaceId, id), eq(ownMessages.version, basedOn))).returning({ id: ownMessages.id })
  return changed.length > 0 ? 'saved' : 'changedMeanwhile'
}

/** Ends it; what is planned of it is not sent any more. */
export async function removeOwnMessage({ db, now }: Context, workspaceId: string, id: string): Promise<boolean> {
  const removed = await db.update(ownMessages).set({ removedAt: dateOf(now()) })
    .where(isOwn(workspaceId, id)).returning({ id: ownMessages.id })
  return removed.length > 0
}
