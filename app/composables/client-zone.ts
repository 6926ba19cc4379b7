import { isZoneName } from '~~/core/time/zone'

/**
 * The zone a client reads times in: chosen by hand, else the browser's. The server knows it only from the cookie of an
 * earlier visit; a first visit is rendered in `preset` and turned to the browser's zone as soon as it is known.
 */
export function useClientZone(preset: string) {
  const remembered = useCookie<{ zone: string, byHand: boolean } | null>('zone', { maxAge: 60 * 60 * 24 * 365, sameSite: 'lax', path: '/' })
  const known = remembered.value && isZoneName(remembered.value.zone) ? remembered.value.zone : preset
  const zone = useState('zone', () => known)
  onMounted(() => {
    const browser = Intl.DateTimeFormat().resolvedOptions().timeZone
    if (!remembered.value?.byHand && isZoneName(browser)) set(browser, false)
  })
  function set(name: string, byHand: boolean): void {
    zone.value = name
    remembered.value = { zone: name, byHand }
  }
  return { zone, chooseZone: (name: string) => set(name, true) }
}
