import { defineStore } from 'pinia'
import type { TodayAnswer, TodayView } from '~~/core/views/desk'
import { problemOf } from '~/composables/problem'
import { useDesk } from './desk'

/** A day of sessions, what waits for a person and what comes next, kept up to date while it is looked at. */
export const useToday = defineStore('today', () => {
  const desk = useDesk()
  const view = shallowRef<TodayView | null>(null)
  const fault = ref('')
  /** `YYYY-MM-DD`, or null for today. */
  const date = ref<string | null>(null)
  let known: { revision: string, about: string, at: number } | null = null

  /** What is not told by a change, such as a session that ends, is asked for anew now and then. Seconds. */
  const HOLDS = 300

  /** Asks whether anything has changed, and for the whole only where something has. */
  async function load(): Promise<void> {
    const about = `${date.value} ${desk.zone} ${desk.member?.memberId}`
    const isKnown = known?.about === about && desk.now - known.at < HOLDS && !hasMovedOn()
    try {
      const answer = await $fetch<TodayAnswer>('/api/desk/today', {
        query: {
          timeZone: desk.zone,
          ...(date.value === null ? {} : { date: date.value }),
          ...(isKnown && known ? { revision: known.revision } : {}),
        },
      })
      if (about !== `${date.value} ${desk.zone} ${desk.member?.memberId}`) return
      fault.value = ''
      if (!answer.view) return
      known = { revision: answer.revision, about, at: desk.now }
      view.value = answer.view
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
