import { getTableColumns, type InferInsertModel, sql, type SQL } from 'drizzle-orm'
import { PgJson, PgJsonb, type PgTable } from 'drizzle-orm/pg-core'
import { addJobs, type PlannedJob } from '../jobs/queue'
import type { Database } from './connection'

/** What must hold when the statement runs, or nothing is written. */
export interface Guard {
  /** Queries that it names, `name as (…)`, separated by commas; they may lock rows and write some. */
  queries: SQL
  condition: SQL
}

/**
 * Rows and jobs that are written together by one statement: each statement costs a way to the database and back, which is
 * most of what a small one costs. Foreign keys are checked when all rows are there; constraints hold as always.
 */
export class Batch {
  private readonly parts: SQL[] = []
  private readonly jobs: PlannedJob[] = []

  constructor(private readonly guard: Guard | null = null) {}

  /** Adds rows of one table, all with the same columns; the others are at their defaults. `onConflict` is what follows those words. */
  insert<Table extends PgTable>(table: Table, rows: InferInsertModel<Table>[], { onConflict }: { onConflict?: SQL } = {}): void {
    const [first] = rows
    if (!first) return
    const columns = Object.entries(getTableColumns(table)).filter(([key]) => key in first)
    const records = rows.map(row => Object.fromEntries(columns.map(([key, column]) => {
      const value: unknown = Reflect.get(row, key)
      // JSON stays JSON; everything else is text that the column's type reads.
      const isJson = column instanceof PgJson || column instanceof PgJsonb
      return [column.name, value === null || value === undefined || isJson ? value ?? null : column.mapToDriverValue(value)]
    })))
    const names = sql.join(columns.map(([, column]) => sql.identifier(column.name)), sql`, `)
    this.parts.push(
      sql`insert into ${table} (${names}) select ${names} from json_populate_recordset(null::${table}, ${JSON.stringify(records)}::json)${this.guard ? sql` where ${this.guard.condition}` : sql``}${onConflict ? sql` on conflict ${onConflict}` : sql``}`,
    )
  }

  /** Adds an update of rows which are there already; it must end with its `where`. */
  update(statement: SQL): void {
    this.parts.push(this.guard ? sql`${statement} and ${this.guard.condition}` : statement)
  }

  plan(...jobs: PlannedJob[]): void {
    this.jobs.push(...jobs)
  }

  /** Writes all of it, and nothing where the guard does not hold: then it returns false. */
  async write(db: Database): Promise<boolean> {
    if (this.parts.length === 0 && this.jobs.length === 0) return true
    const { guard } = this
    const steps = this.parts.map((part, index) => sql`${sql.identifier(`step_${index}`)} as (${part})`)
    const queries = sql.join([...guard ? [guard.queries] : [], ...steps], sql`, `)
    const jobs = this.jobs.length > 0 ? addJobs(this.jobs) : sql`null`
    const result = guard
      ? sql`select ${guard.condition} as holds, case when ${guard.condition} then (select count(*) from (select ${jobs}) as planned) end`
      : sql`select true as holds, ${jobs}`
    const { rows } = await db.execute<{ holds: boolean }>(sql`${guard || steps.length > 0 ? sql`with ${queries} ` : sql``}${result}`)
    return rows.length === 0 || rows[0]?.holds === true
  }
}
