import type { Database } from './connection'

/**
 * A query that is put together once a connection instead of each time: putting a long one together costs more than
 * sending it. Its values are placeholders.
 */
export function preparedQuery<Query>(build: (db: Database) => Query): (db: Database) => Query {
  const known = new WeakMap<object, Query>()
  return (db) => {
    const { session } = db._
    const before = known.get(session)
    if (before !== undefined) return before
    const query = build(db)
    known.set(session, query)
    return query
  }
}
