/** What the framework offers to its own ways in, without types. */
declare module 'nitropack/runtime/internal' {
  import type { Server } from 'node:http'
  import type { NitroApp } from 'nitropack'

  export function trapUnhandledNodeErrors(): void
  export function setupGracefulShutdown(server: Server, nitroApp: NitroApp): void
}

declare module '#nitro-internal-pollyfills' {}

/** The program of the thread that reads calendars, as text (nuxt.config.ts). */
declare module '#calendar-thread' {
  const program: string
  export default program
}
