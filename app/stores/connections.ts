import { defineStore } from 'pinia'
import type { AccountView, CalendarChange } from '~~/core/views/calendars'
import type { Connections } from '~~/core/views/desk'
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
  const change = (calendarId: string, body: CalendarChange) => act(() => $fetch(`/api/desk/calendars/${calendarId}`, { method: 'PATCH', body }))
  const look = (accountId: string) => act(() => $fetch(`/api/desk/calendar-accounts/${accountId}/look`, { method: 'POST' }))
  const disconnectCalendars = (accountId: string) => act(() => $fetch(`/api/desk/calendar-accounts/${accountId}`, { method: 'DELETE' }))

  return { connections, accounts, eventTypes, version, fault, load, disconnect, change, look, disconnectCalendars }
})
