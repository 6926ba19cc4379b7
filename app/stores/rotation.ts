import { defineStore } from 'pinia'
import type { EditedGroup } from '~~/core/event-type/groups'
import type { GroupEffect, GroupView, HandOverResult, HandOverView, RotationView } from '~~/core/views/rotation'
import { useCalls } from '~/composables/calls'

/** The workspace's groups and pools, and what can be done with them. */
export const useRotation = defineStore('rotation', () => {
  const view = shallowRef<RotationView | null>(null)
  const groups = shallowRef<GroupView[] | null>(null)
  const { fault, act } = useCalls()

  const path = '/api/desk/groups'
  const ask = (query: { days: number, page?: number, pool?: string }) => $fetch<RotationView>('/api/desk/rotation', { query })
  const load = (days: number) => act(async () => (view.value = await ask({ days })))
  const loadPool = (days: number, pool: string) => act(async () => (view.value = await ask({ days, pool })))
  /** The page after those that are shown, below them. */
  const loadMore = (page: number) => act(async () => {
    const before = view.value
    if (!before) return
    const next = await ask({ days: before.days, page })
    view.value = { ...next, pools: [...before.pools, ...next.pools] }
  })
  const loadGroups = () => act(async () => (groups.value = await $fetch<GroupView[]>(path)))
  const create = (group: EditedGroup) => act(() => $fetch<{ id: string }>(path, { method: 'POST', body: group }))
  const change = (id: string, basedOn: number, group: EditedGroup) =>
    act(() => $fetch<{ version: number }>(`${path}/${id}`, { method: 'POST', body: { basedOn, ...group } }))
  const remove = (id: string) => act(() => $fetch<{ deleted: boolean }>(`${path}/${id}`, { method: 'DELETE' }))
  const preview = (id: string, group: EditedGroup) =>
    act(() => $fetch<GroupEffect[]>(`${path}/${id}/preview`, { method: 'POST', body: group }))

  const seatsOf = (hostId: string) => act(() => $fetch<HandOverView>(`/api/desk/hosts/${hostId}/hand-over`))
  const handOver = (hostId: string, seats: { sessionId: string, to: string | null }[]) =>
    act(async () => (await $fetch<{ results: HandOverResult[] }>(`/api/desk/hosts/${hostId}/hand-over`, { method: 'POST', body: { seats } })).results)

  return { view, groups, fault, load, loadPool, loadMore, loadGroups, create, change, remove, preview, seatsOf, handOver }
})
