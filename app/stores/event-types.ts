import { defineStore } from 'pinia'
import type { Shape } from '~~/core/event-type/shapes'
import type { EventTypeRow } from '~~/core/views/event-types'
import { useCalls } from '~/composables/calls'
import { useDesk } from './desk'

/** The workspace's event types in their order, and what can be done with one. */
export const useEventTypes = defineStore('event types', () => {
  const rows = shallowRef<EventTypeRow[] | null>(null)
  const desk = useDesk()
  const { fault, read, act } = useCalls(load)

  async function load(): Promise<void> {
    await read(async () => (rows.value = await $fetch<EventTypeRow[]>('/api/desk/event-types', { query: { clock: desk.clock } })))
  }

  const pathOf = (id: string) => `/api/desk/event-types/${id}`
  const create = (name: string, shape: Shape) =>
    act(() => $fetch<{ id: string }>('/api/desk/event-types', { method: 'POST', body: { name, shape } }))
  const duplicate = (id: string) => act(() => $fetch<{ id: string }>(`${pathOf(id)}/duplicate`, { method: 'POST' }))
  const archive = (id: string, archived: boolean) =>
    act(() => $fetch<{ archived: boolean }>(`${pathOf(id)}/archive`, { method: 'POST', body: { archived } }))
  const setState = (id: string, state: 'open' | 'closed') =>
    act(() => $fetch<{ state: string }>(`${pathOf(id)}/state`, { method: 'POST', body: { state } }))
  const remove = (id: string) => act(() => $fetch<{ deleted: boolean }>(pathOf(id), { method: 'DELETE' }))

  /** Puts them into an order at once; those that the order leaves out stay where they are. */
  async function reorder(order: readonly EventTypeRow[]): Promise<void> {
    const next = order.values()
    rows.value = (rows.value ?? []).map(row => (order.includes(row) ? next.next().value ?? row : row))
    const ids = rows.value.map(row => row.id)
    await act(() => $fetch<{ ids: string[] }>('/api/desk/event-types/order', { method: 'POST', body: { ids } }))
  }

  return { rows, fault, load, create, duplicate, archive, setState, remove, reorder }
})
