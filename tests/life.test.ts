import { type ChildProcess, spawn } from 'node:child_process'
import { once } from 'node:events'
import { chmodSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, expect, it } from 'vitest'
import { answers, commandOf, isAlive, until } from '../scripts/run/processes'

/** The demo as somebody starts and stops it, in a folder of its own. */
const folder = mkdtempSync('/var/tmp/temporia-life-')
// The database's own user has to get in.
chmodSync(folder, 0o755)
const started: ChildProcess[] = []

afterAll(async () => {
  const running = started.filter(child => child.exitCode === null && child.signalCode === null)
  await Promise.all(running.map(child => child.kill('SIGTERM') && once(child, 'close')))
  rmSync(folder, { recursive: true, force: true })
})

function start(): { child: ChildProcess, words: () => string, ended: Promise<number | null> } {
  const child = spawn(process.execPath, ['--import', 'tsx', 'scripts/demo.ts'], {
    env: { ...process.env, TEMPORIA_FOLDER: folder },
    stdio: ['ignore', 'pipe', 'pipe'],
  })
  started.push(child)
  let words = ''
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk: Buffer) => (words += chunk.toString()))
  return { child, words: () => words, ended: new Promise(resolve => child.on('close', resolve)) }
}

async function serving(words: () => string): Promise<string> {
  await until(() => words().includes('Temporia is serving'), 120, `The demo does not serve:\n${words()}`)
  return /(http:\/\/127\.0\.0\.1:\d+)\/fernhollow/.exec(words())?.[1] ?? ''
}

/** The process that listens on the application's port, by its environment. */
function applicationProcess(): number {
  const port = JSON.parse(readFileSync(join(folder, 'ports.json'), 'utf8')).appPort
  const found = readdirSync('/proc').filter(pid => /^\d+$/.test(pid)).find((pid) => {
    try {
      return (
        readFileSync(`/proc/${pid}/environ`, 'utf8').split('\0').includes(`PORT=${port}`)
        && commandOf(Number(pid)).includes('.output/server')
      )
    } catch {
      return false
    }
  })
  return Number(found)
}

function databaseProcess(): number {
  return Number(readFileSync(join(folder, 'postgres/postmaster.pid'), 'utf8').split('\n')[0])
}

it('serves once, says so to whoever starts it again, survives a kill, and leaves nothing behind', async () => {
  const first = start()
  await until(() => existsSync(join(folder, 'running.json')), 60, 'Nothing is said of the start')
  const early = start()
  expect(await early.ended).toBe(0)
  expect(early.words()).toContain('already being started here')

  const app = await serving(first.words)
  const again = start()
  expect(await again.ended).toBe(0)
  expect(again.words()).toContain(`already runs here (process ${first.child.pid})`)
  expect(again.words()).toContain(`${app}/desk`)

  process.kill(applicationProcess(), 'SIGKILL')
  await until(
    () => first.words().includes('The application runs again'),
    90,
    `The demo does not start its application again:\n${first.words()}`,
  )
  expect(first.words()).toContain('The application ended by itself (SIGKILL): starting it again')
  await until(() => answers(`${app}/health/ready`), 60, 'The application is not ready again')

  first.child.kill('SIGKILL')
  await until(async () => !(await answers(`${app}/health/live`)), 60, 'The application outlives its script')
  const second = start()
  const appAgain = await serving(second.words)
  expect(second.words()).not.toContain('Loading the demo workspace')
  await until(() => answers(`${appAgain}/fernhollow/damage-triage`), 60, 'The demo’s pages are not there again')

  const database = databaseProcess()
  second.child.kill('SIGTERM')
  expect(await second.ended).toBe(0)
  expect(isAlive(database), 'the database runs on').toBe(false)
  expect(await answers(`${appAgain}/health/live`), 'the application runs on').toBe(false)
}, 400_000)
