const POLL_SECONDS = 3
const MOST_POLLS = 100

/**
 * Calls `changed` whenever a client's session changes, for as long as the page waits for something, and when somebody comes
 * back to the page. `path` is the booking's in the interface.
 */
export function useSessionChanges(path: string, waits: () => boolean, changed: () => void): void {
  onMounted(() => {
    let stop = () => {}
    watch(waits, (isWaiting) => {
      stop()
      stop = isWaiting ? listen(path, changed) : () => {}
    }, { immediate: true })
    // Whoever comes back to the page sees what has changed meanwhile.
    const lookAgain = () => {
      if (document.visibilityState === 'visible') changed()
    }
    document.addEventListener('visibilitychange', lookAgain)
    onBeforeUnmount(() => {
      stop()
      document.removeEventListener('visibilitychange', lookAgain)
    })
  })
}

/** Hears of changes until it is stopped. Where nothing may be listened to, the page asks now and then. */
function listen(path: string, changed: () => void): () => void {
  const changes = new EventSource(`${path}/events`)
  changes.onmessage = () => changed()
  let polls = 0
  const timer = setInterval(() => {
    if (changes.readyState === EventSource.CLOSED && polls++ < MOST_POLLS) changed()
  }, POLL_SECONDS * 1000)
  return () => {
    changes.close()
    clearInterval(timer)
  }
}
