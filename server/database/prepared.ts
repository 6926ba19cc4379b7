import { createHash } from 'node:crypto'
import type pg from 'pg'

/**
 * Has the server prepare each statement once a connection, so that only its name and values are sent after that: parsing
 * and planning cost more than most of our statements do. Statements are identified by their text.
 */

/** Statements that are prepared at most; beyond that, rare ones go as they are. */
const MOST_PREPARED = 400

const names = new Map<string, string>()

function nameOf(text: string): string | undefined {
  const known = names.get(text)
  if (known !== undefined || names.size >= MOST_PREPARED) return known
  const name = createHash('sha256').update(text).digest('base64url').slice(0, 32)
  names.set(text, name)
  return name
}

/** A statement that may come again, with values that the server is sent apart. */
const REPEATED = /^\s*(select|insert|update|delete|with)\b/i

/** From now on, this client has its statements prepared. */
export function prepareStatements(client: pg.PoolClient): void {
  const query = client.query.bind(client) as (config: unknown, ...rest: unknown[]) => unknown
  const prepared = (config: unknown, ...rest: unknown[]) => query(withName(config), ...rest)
  client.query = prepared as typeof client.query
}

function withName(config: unknown): unknown {
  if (typeof config !== 'object' || config === null || 'submit' in config || !('text' in config) || typeof config.text !== 'string')
    return config
  if (('name' in config && config.name) || !REPEATED.test(config.text)) return config
  const name = nameOf(config.text)
  return name === undefined ? config : { ...config, name }
}
