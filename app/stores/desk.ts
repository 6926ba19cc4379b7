import { defineStore } from 'pinia'
import { type ClockFace, englishLocale, hasTwelveHours, withClock } from '~~/core/time/format'
import { isZoneName } from '~~/core/time/zone'
import type { SignedIn } from '~~/core/views/desk'

const ZONE_KEY = 'temporia desk zone'

/** Who is signed in, and the zone and locale the whole desk shows times in. */
export const useDesk = defineStore('desk', () => {
  const member = ref<SignedIn | null>(null)
  const zone = ref('UTC')
  const browserLocale = englishLocale(import.meta.client ? navigator.language : undefined)
  /** Writes times on the clock that the member has chosen, else on their browser's. */
  const locale = computed(() => withClock(browserLocale, member.value?.clock ?? null))
  const clock = computed<ClockFace>(() => (hasTwelveHours(locale.value) ? '12' : '24'))
  const now = ref(Math.floor(Date.now() / 1000))
  const mayChangeEventTypes = computed(() => member.value?.role !== 'host')

  function signIn(signedIn: SignedIn): void {
    member.value = signedIn
    const saved = localStorage.getItem(ZONE_KEY)
    zone.value = saved && isZoneName(saved) ? saved : signedIn.timeZone
  }

  async function load(): Promise<boolean> {
    try {
      signIn(await $fetch<SignedIn>('/api/desk/me'))
      return true
    } catch {
      return false
    }
  }

  function chooseZone(name: string): void {
    zone.value = name
    if (name === member.value?.timeZone) localStorage.removeItem(ZONE_KEY)
    else localStorage.setItem(ZONE_KEY, name)
  }

  /** Saves the member's own zone and clock. */
  async function savePreferences(preferences: { timeZone: string, clock: ClockFace, phone?: string | null }): Promise<void> {
    member.value = await $fetch<SignedIn>('/api/desk/me', { method: 'PUT', body: preferences })
    chooseZone(preferences.timeZone)
  }

  async function signOut(): Promise<void> {
    await $fetch('/api/desk/sign-out', { method: 'POST' })
    member.value = null
  }

  function tick(): void {
    now.value = Math.floor(Date.now() / 1000)
  }

  return { member, zone, locale, clock, now, mayChangeEventTypes, signIn, load, chooseZone, savePreferences, signOut, tick }
})
