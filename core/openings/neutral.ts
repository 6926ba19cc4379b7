import type { OpeningsQuery } from './schema'

/**
 * A query with neutral names for everybody and everything in it, so that it can be handed to others. The answer stays
 * the same but for the names.
 */
export function neutralCase(query: OpeningsQuery): OpeningsQuery {
  const hosts = numbered('host', query.hosts.map(host => host.id))
  const chairs = numbered('chair', query.eventType.chairs.map(chair => chair.id))
  const sessions = numbered('session', query.hosts.flatMap(host => host.sessions).map(session => session.id))
  return {
    ...query,
    eventType: {
      ...query.eventType,
      chairs: query.eventType.chairs.map(chair => ({ id: chairs(chair.id), hosts: chair.hosts.map(hosts) })),
    },
    hosts: query.hosts.map(host => ({
      ...host,
      id: hosts(host.id),
      sessions: host.sessions.map(session => ({ ...session, id: sessions(session.id) })),
    })),
    openedOver: query.openedOver.map(entry => ({ ...entry, hosts: entry.hosts.map(hosts) })),
  }
}

/** Names such as `host-03`, in the order of the names they stand for: what is decided by order of ids stays so. */
function numbered(kind: string, ids: readonly string[]): (id: string) => string {
  const order = [...new Set(ids)].sort()
  const width = String(order.length).length
  const names = new Map(order.map((id, index) => [id, `${kind}-${String(index + 1).padStart(width, '0')}`]))
  return id => names.get(id) ?? id
}
