import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import pg from 'pg'
import { afterAll, beforeAll, inject } from 'vitest'
import { freePort } from '../../scripts/run/ports'
import type { Started } from '../../scripts/run/processes'
import { startApp } from '../../scripts/run/services'
import type { Context } from '../../server/context'
import { closeContext, makeContext } from '../../server/start'
import { startDatabaseProxy, type DatabaseProxy } from './database-proxy'

/** An application of a test file's own, on a database of its own, that can be killed, restarted and cut off. */
export interface OwnApplication {
  url: string
  folder: string
  environment: Record<string, string>
  /** The same database, reached directly. */
  context: Context
  process: Started
  database: DatabaseProxy
  start: (more?: Record<string, string>) => Promise<void>
}

export function useApplication(name: string, more: Record<string, string> = {}): OwnApplication {
  const own = {} as OwnApplication
  beforeAll(async () => {
    const database = new URL(inject('databaseUrl'))
    const client = new pg.Client({ connectionString: database.href })
    await client.connect()
    await client.query(`drop database if exists ${name} with (force)`)
    await client.query(`create database ${name}`)
    await client.end()
    database.pathname = `/${name}`
    const given = new Set<number>()
    const appPort = await freePort(inject('serverPort') + 60, given)
    own.database = await startDatabaseProxy(Number(database.port))
    own.folder = join(inject('folder'), name)
    mkdirSync(own.folder, { recursive: true })
    own.url = `http://127.0.0.1:${appPort}`
    const direct = {
      ...inject('environment'),
      DATABASE_URL: database.href,
      BASE_URL: own.url,
      PORT: String(appPort),
      RETRY_PACE: '0.5',
      ...more,
    }
    own.context = await makeContext(direct)
    database.port = String(own.database.port)
    own.environment = { ...direct, DATABASE_URL: database.href }
    own.start = async (changed = {}) => {
      own.process = await startApp(
        { folder: own.folder, appPort },
        { ...own.environment, ...changed },
      )
    }
    await own.start()
  })
  afterAll(async () => {
    await own.process?.stop()
    await closeContext(own.context)
    await own.database.close()
  })
  return own
}
