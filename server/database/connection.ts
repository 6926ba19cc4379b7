import { drizzle, type NodePgQueryResultHKT } from 'drizzle-orm/node-postgres'
import type { PgDatabase } from 'drizzle-orm/pg-core'
import pg from 'pg'
import * as schema from './schema'

/** A handle that queries run on: the pool itself or one transaction. */
export type Database = PgDatabase<NodePgQueryResultHKT, typeof schema>

export function connect(url: string, connections = 20): { pool: pg.Pool, db: Database } {
  const pool = new pg.Pool({ connectionString: url, max: connections })
  // A connection that breaks while idle is replaced by the pool; without a listener it would end the process.
  pool.on('error', () => {})
  pool.on('connect', client => client.on('error', () => {}))
  return { pool, db: drizzle(pool, { schema }) }
}

/** A handle on one connection of its own, for work that needs a session-level lock. */
export function onConnection(client: pg.PoolClient): Database {
  return drizzle(client, { schema })
}

/** The SQLSTATE and constraint of a failed query, wherever in the chain of causes they stand. */
export function databaseFault(error: unknown): { code: string, constraint: string } | null {
  for (let cause = error; cause instanceof Error; cause = cause.cause) {
    if (cause instanceof pg.DatabaseError) return { code: cause.code ?? '', constraint: cause.constraint ?? '' }
  }
  return null
}
