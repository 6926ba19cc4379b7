import { defineStore } from 'pinia'
import type { TodayView } from '~~/core/views/desk'
import { problemOf } from '~/composables/problem'
import { useDesk } from './desk'

/** A day of sessions, what waits for a person and what comes next, kept up to date while it is looked at. */
export const useToday = defineStore('today', () => {
  const desk = useDesk()
  const view = shallowRef<TodayView | null>(null)
  const fault = ref('')
  /** `YYYY-MM-DD`, or null for today. */
  const date = ref<string | null>(null)
  let known: { tag: string, about: string, at: number } | null = null

  /** What no change announces, such as a session that ends, is asked for anew now and then. Seconds. */
  const HOLDS = 300

  /** Asks whether anything has changed; the whole is sent only where something has. */
  async function load(): Promise<void> {
    const about = () => `${date.value} ${desk.zone} ${desk.member?.memberId}`
    const asked = about()
    const tag = known?.about === asked && desk.now - known.at < HOLDS && !hasMovedOn() ? known.tag : null
    try {
      const answer = await $fetch.raw<TodayView>('/api/desk/today', {
        query: { timeZone: desk.zone, ...(date.value === null ? {} : { date: date.value }) },
        // The browser's own cache would answer a 304 with what it has.
        cache: 'no-store',
        headers: tag === null ? {} : { 'if-none-match': tag },
      })
      if (asked !== about()) return
      fault.value = ''
      if (answer.status === 304 || !answer._data) return
      known = { tag: answer.headers.get('etag') ?? '', about: asked, at: desk.now }
      view.value = answer._data
    } catch (error) {
      fault.value = problemOf(error).message
    }
  }

  /** The next session is over, so another one is next. */
  function hasMovedOn(): boolean {
    return view.value?.next !== null && view.value?.next !== undefined && view.value.next.end <= desk.now
  }

  async function show(day: string | null): Promise<void> {
    date.value = day
    await load()
  }

  return { view, fault, load, show }
})
