import { drizzle, type NodePgQueryResultHKT } from 'drizzle-orm/node-postgres'
import type { PgDatabase } from 'drizzle-orm/pg-core'
import pg from 'pg'
import { prepareStatements } from './prepared'
import * as schema from './schema'

/** A handle that queries run on: the pool itself or one transaction. */
export type Database = PgDatabase<NodePgQueryResultHKT, typeof schema>

/** A database that does not answer is noticed within these times rather than waited for. Milliseconds. */
const CONNECT_TIMEOUT = 4_000
const STATEMENT_TIMEOUT = 20_000
/** Counted by this side, for a server that has gone silent: longer than the server takes to give up a statement itself. */
const QUERY_TIMEOUT = 25_000

export function connect(url: string, connections = 30): { pool: pg.Pool, db: Database } {
  const pool = new pg.Pool({
    connectionString: url,
    max: connections,
    connectionTimeoutMillis: CONNECT_TIMEOUT,
    statement_timeout: STATEMENT_TIMEOUT,
    query_timeout: QUERY_TIMEOUT,
    idle_in_transaction_session_timeout: STATEMENT_TIMEOUT * 2,
    keepAlive: true,
  })
  // A connection that breaks while idle is replaced by the pool; without a listener it would end the process.
  pool.on('error', () => {})
  pool.on('connect', (client) => {
    client.on('error', () => {})
    prepareStatements(client)
  })
  return { pool, db: drizzle(pool, { schema }) }
}

const handles = new WeakMap<pg.PoolClient, Database>()

/** A handle on one connection of its own, for work that needs a session-level lock. */
export function onConnection(client: pg.PoolClient): Database {
  const known = handles.get(client)
  if (known) return known
  const handle = drizzle(client, { schema })
  handles.set(client, handle)
  return handle
}
