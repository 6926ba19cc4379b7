import { mkdtempSync } from 'node:fs'
import { join } from 'node:path'
import { parseArgs } from 'node:util'
import { closeContext, makeContext } from '../server/start'
import type { AppProcess } from './campaign/arena'
import { describeCampaign, prepare, runCampaign } from './campaign/run'
import { removeInstallation, startInstallation } from './run/installation'
import { freePort } from './run/ports'
import { log } from './run/report'
import { startApp } from './run/services'

/**
 * Bookings, cancellations, approvals and links by hand over two processes while the stand-ins misbehave and processes are
 * killed: `npm run campaign -- --seed 1 --bookings 500`. Exit status 1 where something does not hold in the end.
 */

const { values } = parseArgs({ options: { seed: { type: 'string' }, bookings: { type: 'string' }, kills: { type: 'string' } } })
const options = { seed: Number(values.seed ?? 1), bookings: Number(values.bookings ?? 500), kills: Number(values.kills ?? 20) }

const folder = mkdtempSync('/var/tmp/temporia-campaign-')
const unhurried = {
  BOOKINGS_PER_MINUTE: '100000', SIGN_INS_PER_QUARTER_HOUR: '1000000', TOKEN_GUESSES_PER_MINUTE: '1000000', READS_PER_MINUTE: '1000000',
  UNOPENED_MAILS_PER_HOUR: '100000', MAX_CONNECTIONS_PER_SOURCE: '1000', RETRY_PACE: '0.1', ROOM_WAIT_SECONDS: '3', VIDEO_TIMEOUT_SECONDS: '5',
  PAYMENT_REMINDER_SECONDS: '1',
}
const installation = await startInstallation(folder, { throwAway: true, firstPort: 5510, more: unhurried })
const context = await makeContext(installation.environment)
const { places, environment } = installation
const second = await freePort(5590, new Set())

/** A process on a port of its own that can be killed at any moment. */
async function start(name: string, port: number): Promise<AppProcess & { stop: () => Promise<void> }> {
  const launch = () => startApp({ folder: join(folder, name), appPort: port }, { ...environment, PORT: String(port) })
  let current = await launch()
  return {
    url: `http://127.0.0.1:${port}`,
    killAndRestart: async () => {
      await current.stop('SIGKILL')
      current = await launch()
    },
    stop: () => current.stop(),
  }
}

try {
  await installation.app().stop()
  const apps = [await start('.', places.appPort), await start('.', second)] as const
  const standIns = {
    lantern: `http://127.0.0.1:${places.lanternPort}`, quayside: `http://127.0.0.1:${places.quaysidePort}`, pigeonhole: `http://127.0.0.1:${places.pigeonholePort}`,
    tollgate: `http://127.0.0.1:${places.tollgatePort}`,
  }
  const workspace = await prepare(context, standIns)
  log(`Campaign of ${options.bookings} bookings and ${options.kills} kills, seed ${options.seed}`)
  const outcome = await runCampaign({ context, apps, standIns, workspace, logs: [join(folder, 'app.log')] }, options)
  process.stdout.write(`${describeCampaign(outcome)}\n`)
  process.exitCode = outcome.findings.length > 0 ? 1 : 0
  for (const app of apps) await app.stop()
} finally {
  await closeContext(context)
  await installation.stop()
  await removeInstallation(folder)
}
