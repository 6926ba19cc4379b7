import { join, resolve } from 'node:path'
import { answers, type Started, startProcess, until } from './processes'

/** The two programs of an installation beside its database: the stand-ins and the application. */

export interface Places {
  folder: string
  appPort: number
  lanternPort: number
  copperplatePort: number
  quaysidePort: number
  tollgatePort: number
  pigeonholePort: number
  smtpPort: number
}

export interface Secrets {
  secret: string
  lanternSecret: string
  copperplateSecret: string
  textsToken: string
}

/** Where the stand-ins keep what they were given, within the installation's folder. */
export const STAND_INS = 'stand-ins'

export const LANTERN_CLIENT = 'temporia-demo'
export const COPPERPLATE_CLIENT = 'temporia-demo'

/** Who has an account of the stand-ins from the start. */
export interface StandInAccounts {
  lantern: { name: string, email: string }[]
  copperplate: unknown[]
  quayside: unknown[]
  tollgate: unknown[]
}

/** Settings of the application as they go into its environment. */
export function appEnvironment(
  places: Places,
  secrets: Secrets,
  databaseUrl: string,
  more: Record<string, string> = {},
): Record<string, string> {
  return {
    NODE_ENV: 'production',
    DATABASE_URL: databaseUrl,
    TEMPORIA_SECRET: secrets.secret,
    BASE_URL: `http://127.0.0.1:${places.appPort}`,
    SMTP_URL: `smtp://127.0.0.1:${places.smtpPort}`,
    MAIL_FROM: 'bookings@fernhollow.example',
    TEXTS_URL: `http://127.0.0.1:${places.pigeonholePort}/texts`,
    TEXTS_TOKEN: secrets.textsToken,
    TEXTS_SENDER: 'Fernhollow',
    LANTERN_URL: `http://127.0.0.1:${places.lanternPort}`,
    LANTERN_CLIENT_ID: LANTERN_CLIENT,
    LANTERN_CLIENT_SECRET: secrets.lanternSecret,
    TOLLGATE_URL: `http://127.0.0.1:${places.tollgatePort}`,
    QUAYSIDE_URL: `http://127.0.0.1:${places.quaysidePort}`,
    // The stand-ins listen where nothing that people name may lead.
    ALLOWED_HOSTS: [process.env['ALLOWED_HOSTS'], `127.0.0.1:${places.copperplatePort}`].filter(Boolean).join(','),
    CALENDAR_SERVERS: JSON.stringify([{
      key: 'copperplate',
      name: 'Copperplate Calendar',
      address: `http://127.0.0.1:${places.copperplatePort}/dav/`,
      authorizeUrl: `http://127.0.0.1:${places.copperplatePort}/consent`,
      tokenUrl: `http://127.0.0.1:${places.copperplatePort}/token`,
      clientId: COPPERPLATE_CLIENT,
      clientSecret: secrets.copperplateSecret,
    }]),
    MIGRATIONS: resolve('server/database/migrations'),
    HOST: '127.0.0.1',
    PORT: String(places.appPort),
    NITRO_SHUTDOWN_TIMEOUT: '3000',
    ...more,
  }
}

export async function startStandIns(places: Places, secrets: Secrets, accounts: StandInAccounts): Promise<Started> {
  const log = join(places.folder, 'stand-ins.log')
  const started = startProcess('the stand-ins', process.execPath, ['--import', 'tsx', 'stand-ins/main.ts'], {
    logFile: log,
    ipc: true,
    env: {
      ...process.env,
      STAND_INS_FOLDER: join(places.folder, STAND_INS),
      LANTERN_PORT: String(places.lanternPort),
      LANTERN_CLIENT_ID: LANTERN_CLIENT,
      LANTERN_CLIENT_SECRET: secrets.lanternSecret,
      LANTERN_ACCOUNTS: JSON.stringify(accounts.lantern),
      COPPERPLATE_PORT: String(places.copperplatePort),
      COPPERPLATE_CLIENT_ID: COPPERPLATE_CLIENT,
      COPPERPLATE_CLIENT_SECRET: secrets.copperplateSecret,
      COPPERPLATE_ACCOUNTS: JSON.stringify(accounts.copperplate),
      QUAYSIDE_PORT: String(places.quaysidePort),
      QUAYSIDE_ACCOUNTS: JSON.stringify(accounts.quayside),
      TOLLGATE_PORT: String(places.tollgatePort),
      TOLLGATE_MERCHANTS: JSON.stringify(accounts.tollgate),
      PIGEONHOLE_PORT: String(places.pigeonholePort),
      SMTP_PORT: String(places.smtpPort),
      TEXTS_TOKEN: secrets.textsToken,
    },
  })
  await waitFor(started, `http://127.0.0.1:${places.pigeonholePort}/`, log)
  return started
}

const DEV_COMMAND = ['node_modules/nuxt/bin/nuxt.mjs', 'dev', '--no-fork']

export async function startApp(places: Pick<Places, 'folder' | 'appPort'>, environment: Record<string, string>, dev = false): Promise<Started> {
  const log = join(places.folder, 'app.log')
  const started = startProcess(
    'the application',
    process.execPath,
    ['--import', resolve('scripts/run/with-parent.mjs'), ...(dev ? DEV_COMMAND : [...MEMORY, '.output/server/index.mjs'])],
    {
      logFile: log,
      ipc: true,
      env: { ...process.env, ...environment, ...(dev ? { NODE_ENV: 'development' } : {}) },
    },
  )
  await waitFor(started, `http://127.0.0.1:${places.appPort}/health/ready`, log)
  return started
}

/**
 * As `npm start` has it: left to itself, the process keeps what is no longer needed until it has twice the memory, and copies
 * what a large answer is made of again and again while it is made.
 */
const MEMORY = ['--max-old-space-size=640', '--max-semi-space-size=32']
const START_SECONDS = 60

async function waitFor(started: Started, url: string, log: string): Promise<void> {
  await until(() => {
    if (started.child.exitCode !== null) throw new Error(`${started.name} did not start; see ${log}`)
    return answers(url)
  }, START_SECONDS, `${started.name} does not answer after ${START_SECONDS} s; see ${log}`)
}
