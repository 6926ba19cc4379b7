import { defineStore } from 'pinia'
import { type EditedSet, rekeyQuestions } from '~~/core/intake/question-sets'
import type { Question } from '~~/core/intake'
import type { QuestionSetView } from '~~/core/views/event-types'
import { useCalls } from '~/composables/calls'

/** A key that no other question has, whichever event types ask it. */
export const sharedKey = () => `shared${crypto.randomUUID().slice(0, 8)}`

/** An event type's own questions as a set. */
export function shareQuestions(name: string, questions: readonly Question[]): EditedSet {
  return { name, questions: rekeyQuestions(questions, sharedKey) }
}

/** The workspace's sets of shared questions, and what can be done with one. */
export const useQuestionSets = defineStore('question sets', () => {
  const rows = shallowRef<QuestionSetView[] | null>(null)
  const { fault, act } = useCalls()

  const path = '/api/desk/question-sets'
  const load = () => act(async () => (rows.value = await $fetch<QuestionSetView[]>(path)))
  const create = (set: EditedSet) => act(() => $fetch<{ id: string }>(path, { method: 'POST', body: set }))
  const change = (id: string, basedOn: number, set: EditedSet) =>
    act(() => $fetch<{ version: number }>(`${path}/${id}`, { method: 'POST', body: { basedOn, ...set } }))
  const remove = (id: string) => act(() => $fetch<{ deleted: boolean }>(`${path}/${id}`, { method: 'DELETE' }))

  return { rows, fault, load, create, change, remove }
})
