import type { Definition } from '~~/core/event-type/definition'
import { problemOf } from '~/composables/problem'

const QUIET_MS = 800
/** Where no answer came, it is tried again after this. */
const RETRY_MS = 5000
/** Characters of a request that may outlive its page: browsers refuse it for more than 64 kB. */
const KEEPALIVE_LIMIT = 20_000

/** Saves a draft on the server once typing pauses; `state` says whether what is shown has been saved. */
export function useSavedDraft(id: string) {
  const state = ref<'saved' | 'waiting' | 'failed'>('saved')
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
      await $fetch(`/api/desk/event-types/${id}/draft`, { method: 'PUT', body, keepalive: JSON.stringify(body).length < KEEPALIVE_LIMIT })
      if (!pending) state.value = 'saved'
    } catch (error) {
      if (before !== forgotten) return
      state.value = 'failed'
      pending ??= body
      if (problemOf(error).document === null) wait(RETRY_MS)
    }
  }

  function save(basedOn: number, definition: Definition): void {
    pending = { basedOn, definition }
    state.value = 'waiting'
    wait(QUIET_MS)
  }

  function wait(milliseconds: number): void {
    clearTimeout(timer)
    timer = setTimeout(() => void send(), milliseconds)
  }

  /** Saves at once what is pending; resolves when no request is under way. */
  function send(): Promise<void> {
    clearTimeout(timer)
    asked = asked.then(put)
    return asked
  }

  /** Drops what is pending: it has been published or discarded. */
  function forget(): void {
    clearTimeout(timer)
    forgotten++
    pending = null
    state.value = 'saved'
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
  return { state, save, send, forget, drop }
}
