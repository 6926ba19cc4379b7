import type { Definition } from '~~/core/event-type/definition'

const QUIET_MS = 800

/** Keeps a draft with the server whenever it has rested for a moment; says whether what is shown is kept. */
export function useKeptDraft(id: string) {
  const state = ref<'kept' | 'waiting' | 'failed'>('kept')
  let timer: ReturnType<typeof setTimeout> | undefined
  let pending: { basedOn: number, definition: Definition } | null = null

  async function send(): Promise<void> {
    clearTimeout(timer)
    const body = pending
    pending = null
    if (!body) return
    try {
      await $fetch(`/api/desk/event-types/${id}/draft`, { method: 'PUT', body, keepalive: true })
      if (!pending) state.value = 'kept'
    } catch {
      state.value = 'failed'
      pending ??= body
    }
  }

  function keep(basedOn: number, definition: Definition): void {
    pending = { basedOn, definition }
    state.value = 'waiting'
    clearTimeout(timer)
    timer = setTimeout(() => void send(), QUIET_MS)
  }

  /** Forgets the draft, here and at the server. */
  async function drop(): Promise<void> {
    clearTimeout(timer)
    pending = null
    state.value = 'kept'
    await $fetch(`/api/desk/event-types/${id}/draft`, { method: 'DELETE' }).catch(() => undefined)
  }

  /** What still waited is no longer to be kept: it has been published. */
  function forget(): void {
    clearTimeout(timer)
    pending = null
    state.value = 'kept'
  }

  const leave = () => void send()
  onMounted(() => window.addEventListener('pagehide', leave))
  onBeforeUnmount(() => {
    window.removeEventListener('pagehide', leave)
    leave()
  })
  return { state, keep, drop, forget }
}
