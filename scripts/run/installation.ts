import { randomBytes } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { calendarAccounts } from '../../demo/calendars'
import { isEmpty, loadDemo } from '../../demo/load'
import { people } from '../../demo/people'
import { tollgateMerchant } from '../../demo/payments'
import { quaysideAccount } from '../../demo/video'
import { closeContext, makeContext } from '../../server/start'
import { build, isBuilt } from './build'
import { type Cluster, removeCluster, startCluster } from './cluster'
import { freePort } from './ports'
import type { Started } from './processes'
import { log, step } from './report'
import { supervise } from './supervise'
import { appEnvironment, type Places, type Secrets, STAND_INS, startApp, startStandIns } from './services'

/** A whole installation in one folder: database, stand-ins and application, with the demo workspace in it. */

export interface Installation {
  places: Places
  secrets: Secrets
  environment: Record<string, string>
  databaseUrl: string
  restartApp: (more?: Record<string, string>) => Promise<void>
  app: () => Started
  stop: () => Promise<void>
}

export interface InstallationOptions {
  throwAway?: boolean
  dev?: boolean
  more?: Record<string, string>
  /** Starts the application and the stand-ins again when they end by themselves. */
  supervised?: boolean
  /** The first port to look for free ones from. */
  firstPort?: number
}

export async function startInstallation(folder: string, options: InstallationOptions = {}): Promise<Installation> {
  mkdirSync(folder, { recursive: true })
  const places = await choosePorts(folder, options.firstPort ?? FIRST_PORT)
  const secrets = loadOrCreateSecrets(folder)
  const running: (Started | Cluster)[] = []
  const stop = async () => {
    for (const item of running.splice(0).reverse()) await item.stop()
  }
  if (options.throwAway) whenInterrupted(() => stop().finally(() => removeInstallation(folder)))
  try {
    const cluster = await step('Starting PostgreSQL', () => startCluster(folder, places.databasePort, options.throwAway))
    running.push(cluster)
    const loading = join(folder, 'loading')
    const cutShort = existsSync(loading)
    if (cutShort) {
      log('The demo workspace was not loaded to its end last time: starting it over')
      rmSync(join(folder, STAND_INS), { recursive: true, force: true })
    }
    const databaseUrl = await cluster.database('temporia', cutShort)
    if (!options.dev && !isBuilt()) await step('Building the application (a minute or two)', build)
    const accounts = {
      lantern: people.filter(person => person.hours).map(({ name, email }) => ({ name, email })),
      copperplate: calendarAccounts,
      quayside: [quaysideAccount],
      tollgate: [tollgateMerchant],
    }
    const standIns = await step('Starting the stand-ins', () => startStandIns(places, secrets, accounts))
    running.push(options.supervised ? supervise(standIns, () => startStandIns(places, secrets, accounts)) : standIns)
    const environment = appEnvironment(places, secrets, databaseUrl, options.more)
    await loadWhenEmpty(environment, loading)
    let app = await step('Starting the application', () => startApp(places, environment, options.dev))
    if (options.supervised) app = supervise(app, () => startApp(places, environment, options.dev))
    const slot = { name: 'app', child: app.child, stop: (signal?: NodeJS.Signals) => app.stop(signal) }
    running.push(slot)
    return {
      places,
      secrets,
      environment,
      databaseUrl,
      app: () => app,
      restartApp: async (more = {}) => {
        await app.stop()
        app = await startApp(places, { ...environment, ...more }, options.dev)
      },
      stop,
    }
  } catch (error) {
    await stop()
    throw error
  }
}

/** Ctrl-C leaves nothing behind of what nobody comes back to. */
function whenInterrupted(tidyUp: () => Promise<void>): void {
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => void tidyUp().finally(() => process.exit(130)))
}

/** Gives jobs a process of their own, as busy installations have it. */
export async function separateJobs({ places, environment, restartApp }: Installation): Promise<Started> {
  const port = await freePort(places.appPort + 1, new Set())
  const jobs = await startApp({ ...places, appPort: port }, { ...environment, PORT: String(port), ROLE: 'jobs' })
  await restartApp({ ROLE: 'web' })
  return jobs
}

/** The mark stands while loading goes on, so that a kill in the middle is seen at the next start. */
async function loadWhenEmpty(environment: Record<string, string>, mark: string): Promise<void> {
  // One connection for all its mails: the server of the stand-in greets slowly.
  const context = await makeContext({ ...environment, SMTP_URL: `${environment['SMTP_URL']}?pool=true` })
  try {
    if (!(await isEmpty(context))) return
    writeFileSync(mark, '')
    await step('Loading the demo workspace', () => loadDemo(context))
    rmSync(mark)
  } finally {
    await closeContext(context)
  }
}

const FIRST_PORT = 4310

type AllPlaces = Places & { databasePort: number }

/** The same ports as last time where they are free, so that links in old mails still lead somewhere. */
async function choosePorts(folder: string, first: number): Promise<AllPlaces> {
  const file = join(folder, 'ports.json')
  const before: Partial<AllPlaces> = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : {}
  const given = new Set<number>()
  const places = {
    folder,
    appPort: await freePort(before.appPort ?? first, given),
    lanternPort: await freePort(before.lanternPort ?? first + 10, given),
    pigeonholePort: await freePort(before.pigeonholePort ?? first + 20, given),
    smtpPort: await freePort(before.smtpPort ?? first + 30, given),
    copperplatePort: await freePort(before.copperplatePort ?? first + 50, given),
    quaysidePort: await freePort(before.quaysidePort ?? first + 55, given),
    tollgatePort: await freePort(before.tollgatePort ?? first + 60, given),
    databasePort: await freePort(before.databasePort ?? first + 40, given),
  }
  writeFileSync(file, JSON.stringify(places))
  return places
}

function loadOrCreateSecrets(folder: string): Secrets {
  const file = join(folder, 'secrets.json')
  const known: Partial<Secrets> = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : {}
  const secret = () => randomBytes(32).toString('hex')
  const secrets = { secret: secret(), lanternSecret: secret(), copperplateSecret: secret(), textsToken: secret(), ...known }
  writeFileSync(file, JSON.stringify(secrets), { mode: 0o600 })
  return secrets
}

export async function removeInstallation(folder: string): Promise<void> {
  await removeCluster(folder)
  rmSync(folder, { recursive: true, force: true })
}
