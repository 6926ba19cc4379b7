import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import type { TestProject } from 'vitest/node'
import { type Installation, startInstallation } from '../../scripts/run/installation'

/** One throw-away installation with the demo workspace for all system tests. */

declare module 'vitest' {
  interface ProvidedContext {
    app: string
    lantern: string
    copperplate: string
    quayside: string
    tollgate: string
    pigeonhole: string
    folder: string
    environment: Record<string, string>
    serverPort: number
    databaseUrl: string
    serverPid: number
  }
}

/** Projects run beside each other, far enough apart never to want the same port at the same moment. */
const firstPorts: Record<string, number> = { screens: 4910, failures: 5110 }

/** Tests ask more often in a minute than the limits meant for strangers allow. */
const UNHURRIED = {
  BOOKINGS_PER_MINUTE: '100000',
  SIGN_INS_PER_QUARTER_HOUR: '1000000',
  TOKEN_GUESSES_PER_MINUTE: '1000000',
  READS_PER_MINUTE: '1000000',
  UNOPENED_MAILS_PER_HOUR: '1000',
  MAX_CONNECTIONS_PER_SOURCE: '1000',
  PAYMENT_REMINDER_SECONDS: '1',
}

export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  // Where the server's own user can reach it, whatever the checkout's permissions.
  const folder = mkdtempSync(join('/var/tmp', 'temporia-test-'))
  chmodSync(folder, 0o755)
  const installation: Installation = await startInstallation(folder, {
    throwAway: true,
    more: UNHURRIED,
    ...(firstPorts[project.name] ? { firstPort: firstPorts[project.name] } : {}),
  })
  const { places } = installation
  project.provide('app', `http://127.0.0.1:${places.appPort}`)
  project.provide('lantern', `http://127.0.0.1:${places.lanternPort}`)
  project.provide('copperplate', `http://127.0.0.1:${places.copperplatePort}`)
  project.provide('quayside', `http://127.0.0.1:${places.quaysidePort}`)
  project.provide('tollgate', `http://127.0.0.1:${places.tollgatePort}`)
  project.provide('pigeonhole', `http://127.0.0.1:${places.pigeonholePort}`)
  project.provide('folder', folder)
  project.provide('environment', installation.environment)
  project.provide('serverPort', places.appPort)
  project.provide('databaseUrl', installation.databaseUrl)
  project.provide('serverPid', installation.app().child.pid ?? 0)
  return async () => {
    await installation.stop()
    rmSync(folder, { recursive: true, force: true })
  }
}
