import { defineStore } from 'pinia'
import type { Connections } from '~~/core/views/desk'
import { problemOf } from '~/composables/problem'

/** Under whose accounts rooms are made. */
export const useConnections = defineStore('connections', () => {
  const connections = shallowRef<Connections | null>(null)
  const fault = ref('')

  async function load(): Promise<void> {
    try {
      connections.value = await $fetch<Connections>('/api/desk/connections')
    } catch (error) {
      fault.value = problemOf(error).message
    }
  }

  async function disconnect(accountId: string): Promise<void> {
    fault.value = ''
    try {
      await $fetch(`/api/desk/connections/${accountId}/disconnect`, { method: 'POST' })
    } catch (error) {
      fault.value = problemOf(error).message
    }
    await load()
  }

  return { connections, fault, load, disconnect }
})
