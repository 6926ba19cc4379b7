import { and, asc, eq, isNotNull } from 'drizzle-orm'
import type { Database } from '../database/connection'
import { members } from '../database/schema'

/** Everybody who signs in, by name. */
export function listMembers(db: Database, workspaceId: string): Promise<{ id: string, name: string }[]> {
  return db.select({ id: members.id, name: members.name }).from(members)
    .where(and(eq(members.workspaceId, workspaceId), isNotNull(members.accountId))).orderBy(asc(members.name))
}
