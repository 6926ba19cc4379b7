import { getTableColumns, type InferSelectModel, sql, type SQL } from 'drizzle-orm'
import type { PgTable } from 'drizzle-orm/pg-core'

/**
 * Rows of one table as a column of the rows around them, so that a thing and its parts are read by one query. For tables
 * whose columns JSON can hold: no timestamps, no bytes.
 */
export function jsonRows<Table extends PgTable>(
  table: Table, { from, where, orderBy }: { from: SQL, where: SQL | undefined, orderBy: SQL },
): SQL<InferSelectModel<Table>[]> {
  const members = Object.entries(getTableColumns(table)).map(([key, column]) => sql`${sql.raw(`'${key}'`)}, ${column}`)
  const rows = sql`select coalesce(json_agg(json_build_object(${sql.join(members, sql`, `)}) order by ${orderBy}), '[]') from ${from} where ${where}`
  return sql`(${rows})`
}
