import type { Definition } from '~~/core/event-type/definition'
import { problemOf } from '~/composables/problem'

const QUIET_MS = 800
/** Where no answer came, it is tried again after this. */
const RETRY_MS = 5000
/** Characters of a request that may outlive its page: browsers refuse it for more than 64 kB. */
const MOST_KEPT_ALIVE = 20_000

/** Keeps a draft with the server whenever it has rested for a moment; says whether what is shown is kept. */
export function useKeptDraft(id: string) {
  const state = ref<'kept' | 'waiting' | 'failed'>('kept')
  let timer: ReturnType<typeof setTimeout> | undefined
  let pending: { basedOn: number, definition: Definition } | null = null
  /** What was asked last. Each request waits for it, or a late draft would come back after it was dropped or published. */
  let asked: Promise<void> = Promise.resolve()
  /** How often all was forgotten: what fails later is not taken up again. */
  let forgotten = 0

  async function put(): Promise<void> {
    const body = pending
    const before = forgotten
    pending = null
    if (!body) return
    try {
      await $fetch(`/api/desk/event-types/${id}/draft`, { method: 'PUT', body, keepalive: JSON.stringify(body).length < MOST_KEPT_ALIVE })
      if (!pending) state.value = 'kept'
    } catch (error) {
      if (before !== forgotten) return
      state.value = 'failed'
      pending ??= body
      if (problemOf(error).document === null) wait(RETRY_MS)
    }
  }

  function keep(basedOn: number, definition: Definition): void {
    pending = { basedOn, definition }
    state.value = 'waiting'
    wait(QUIET_MS)
  }

  function wait(milliseconds: number): void {
    clearTimeout(timer)
    timer = setTimeout(() => void send(), milliseconds)
  }

  /** Keeps at once what waits; resolves when nothing is under way any more. */
  function send(): Promise<void> {
    clearTimeout(timer)
    asked = asked.then(put)
    return asked
  }

  /** What waited is no longer to be kept: it has been published or dropped. */
  function forget(): void {
    clearTimeout(timer)
    forgotten++
    pending = null
    state.value = 'kept'
  }

  async function remove(): Promise<void> {
    await $fetch(`/api/desk/event-types/${id}/draft`, { method: 'DELETE' }).catch(() => undefined)
  }

  /** Forgets the draft, here and at the server. */
  function drop(): Promise<void> {
    forget()
    asked = asked.then(remove)
    return asked
  }

  const leave = () => void put()
  onMounted(() => window.addEventListener('pagehide', leave))
  onBeforeUnmount(() => {
    window.removeEventListener('pagehide', leave)
    void send()
  })
  return { state, keep, send, forget, drop }
}
