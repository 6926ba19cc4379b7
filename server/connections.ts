import type { Server } from 'node:http'
import { type Network, isWithin, sourceOf } from './networks'

/** Limits on connections, below anything that a route sees. Milliseconds. */

const HEADERS_TIMEOUT = 10_000
/** For a whole request, its body included. */
const REQUEST_TIMEOUT = 20_000
const KEEP_ALIVE_TIMEOUT = 10_000
/** Without any traffic. */
const IDLE_TIMEOUT = 60_000
const MOST_REQUESTS_PER_CONNECTION = 10_000

export interface ConnectionLimits {
  connections: number
  connectionsPerSource: number
  /** Proxies stand for many sources, so only the total holds for them. */
  trustedProxies: readonly Network[]
}

export function boundConnections(server: Server, limits: ConnectionLimits): void {
  server.headersTimeout = HEADERS_TIMEOUT
  server.requestTimeout = REQUEST_TIMEOUT
  server.keepAliveTimeout = KEEP_ALIVE_TIMEOUT
  server.timeout = IDLE_TIMEOUT
  server.maxRequestsPerSocket = MOST_REQUESTS_PER_CONNECTION
  server.maxConnections = limits.connections
  const open = new Map<string, number>()
  server.on('connection', (socket) => {
    const address = socket.remoteAddress
    if (!address || isWithin(address, limits.trustedProxies)) return
    const source = sourceOf(address)
    const count = (open.get(source) ?? 0) + 1
    if (count > limits.connectionsPerSource) {
      socket.destroy()
      return
    }
    open.set(source, count)
    socket.once('close', () => {
      const left = (open.get(source) ?? 1) - 1
      if (left > 0) open.set(source, left)
      else open.delete(source)
    })
  })
}
