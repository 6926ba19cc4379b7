import { defineStore } from 'pinia'
import type { MemberRole, PeopleView } from '~~/core/views/desk'
import { useCalls } from '~/composables/calls'

/** Who belongs to the workspace, and what can be done about it. */
export const usePeople = defineStore('people', () => {
  const view = shallowRef<PeopleView | null>(null)
  const { fault, read, act } = useCalls(load)
  /** Everybody who can sit in sessions, by name. */
  const hosts = computed(() => (view.value?.people ?? []).flatMap(({ name, host }) => (host ? [{ id: host.id, name }] : [])))

  async function load(): Promise<void> {
    await read(async () => (view.value = await $fetch<PeopleView>('/api/desk/people')))
  }

  const path = '/api/desk/people'
  const changeRole = (id: string, role: MemberRole) => act(() => $fetch(`${path}/members/${id}/role`, { method: 'POST', body: { role } }))
  const sendAgain = (id: string) => act(() => $fetch(`${path}/invitations/${id}/send`, { method: 'POST' }))
  const withdraw = (id: string) => act(() => $fetch(`${path}/invitations/${id}`, { method: 'DELETE' }))

  const removeMember = (id: string) => act(() => $fetch<{ closed: string[] }>(`${path}/members/${id}`, { method: 'DELETE' }))
  const removeHost = (id: string) => act(() => $fetch<{ closed: string[] }>(`${path}/hosts/${id}`, { method: 'DELETE' }))

  return { view, hosts, fault, load, changeRole, sendAgain, withdraw, removeMember, removeHost }
})
