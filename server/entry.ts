import '#nitro-internal-pollyfills'
import { createServer } from 'node:http'
import { toNodeListener } from 'h3'
import { useNitroApp } from 'nitropack/runtime'
import { setupGracefulShutdown, trapUnhandledNodeErrors } from 'nitropack/runtime/internal'
import { boundConnections } from './connections'
import { writeSafely } from './log'
import { listenSettings } from './settings'

/**
 * The way in for a production process, in place of the framework's own: nobody can hold connections open for long, nor
 * many of them. TLS ends at a proxy before it.
 */

writeSafely(console)
const settings = listenSettings(process.env)
const nitroApp = useNitroApp()
const server = createServer({ connectionsCheckingInterval: 2_000 }, toNodeListener(nitroApp.h3App))
boundConnections(server, settings)
server.on('error', (error) => {
  console.error(`Cannot listen on ${settings.host}:${settings.port}`, error)
  process.exit(1)
})
server.listen({ port: settings.port, host: settings.host }, () =>
  process.stdout.write(`Listening on http://${settings.host}:${settings.port}\n`),
)
trapUnhandledNodeErrors()
setupGracefulShutdown(server, nitroApp)

export default {}
