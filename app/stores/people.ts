import { defineStore } from 'pinia'
import type { MemberRole, PeopleView } from '~~/core/views/desk'
import { problemOf } from '~/composables/problem'

/** Who belongs to the workspace, and what can be done about it. */
export const usePeople = defineStore('people', () => {
  const view = shallowRef<PeopleView | null>(null)
  const fault = ref('')

  async function load(): Promise<void> {
    try {
      view.value = await $fetch<PeopleView>('/api/desk/people')
    } catch (error) {
      fault.value = problemOf(error).message
    }
  }

  /** Does something at the server and shows what came of it; false where it did not go through. */
  async function act(work: () => Promise<unknown>): Promise<boolean> {
    fault.value = ''
    let isDone = false
    try {
      await work()
      isDone = true
    } catch (error) {
      fault.value = problemOf(error).message
    }
    await load()
    return isDone
  }

  const path = '/api/desk/people'
  const changeRole = (id: string, role: MemberRole) => act(() => $fetch(`${path}/members/${id}/role`, { method: 'POST', body: { role } }))
  const sendAgain = (id: string) => act(() => $fetch(`${path}/invitations/${id}/send`, { method: 'POST' }))
  const withdraw = (id: string) => act(() => $fetch(`${path}/invitations/${id}`, { method: 'DELETE' }))

  return { view, fault, load, changeRole, sendAgain, withdraw }
})
