import { defineStore } from 'pinia'
import type { Connections } from '~~/core/views/desk'
import { useCalls } from '~/composables/calls'

/** Under whose accounts rooms are made. */
export const useConnections = defineStore('connections', () => {
  const connections = shallowRef<Connections | null>(null)
  const { fault, read, act } = useCalls(load)

  async function load(): Promise<void> {
    await read(async () => (connections.value = await $fetch<Connections>('/api/desk/connections')))
  }

  const disconnect = (accountId: string) => act(() => $fetch(`/api/desk/connections/${accountId}/disconnect`, { method: 'POST' }))

  return { connections, fault, load, disconnect }
})
