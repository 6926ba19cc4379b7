import { createServer, type Server } from 'node:http'
import { type App, type H3Event, readRawBody, setResponseHeader, toNodeListener } from 'h3'

/** Listens on the loopback address only. Rejects when the port is taken. */
export function listen(app: App, port: number): Promise<Server> {
  const server = createServer(toNodeListener(app))
  return new Promise((resolve, reject) => {
    server.once('error', reject)
    server.listen(port, '127.0.0.1', () => resolve(server))
  })
}

export function sendPage(event: H3Event, text: string): string {
  setResponseHeader(event, 'content-type', 'text/html; charset=utf-8')
  setResponseHeader(event, 'cache-control', 'no-store')
  return text
}

/** A body from a form or from JSON as plain members. */
export async function readMembers(event: H3Event): Promise<Record<string, unknown>> {
  const text = (await readRawBody(event)) ?? ''
  if (String(event.node.req.headers['content-type'] ?? '').includes('application/json')) {
    const value: unknown = JSON.parse(text || '{}')
    return typeof value === 'object' && value !== null ? { ...value } : {}
  }
  return Object.fromEntries(new URLSearchParams(text))
}
