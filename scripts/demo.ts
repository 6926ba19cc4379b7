import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { PASSWORD, people, workspace } from '../demo/people'
import { removeInstallation, startInstallation } from './run/installation'
import { commandOf } from './run/processes'
import { log } from './run/report'

/** Runs the demo until Ctrl-C. `--fresh` starts over; `--dev` serves from the sources. TEMPORIA_FOLDER keeps it elsewhere than in .data. */

const FOLDER = process.env['TEMPORIA_FOLDER'] ?? '.data'
const MARK = `${FOLDER}/running.json`

interface Running {
  pid: number
  /** The addresses and the sign-in, once it serves. */
  pages?: string
}

const running: Running | null = existsSync(MARK) ? JSON.parse(readFileSync(MARK, 'utf8')) : null
if (running && commandOf(running.pid).includes('scripts/demo.ts')) {
  log(
    running.pages
      ? `Temporia already runs here (process ${running.pid}):`
      : `Temporia is already being started here by process ${running.pid}; its terminal says when it serves`,
  )
  process.stdout.write(running.pages ?? '')
  process.exit(0)
}

if (process.argv.includes('--fresh')) {
  log('Starting over: the demo’s data is removed')
  await removeInstallation(FOLDER)
}
mkdirSync(FOLDER, { recursive: true })
mark({ pid: process.pid })

function mark(state: Running): void {
  writeFileSync(MARK, JSON.stringify(state))
}

let stopping = false
const parent = process.ppid
const installation = startInstallation(FOLDER, { dev: process.argv.includes('--dev'), supervised: true })

async function stop(reason: string): Promise<void> {
  if (stopping) return
  stopping = true
  log(`${reason}: stopping`)
  await installation.then(item => item.stop(), () => {})
  rmSync(MARK, { force: true })
  log('Stopped')
  process.exit(0)
}
process.on('SIGINT', () => void stop('Ctrl-C'))
process.on('SIGTERM', () => void stop('Asked to end'))
process.on('SIGHUP', () => void stop('The terminal is gone'))
// Whoever started this was killed: end as well, so that nothing is left behind.
setInterval(() => process.ppid !== parent && void stop('The command that started this is gone'), 1000).unref()

try {
  const { places } = await installation
  const app = `http://127.0.0.1:${places.appPort}`
  const pages = [
    `  Clients book at     ${app}/${workspace.slug}`,
    `  Members sign in at  ${app}/desk`,
    `      as  ${people[0]?.email}`,
    `      with the password  ${PASSWORD}`,
    `  Caught mail         http://127.0.0.1:${places.pigeonholePort}`,
    `  Lantern Rooms       http://127.0.0.1:${places.lanternPort}`,
    `  Quayside Video      http://127.0.0.1:${places.quaysidePort}`,
    `  Tollgate            http://127.0.0.1:${places.tollgatePort}`,
    `  Copperplate         http://127.0.0.1:${places.copperplatePort}`,
    '',
  ].join('\n')
  mark({ pid: process.pid, pages })
  log('Temporia is serving. Ctrl-C stops it.')
  process.stdout.write(pages)
} catch (error) {
  rmSync(MARK, { force: true })
  log(error instanceof Error ? error.message : String(error))
  process.exit(1)
}
