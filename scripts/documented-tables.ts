import { consequencesTable } from './consequences-table'
import { rightsTable } from './rights-table'

/** Tables that the documentation shows as the code has them. */
export const documentedTables = [
  { file: 'docs/consequences.md', table: consequencesTable },
  { file: 'docs/rights.md', table: rightsTable },
] as const
