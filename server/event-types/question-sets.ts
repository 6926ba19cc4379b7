import { and, asc, eq, sql } from 'drizzle-orm'
import { allQuestions, type EditedSet } from '../../core/intake/question-sets'
import type { InputFault } from '../../core/validation'
import type { QuestionSetView } from '../../core/views/event-types'
import { nameForTeam } from '../../core/event-type/name-for-team'
import type { Context } from '../context'
import type { Database } from '../database/connection'
import { questionSets, workspaces } from '../database/schema'
import { type EventType, loadEventTypes } from './load'

/** Sets of questions that several event types share: changed in one place, for all who ask them at once. */

const MOST_SETS = 50

export async function listQuestionSets({ db }: Context, workspaceId: string): Promise<QuestionSetView[]> {
  const rows = await db.select().from(questionSets).where(eq(questionSets.workspaceId, workspaceId)).orderBy(asc(sql`lower(${questionSets.name})`))
  const eventTypes = await loadEventTypes(db, workspaceId)
  return rows.map(({ id, name, questions, version }) => ({
    id,
    name,
    questions,
    version,
    usedBy: askedBy(eventTypes, id).map(({ id, settings, state, archived }) => ({ id, name: nameForTeam(settings), state, archived })),
  }))
}

export type CreateSetOutcome = { kind: 'created', id: string } | { kind: 'tooMany', most: number }

export async function createQuestionSet({ db }: Context, workspaceId: string, set: EditedSet): Promise<CreateSetOutcome> {
  return db.transaction(async (tx) => {
    await tx.select({ id: workspaces.id }).from(workspaces).where(eq(workspaces.id, workspaceId)).for('no key update')
    if (await tx.$count(questionSets, eq(questionSets.workspaceId, workspaceId)) >= MOST_SETS) return { kind: 'tooMany', most: MOST_SETS }
    const [created] = await tx.insert(questionSets).values({ workspaceId, ...set }).returning({ id: questionSets.id })
    if (!created) throw new Error('The questions were not saved')
    return { kind: 'created', id: created.id }
  })
}

export type ChangeSetOutcome =
  { kind: 'notFound' } | { kind: 'changedMeanwhile' } | { kind: 'invalid', errors: InputFault[] } | { kind: 'saved', version: number }

/** Changes a set over the version it was read in. Clients of every event type that asks it see it at once. */
export async function changeQuestionSet(
  { db }: Context, workspaceId: string, id: string, basedOn: number, { name, questions }: EditedSet,
): Promise<ChangeSetOutcome> {
  return db.transaction(async (tx) => {
    const current = await lockSet(tx, workspaceId, id)
    if (!current) return { kind: 'notFound' }
    if (current.version !== basedOn) return { kind: 'changedMeanwhile' }
    const taken = new Set(askedBy(await loadEventTypes(tx, workspaceId), id).flatMap(({ settings }) =>
      allQuestions({ ...settings, questionSets: settings.questionSets.filter(set => set.id !== id) }).map(question => question.key)))
    const errors = questions.flatMap((question, index): InputFault[] =>
      taken.has(question.key) ? [{ path: `questions.${index}.key`, code: 'keyTaken', values: {} }] : [])
    if (errors.length > 0) return { kind: 'invalid', errors }
    await tx.update(questionSets).set({ name, questions, version: basedOn + 1 }).where(isSet(workspaceId, id))
    return { kind: 'saved', version: basedOn + 1 }
  })
}

export type DeleteSetOutcome = { kind: 'notFound' } | { kind: 'inUse', eventTypes: string[] } | { kind: 'deleted' }

/** Deletes a set that no event type asks. */
export async function deleteQuestionSet({ db }: Context, workspaceId: string, id: string): Promise<DeleteSetOutcome> {
  return db.transaction(async (tx) => {
    // Whoever publishes an event type that asks it shares the row, so this waits and then sees it in use.
    if (!await lockSet(tx, workspaceId, id)) return { kind: 'notFound' }
    const inUse = askedBy(await loadEventTypes(tx, workspaceId), id)
    if (inUse.length > 0) return { kind: 'inUse', eventTypes: inUse.map(({ settings }) => nameForTeam(settings)) }
    await tx.delete(questionSets).where(isSet(workspaceId, id))
    return { kind: 'deleted' }
  })
}

const isSet = (workspaceId: string, id: string) => and(eq(questionSets.workspaceId, workspaceId), eq(questionSets.id, id))

async function lockSet(tx: Database, workspaceId: string, id: string): Promise<{ version: number } | undefined> {
  const [row] = await tx.select({ version: questionSets.version }).from(questionSets).where(isSet(workspaceId, id)).for('update')
  return row
}

const askedBy = (eventTypes: readonly EventType[], id: string) =>
  eventTypes.filter(({ settings }) => settings.questionSets.some(set => set.id === id))
