import pg from 'pg'

/** Word of sessions that changed, whichever process changed them, for pages that are open just now. */
export interface SessionChanges {
  /** Calls back on each change of a session; gives the way to stop that, or null where too many listen already. */
  subscribe: (sessionId: string, listener: () => void, ended: () => void) => (() => void) | null
  close: () => Promise<void>
}

const MOST_LISTENERS = 500
const RECONNECT_MS = 1000

interface Subscription {
  listener: () => void
  ended: () => void
}

/** Listens on a connection of its own, from the first subscription on. */
export function listenToSessions(databaseUrl: string): SessionChanges {
  const subscriptions = new Map<string, Set<Subscription>>()
  let client: pg.Client | null = null
  let isClosed = false
  let count = 0

  function connect(): void {
    if (client || isClosed) return
    const current = new pg.Client({ connectionString: databaseUrl, keepAlive: true })
    client = current
    const lost = () => {
      if (client !== current) return
      client = null
      current.end().catch(() => {})
      if (count > 0) setTimeout(connect, RECONNECT_MS).unref()
    }
    current.on('error', lost)
    current.on('end', lost)
    current.on('notification', ({ payload }) => subscriptions.get(payload ?? '')?.forEach(({ listener }) => listener()))
    current.connect().then(() => current.query('listen session_changed')).then(() => {
      // What changed before may have gone unheard.
      for (const all of subscriptions.values()) all.forEach(({ listener }) => listener())
    }).catch(lost)
  }

  return {
    subscribe(sessionId, listener, ended) {
      if (count >= MOST_LISTENERS || isClosed) return null
      const subscription = { listener, ended }
      const all = subscriptions.get(sessionId) ?? new Set()
      subscriptions.set(sessionId, all.add(subscription))
      count += 1
      connect()
      return () => {
        if (!all.delete(subscription)) return
        count -= 1
        if (all.size === 0) subscriptions.delete(sessionId)
      }
    },
    async close() {
      isClosed = true
      for (const all of [...subscriptions.values()]) [...all].forEach(({ ended }) => ended())
      const last = client
      client = null
      await last?.end().catch(() => {})
    },
  }
}
