import { defineStore } from 'pinia'
import { englishLocale } from '~~/core/time/format'
import { isZoneName } from '~~/core/time/zone'
import type { SignedIn } from '~~/core/views/desk'

const ZONE_KEY = 'temporia desk zone'

/** Who is signed in, and the zone and locale the whole desk shows times in. */
export const useDesk = defineStore('desk', () => {
  const member = ref<SignedIn | null>(null)
  const zone = ref('UTC')
  const locale = englishLocale(import.meta.client ? navigator.language : undefined)
  const now = ref(Math.floor(Date.now() / 1000))

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

  async function signOut(): Promise<void> {
    await $fetch('/api/desk/sign-out', { method: 'POST' })
    member.value = null
  }

  function tick(): void {
    now.value = Math.floor(Date.now() / 1000)
  }

  return { member, zone, locale, now, signIn, load, chooseZone, signOut, tick }
})
