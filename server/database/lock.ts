import type pg from 'pg'
import { type Database, onConnection } from './connection'

/**
 * Runs work while holding a lock that ends with the process, or returns false at once where somebody else holds it.
 * Keeps two processes from making the same room or sending the same mail.
 */
export async function withLock(pool: pg.Pool, name: string, work: (db: Database) => Promise<void>): Promise<boolean> {
  const client = await pool.connect()
  let broken: Error | undefined
  try {
    const { rows } = await client.query<{ locked: boolean }>('select pg_try_advisory_lock(hashtextextended($1, 0)) as locked', [name])
    if (!rows[0]?.locked) return false
    try {
      await work(onConnection(client))
    } finally {
      await client.query('select pg_advisory_unlock(hashtextextended($1, 0))', [name])
    }
    return true
  } catch (error) {
    broken = error instanceof Error ? error : new Error(String(error))
    throw error
  } finally {
    client.release(broken)
  }
}
