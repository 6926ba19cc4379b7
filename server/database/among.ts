import { type AnyColumn, sql, type SQL } from 'drizzle-orm'

/** Whether a column of ids holds one of some: one parameter, however many they are. */
export function among(column: AnyColumn, ids: Iterable<string>): SQL {
  return sql`${column} = any(${sql.param([...ids])}::uuid[])`
}
