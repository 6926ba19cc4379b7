import { defineStore } from 'pinia'
import type { AccountView, CalendarChange } from '~~/core/views/calendars'
import type { Connections } from '~~/core/views/connections'
import { useCalls } from '~/composables/calls'

/** Hosts' calendars, and under whose accounts rooms are made. */
export const useConnections = defineStore('connections', () => {
  const connections = shallowRef<Connections | null>(null)
  const accounts = shallowRef<AccountView[]>([])
  const eventTypes = shallowRef<{ id: string, name: string }[]>([])
  /** Counts up with every change, for what is computed elsewhere from the same calendars. */
  const version = ref(0)
  const { fault, read, act } = useCalls(load)

  async function load(): Promise<void> {
    await read(async () => {
      const [found, calendars, names] = await Promise.all([
        $fetch<Connections>('/api/desk/connections'), $fetch<{ accounts: AccountView[] }>('/api/desk/calendar-accounts'),
        $fetch<{ id: string, name: string }[]>('/api/desk/event-types/names'),
      ])
      connections.value = found
      accounts.value = calendars.accounts
      eventTypes.value = names
      version.value++
    })
  }

  const disconnect = (accountId: string) => act(() => $fetch(`/api/desk/connections/${accountId}/disconnect`, { method: 'POST' }))
  const send = (method: 'POST' | 'PUT' | 'DELETE', path: string, body?: object) => act(() => $fetch<unknown>(path, { method, ...(body ? { body } : {}) }))
  const lookAtVideo = (accountId: string) => send('POST', `/api/desk/connections/${accountId}/look`)
  const accept = (service: string, sealed: string) => send('POST', `/api/desk/video-services/${service}/accept`, { sealed })
  const invite = (accountId: string, hostId: string) => send('PUT', `/api/desk/connections/${accountId}/users/${hostId}`)
  const withdraw = (accountId: string, hostId: string) => send('DELETE', `/api/desk/connections/${accountId}/users/${hostId}`)
  const ask = (hostId: string) => send('POST', `/api/desk/connections/hosts/${hostId}/ask`)
  const change = (calendarId: string, body: CalendarChange) => act(() => $fetch(`/api/desk/calendars/${calendarId}`, { method: 'PATCH', body }))
  const look = (accountId: string) => act(() => $fetch(`/api/desk/calendar-accounts/${accountId}/look`, { method: 'POST' }))
  const disconnectCalendars = (accountId: string) => act(() => $fetch(`/api/desk/calendar-accounts/${accountId}`, { method: 'DELETE' }))

  return {
    connections, accounts, eventTypes, version, fault, load,
    disconnect, lookAtVideo, accept, invite, withdraw, ask,
    change, look, disconnectCalendars,
  }
})
