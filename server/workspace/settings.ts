import { and, eq, like, ne, sql } from 'drizzle-orm'
import { slugFrom } from '../../core/event-type/definition'
import { DELETION_SECONDS, ownPaths, type WorkspaceSettings, type WorkspaceSettingsView } from '../../core/workspace'
import { type Context, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { hosts, workspaceAddresses, workspaces } from '../database/schema'
import { planFailingRooms } from '../rooms'

/** What a workspace's owner decides about it as a whole. */

export async function viewWorkspace({ db, settings }: Context, workspaceId: string): Promise<WorkspaceSettingsView | null> {
  const [row] = await db.select().from(workspaces).where(eq(workspaces.id, workspaceId))
  if (!row) return null
  const earlier = await db.select({ slug: workspaceAddresses.slug }).from(workspaceAddresses)
    .where(eq(workspaceAddresses.workspaceId, workspaceId)).orderBy(workspaceAddresses.slug)
  const { slug, name, about, timeZone, countsCancelled, countsMissed, stopsSilent, roomWays, roomPattern, calendarLinks, quietHours } = row
  return {
    slug, name, about, timeZone, countsCancelled, countsMissed, stopsSilent, roomWays, roomPattern, calendarLinks, quietHours,
    hostReach: row.hostReach,
    base: settings.baseUrl, earlier: earlier.map(address => address.slug), deletion: deletionOf(row),
  }
}

export type UpdateOutcome = 'saved' | 'addressTaken' | 'addressReserved'

/** Changes them; an address that the workspace had before goes on leading to it. */
export async function updateWorkspace({ db, now }: Context, workspaceId: string, changed: WorkspaceSettings): Promise<UpdateOutcome> {
  if (ownPaths.includes(changed.slug)) return 'addressReserved'
  return db.transaction(async (tx) => {
    await lockAddresses(tx)
    const [current] = await tx.select({ slug: workspaces.slug, stopsSilent: workspaces.stopsSilent }).from(workspaces).where(eq(workspaces.id, workspaceId)).for('update')
    if (current && current.slug !== changed.slug) {
      if (await isTaken(tx, workspaceId, changed.slug)) return 'addressTaken'
      // One that is taken back is no longer an earlier one.
      await tx.delete(workspaceAddresses).where(eq(workspaceAddresses.slug, changed.slug))
      await tx.insert(workspaceAddresses).values({ workspaceId, slug: current.slug })
    }
    if (current && current.stopsSilent !== changed.stopsSilent)
      await tx.update(hosts).set({ takenStamp: sql`${hosts.takenStamp} + 1` }).where(eq(hosts.workspaceId, workspaceId))
    await tx.update(workspaces).set(changed).where(eq(workspaces.id, workspaceId))
    await planFailingRooms(tx, workspaceId, now())
    return 'saved'
  })
}

async function isTaken(tx: Database, workspaceId: string, slug: string): Promise<boolean> {
  const [now] = await tx.select({ id: workspaces.id }).from(workspaces)
    .where(and(eq(workspaces.slug, slug), ne(workspaces.id, workspaceId)))
  const [before] = await tx.select({ id: workspaceAddresses.workspaceId }).from(workspaceAddresses)
    .where(and(eq(workspaceAddresses.slug, slug), ne(workspaceAddresses.workspaceId, workspaceId)))
  return now !== undefined || before !== undefined
}

/** Present and earlier addresses stand in two tables: whoever gives one out holds this until the transaction ends. */
export async function lockAddresses(tx: Database): Promise<void> {
  await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended('workspace addresses', 0))`)
}

/** An address made from a name that no workspace has or had. */
export async function freeWorkspaceSlug(tx: Database, name: string): Promise<string> {
  const base = slugFrom(name, new Set())
  const now = await tx.select({ slug: workspaces.slug }).from(workspaces).where(like(workspaces.slug, `${base}%`))
  const before = await tx.select({ slug: workspaceAddresses.slug }).from(workspaceAddresses)
    .where(like(workspaceAddresses.slug, `${base}%`))
  return slugFrom(base, new Set([...ownPaths, ...[...now, ...before].map(row => row.slug)]))
}

type Row = Pick<typeof workspaces.$inferSelect, 'deletionAskedAt' | 'deletionAskedBy'>

function deletionOf({ deletionAskedAt, deletionAskedBy }: Row): WorkspaceSettingsView['deletion'] {
  return deletionAskedAt && { by: deletionAskedBy ?? '', at: secondsOf(deletionAskedAt) + DELETION_SECONDS }
}
