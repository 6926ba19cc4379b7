import { defineStore } from 'pinia'
import { problemOf } from '~/composables/problem'
import { useNotice } from './notice'

interface Decision {
  /** The call that carries it out. */
  path: string
  body?: Record<string, unknown>
  /** What was decided, for the notice. */
  text: string
  /** Shows what came of it. */
  after: () => Promise<void>
}

/**
 * Decisions about bookings that can be taken back: they are sent after a moment, since their mails cannot be called back.
 * Whatever ends the page sends what waits at once.
 */
export const useDecisions = defineStore('decisions', () => {
  const WAIT_MS = 8000
  const notice = useNotice()
  /** Bookings that are decided about here and not yet at the server. */
  const pending = ref<ReadonlySet<string>>(new Set())
  const failed = ref('')
  const waiting = new Map<string, { timer: ReturnType<typeof setTimeout>, send: (isLast: boolean) => Promise<void> }>()

  function decide(bookingId: string, decision: Decision): void {
    failed.value = ''
    const send = async (isLast: boolean): Promise<void> => {
      waiting.delete(bookingId)
      try {
        await $fetch(decision.path, { method: 'POST', body: decision.body ?? {}, keepalive: isLast })
      } catch (error) {
        failed.value = problemOf(error).message
      }
      await decision.after()
      forget(bookingId)
    }
    pending.value = new Set([...pending.value, bookingId])
    waiting.set(bookingId, { send, timer: setTimeout(() => void send(false), WAIT_MS) })
    notice.show(decision.text, async () => {
      clearTimeout(waiting.get(bookingId)?.timer)
      waiting.delete(bookingId)
      forget(bookingId)
    })
  }

  function forget(bookingId: string): void {
    pending.value = new Set([...pending.value].filter(id => id !== bookingId))
  }

  /** Sends all that waits. */
  async function sendNow(isLast = false): Promise<void> {
    await Promise.all([...waiting.values()].map(({ timer, send }) => {
      clearTimeout(timer)
      return send(isLast)
    }))
  }

  if (import.meta.client) window.addEventListener('pagehide', () => void sendNow(true))

  return { pending, failed, decide, sendNow }
})
