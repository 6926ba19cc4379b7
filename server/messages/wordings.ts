import { and, desc, eq, isNull, lt, or, sql } from 'drizzle-orm'
import { nameForTeam } from '../../core/event-type/name-for-team'
import { allQuestions } from '../../core/intake/question-sets'
import { fieldsFor, findMessageFaults, type MessageFault, type Wording } from '../../core/messages'
import { presetOf, type WordedMessage } from '../../core/messages/wording'
import type { MessagesView, MessageText } from '../../core/views/messages'
import { type Context, dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { isConstraintFault } from '../database/faults'
import { preparedQuery } from '../database/prepared-query'
import { messageTexts, ownMessages } from '../database/schema'
import { type EventType, loadEventTypes } from '../event-types'

/** The words of messages, by workspace and by event type. What nobody has worded follows the presets. */

/** Versions that can be had again. */
const MOST_VERSIONS = 20

/** The words that hold for an event type; null where the preset does. */
export async function loadWording(
  db: Database, workspaceId: string, eventTypeId: string, { occasion, audience, ownId }: Named,
): Promise<Wording | null> {
  const rows = await present(db).execute({ workspaceId, eventTypeId, occasion, audience, ownId })
  return rows.find(row => row.eventTypeId !== null)?.wording ?? rows.find(row => row.eventTypeId === null)?.wording ?? null
}

/** The newest row of the event type and that of the workspace. */
const present = preparedQuery(db => db
  .selectDistinctOn([messageTexts.eventTypeId], { eventTypeId: messageTexts.eventTypeId, wording: messageTexts.wording })
  .from(messageTexts)
  .where(and(
    eq(messageTexts.workspaceId, sql.placeholder('workspaceId')), eq(messageTexts.occasion, sql.placeholder('occasion')),
    eq(messageTexts.audience, sql.placeholder('audience')),
    sql`${messageTexts.ownId} is not distinct from ${sql.placeholder('ownId')}::uuid`,
    or(isNull(messageTexts.eventTypeId), eq(messageTexts.eventTypeId, sql.placeholder('eventTypeId'))),
  ))
  .orderBy(messageTexts.eventTypeId, desc(messageTexts.version))
  .prepare(''))

/** What is sent for an event type, or by the workspace; null where there is no such event type. */
export async function viewMessages(
  { db, phoneTexts }: Context, workspaceId: string, eventTypeId: string | null,
): Promise<MessagesView | null> {
  const all = (await loadEventTypes(db, workspaceId)).filter(({ archived }) => !archived)
  const eventType = all.find(({ id }) => id === eventTypeId) ?? null
  if (eventTypeId !== null && !eventType) return null
  const { eventTypeId: scope, occasion: of, audience: side, ownId: which } = messageTexts
  const rows = await db.selectDistinctOn([scope, of, side, which]).from(messageTexts)
    .where(and(eq(messageTexts.workspaceId, workspaceId), inScope(eventTypeId)))
    .orderBy(scope, of, side, which, desc(messageTexts.version))
  const own = rows.filter(row => row.wording !== null)
  const changed = own.filter(row => row.eventTypeId !== null || !own.some(other => isSameMessage(other, row) && other.eventTypeId !== null))
  const settings = eventType?.settings
  const added = await listOwn(db, workspaceId, eventTypeId)
  const wayOf = (ownId: string | null) => added.find(({ id }) => id === ownId)?.definition.by ?? 'mail'
  return {
    eventType: eventType && named(eventType),
    eventTypes: all.map(named),
    reminders: settings?.reminders ?? [],
    approval: settings?.approval ?? all.some(other => other.settings.approval),
    guests: settings?.guests ?? true,
    paid: settings ? settings.price?.when === 'booking' : all.some(other => other.settings.price?.when === 'booking'),
    people: settings ? settings.mostPeople > 1 : all.some(other => other.settings.mostPeople > 1),
    video: settings ? settings.places.some(place => place.kind === 'video') : true,
    observers: settings?.observers.map(observer => observer.name) ?? [],
    canText: phoneTexts !== null,
    own: added.map(row => ({ id: row.id, isOfEventType: row.eventTypeId !== null, version: row.version, ...row.definition })),
    changed: changed.map(({ occasion, audience, ownId, eventTypeId: whose, wording }) => ({
      occasion, audience, ownId, source: whose === null ? 'workspace' : 'eventType',
      isFaulty: wording !== null
        && findMessageFaults({ occasion, audience, by: wayOf(ownId) }, wording, questionKeys(eventType)).length > 0,
    })),
  }
}

/** Those for all event types, and for one its own too. */
function listOwn(db: Database, workspaceId: string, eventTypeId: string | null) {
  return db.select().from(ownMessages).where(and(
    eq(ownMessages.workspaceId, workspaceId), isNull(ownMessages.removedAt),
    eventTypeId === null ? isNull(ownMessages.eventTypeId) : or(isNull(ownMessages.eventTypeId), eq(ownMessages.eventTypeId, eventTypeId)),
  )).orderBy(ownMessages.since, ownMessages.id)
}

const named = ({ id, settings }: EventType) => ({ id, name: nameForTeam(settings) })
type Named = Omit<WordedMessage, 'by'>
const isSameMessage = (a: Named, b: Named) => a.occasion === b.occasion && a.audience === b.audience && a.ownId === b.ownId

export const questionKeys = (eventType: Pick<EventType, 'settings'> | null) => (eventType ? allQuestions(eventType.settings).map(question => question.key) : [])

function inScope(eventTypeId: string | null) {
  const isGeneral = isNull(messageTexts.eventTypeId)
  return eventTypeId === null ? isGeneral : or(isGeneral, eq(messageTexts.eventTypeId, eventTypeId))
}

/** One message with its words and where they come from; null where there is none. */
export async function viewWording(
  { db }: Context, workspaceId: string, eventTypeId: string | null, message: WordedMessage,
): Promise<MessageText | null> {
  const eventType = await findEventType(db, workspaceId, eventTypeId)
  const preset = presetOf(message, eventTypeId !== null)
  if (!preset || eventType === undefined) return null
  const rows = await db.select().from(messageTexts)
    .where(and(eq(messageTexts.workspaceId, workspaceId), inScope(eventTypeId), isMessage(message)))
    .orderBy(desc(messageTexts.version))
  const versions = rows.filter(row => row.eventTypeId === eventTypeId)
  if (message.ownId !== null && rows.length === 0) return null
  const ofWorkspace = eventTypeId === null ? null : rows.find(row => row.eventTypeId === null)?.wording ?? null
  const own = versions[0]?.wording ?? null
  const inheritedFrom = ofWorkspace ? 'workspace' : 'preset'
  return {
    wording: own ?? ofWorkspace ?? preset, inheritedFrom,
    source: own === null ? inheritedFrom : eventTypeId === null ? 'workspace' : 'eventType',
    version: versions[0]?.version ?? 0,
    fields: fieldsFor(message.occasion, message.audience, questionKeys(eventType)),
    versions: versions.slice(0, MOST_VERSIONS)
      .map(({ version, at, memberName, wording }) => ({ version, at: secondsOf(at), by: memberName, wording })),
  }
}

/** The event type; null where none is meant, undefined where there is none. */
export async function findEventType(db: Database, workspaceId: string, eventTypeId: string | null): Promise<EventType | null | undefined> {
  return eventTypeId === null ? null : (await loadEventTypes(db, workspaceId, { id: eventTypeId }))[0]
}

const isMessage = ({ occasion, audience, ownId }: Named) => and(
  eq(messageTexts.occasion, occasion), eq(messageTexts.audience, audience),
  ownId === null ? isNull(messageTexts.ownId) : eq(messageTexts.ownId, ownId),
)

export type SaveOutcome =
  { kind: 'notFound' } | { kind: 'changedMeanwhile' } | { kind: 'invalid', faults: MessageFault[] } | { kind: 'saved', version: number }

/** Saves words over the version they were read in; null goes back to those that hold without them. */
export async function saveWording(
  { db, now }: Context,
  { workspaceId, name }: { workspaceId: string, name: string },
  message: WordedMessage,
  { eventType: eventTypeId, wording, basedOn }: { eventType: string | null, wording: Wording | null, basedOn: number },
): Promise<SaveOutcome> {
  const eventType = await findEventType(db, workspaceId, eventTypeId)
  if (eventType === undefined || !presetOf(message, eventTypeId !== null)) return { kind: 'notFound' }
  const faults = wording ? findMessageFaults(message, wording, questionKeys(eventType)) : []
  if (faults.length > 0) return { kind: 'invalid', faults }
  const isScoped = and(
    eq(messageTexts.workspaceId, workspaceId), isMessage(message),
    eventTypeId === null ? isNull(messageTexts.eventTypeId) : eq(messageTexts.eventTypeId, eventTypeId),
  )
  try {
    const { occasion, audience, ownId } = message
    return await db.transaction(async (tx) => {
      const [newest] = await tx.select({ version: messageTexts.version }).from(messageTexts)
        .where(isScoped)
        .orderBy(desc(messageTexts.version)).limit(1)
      if ((newest?.version ?? 0) !== basedOn) return { kind: 'changedMeanwhile' }
      const version = basedOn + 1
      await tx.insert(messageTexts)
        .values({ workspaceId, eventTypeId, occasion, audience, ownId, version, wording, at: dateOf(now()), memberName: name })
      await tx.delete(messageTexts).where(and(isScoped, lt(messageTexts.version, version - MOST_VERSIONS)))
      return { kind: 'saved', version }
    })
  } catch (error) {
    if (isConstraintFault(error)) return { kind: 'changedMeanwhile' }
    throw error
  }
}
