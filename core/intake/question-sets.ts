import { z } from 'zod'
import { noRepeats } from '../validation'
import { type Question, questionsSchema } from './index'

/**
 * Questions that several event types share. An event type names the sets it asks and carries their questions with it, as
 * chairs carry their hosts' names: whoever loads or publishes it brings them up to date (`withCurrentSets`).
 */

const name = z.string().trim().min(1).max(80)

/** A set as an event type carries it. */
export const questionSetSchema = z.strictObject({ id: z.uuid(), name, questions: questionsSchema })
export type QuestionSet = z.infer<typeof questionSetSchema>

export const questionSetsSchema = z.array(questionSetSchema).max(10).superRefine(noRepeats('id'))

/** A set as it is edited. */
export const editedSetSchema = z.strictObject({ name, questions: questionsSchema.min(1).max(20) })
export type EditedSet = z.infer<typeof editedSetSchema>

interface Asking {
  questions: readonly Question[]
  questionSets: readonly QuestionSet[]
}

/** All that clients are asked: an event type's own questions, then those of its sets. */
export function allQuestions({ questions, questionSets }: Asking): Question[] {
  return [...questions, ...questionSets.flatMap(set => set.questions)]
}

/** The same with the sets as they are now; sets that no longer exist are left out. */
export function withCurrentSets<Settings extends Asking>(settings: Settings, sets: ReadonlyMap<string, QuestionSet>): Settings {
  return { ...settings, questionSets: settings.questionSets.flatMap(({ id }) => sets.get(id) ?? []) }
}

/** Questions under other keys; what depends on one of them goes on doing so. */
export function rekeyQuestions(questions: readonly Question[], newKey: () => string): Question[] {
  const keys = new Map(questions.map(question => [question.key, newKey()]))
  const keyOf = (key: string) => keys.get(key) ?? key
  return questions.map(question => ({
    ...question,
    key: keyOf(question.key),
    ...(question.showIf ? { showIf: { ...question.showIf, key: keyOf(question.showIf.key) } } : {}),
  }))
}

export interface SetChanges {
  added: Question[]
  removed: Question[]
  /** As they are after the change. */
  changed: Question[]
  /** Whether those that stay are asked in another order. */
  reordered: boolean
}

/** What a changed set means for those who are asked. */
export function changesOfSet(before: readonly Question[], after: readonly Question[]): SetChanges {
  const earlier = new Map(before.map(question => [question.key, question]))
  const later = new Set(after.map(question => question.key))
  const staying = after.filter(question => earlier.has(question.key))
  return {
    added: after.filter(question => !earlier.has(question.key)),
    removed: before.filter(question => !later.has(question.key)),
    changed: staying.filter(question => JSON.stringify(sorted(question)) !== JSON.stringify(sorted(earlier.get(question.key)))),
    reordered: before.filter(question => later.has(question.key)).some((question, index) => question.key !== staying[index]?.key),
  }
}

/** A question's parts in the order of their names, so that equal ones are written alike. */
const sorted = (question: Question | undefined) => Object.entries(question ?? {}).sort(([a], [b]) => (a < b ? -1 : 1))
