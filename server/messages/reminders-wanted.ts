import { and, eq } from 'drizzle-orm'
import type { RemindersView } from '../../core/views/client'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { deliveries, unreminded, workspaces } from '../database/schema'
import { deliveryOfReminderToken } from '../secrets'

/** Whoever gets reminders can end them, for all bookings with a workspace, and have them again. */

interface Reader {
  workspaceId: string
  workspace: RemindersView['workspace']
  address: string
}

const isReader = ({ workspaceId, address }: Pick<Reader, 'workspaceId' | 'address'>) =>
  and(eq(unreminded.workspaceId, workspaceId), eq(unreminded.address, address.toLowerCase()))

/** Null for a token that is none, or whose reminder is gone. */
export async function remindersWanted(context: Context, token: string): Promise<RemindersView | null> {
  const reader = await readerOf(context, token)
  return reader && { workspace: reader.workspace, address: reader.address, wanted: await wantsReminders(context.db, reader) }
}

export async function setRemindersWanted(context: Context, token: string, wanted: boolean): Promise<RemindersView | null> {
  const reader = await readerOf(context, token)
  if (!reader) return null
  const { workspaceId, workspace, address } = reader
  if (wanted) await context.db.delete(unreminded).where(isReader(reader))
  else {
    await context.db.insert(unreminded).values({ workspaceId, address: address.toLowerCase(), at: dateOf(context.now()) })
      .onConflictDoNothing()
  }
  return { workspace, address, wanted }
}

export async function wantsReminders(db: Database, reader: Pick<Reader, 'workspaceId' | 'address'>): Promise<boolean> {
  return await db.$count(unreminded, isReader(reader)) === 0
}

async function readerOf({ db, settings }: Context, token: string): Promise<Reader | null> {
  const delivery = deliveryOfReminderToken(settings.secret, token)
  if (!delivery) return null
  const [found] = await db.select({
    workspaceId: workspaces.id, workspace: { slug: workspaces.slug, name: workspaces.name }, address: deliveries.address,
  }).from(deliveries)
    .innerJoin(workspaces, eq(workspaces.id, deliveries.workspaceId))
    .where(and(eq(deliveries.workspaceId, delivery.workspaceId), eq(deliveries.id, delivery.id)))
  return found ?? null
}
