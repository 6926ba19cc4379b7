import { migrate } from 'drizzle-orm/node-postgres/migrator'
import { drizzle } from 'drizzle-orm/node-postgres'
import { runMigrations } from 'graphile-worker'
import type pg from 'pg'

/** Any number that only this uses: processes that start together migrate one after the other. */
const MIGRATION_LOCK = 7_304_217

/** Brings the database to the newest schema, forward only. */
export async function migrateDatabase(pool: pg.Pool, folder: string): Promise<void> {
  const client = await pool.connect()
  try {
    await client.query('select pg_advisory_lock($1)', [MIGRATION_LOCK])
    await client.query('set client_min_messages to warning')
    await migrate(drizzle(client), { migrationsFolder: folder })
    await runMigrations({ pgPool: pool })
  } finally {
    await client.query('select pg_advisory_unlock($1)', [MIGRATION_LOCK]).finally(() => client.release())
  }
}
